/** Every kind of quantity that a build holds, with the units that people type for it.
 *
 * The first unit of a kind is the document's own. This folder alone converts on the page. */

export interface Unit {
  /** As written after a number. */
  readonly symbol: string;
  /** Other ways to type it, in lower case. */
  readonly aliases: readonly string[];
  readonly toDocument: (value: number) => number;
  readonly fromDocument: (value: number) => number;
}

export const unitSets = ['metric', 'us', 'mixed'] as const;
export type UnitSet = (typeof unitSets)[number];

/** A reader's units: a set, and single quantities that they want otherwise, by name. */
export interface Units {
  readonly set: UnitSet;
  readonly own: Readonly<Record<string, string>>;
  /** What the workshop writes after prices; nothing where it has not said. */
  readonly currency?: string;
}

export const METRIC: Units = { set: 'metric', own: {} };
export const US: Units = { set: 'us', own: {} };
export const MIXED: Units = { set: 'mixed', own: {} };

export interface Kind {
  readonly units: readonly Unit[];
  readonly shown: Record<UnitSet, string>;
  /** Decimals by unit symbol; digits that are true, no more. */
  readonly decimals: Record<string, number>;
}

function scaled(symbol: string, factor: number, ...aliases: string[]): Unit {
  return {
    symbol,
    aliases,
    toDocument: (value) => value * factor,
    fromDocument: (value) => value / factor,
  };
}

function plain(symbol: string, decimals: number, ...aliases: string[]): Kind {
  return {
    units: [scaled(symbol, 1, ...aliases)],
    shown: { metric: symbol, us: symbol, mixed: symbol },
    decimals: { [symbol]: decimals },
  };
}

const fahrenheit: Unit = {
  symbol: '°F',
  aliases: ['f', 'degf', 'deg f', '° f', 'fahrenheit'],
  toDocument: (value) => (value - 32) / 1.8,
  fromDocument: (value) => value * 1.8 + 32,
};
const kelvin: Unit = {
  symbol: 'K',
  aliases: ['k', 'kelvin'],
  toDocument: (value) => value - 273.15,
  fromDocument: (value) => value + 273.15,
};
const finsPerInch: Unit = {
  symbol: 'fpi',
  aliases: ['fins per inch', 'fins/in', '/in', 'per inch'],
  toDocument: (value) => 25.4 / value,
  fromDocument: (value) => 25.4 / value,
};
const inch = scaled('in', 25.4, '"', 'inch', 'inches', '″');
const millimetre = scaled('mm', 1, 'millimetre', 'millimeter', 'millimetres');
const centimetre = scaled('cm', 10);
const metreAsMm = scaled('m', 1000);

export const kinds = {
  temperature: {
    units: [scaled('°C', 1, 'c', 'degc', 'deg c', '° c', 'celsius'), fahrenheit, kelvin],
    shown: { metric: '°C', us: '°F', mixed: '°C' },
    decimals: { '°C': 0, '°F': 0, K: 0 },
  },
  temperature_difference: {
    units: [scaled('K', 1, 'k', '°c', 'c', 'c°'), scaled('F°', 1 / 1.8, '°f', 'f', 'degf')],
    shown: { metric: 'K', us: 'F°', mixed: 'K' },
    decimals: { K: 0, 'F°': 0 },
  },
  pressure: {
    units: [
      scaled('kPa', 1, 'kpa'),
      scaled('bar', 100),
      scaled('psi', 6.894757, 'psig', 'lb', 'lbs'),
      scaled('mbar', 0.1),
      scaled('kgf/cm²', 98.0665, 'kgf/cm2', 'kg/cm2'),
    ],
    shown: { metric: 'kPa', us: 'psi', mixed: 'psi' },
    decimals: { kPa: 0, bar: 2, psi: 1 },
  },
  air_pressure: {
    units: [
      scaled('Pa', 1, 'pa'),
      scaled('inH₂O', 249.089, 'inh2o', 'in h2o', 'in wc'),
      scaled('mbar', 100),
    ],
    shown: { metric: 'Pa', us: 'inH₂O', mixed: 'Pa' },
    decimals: { Pa: 0, 'inH₂O': 2 },
  },
  length: {
    units: [millimetre, inch, centimetre, metreAsMm],
    shown: { metric: 'mm', us: 'in', mixed: 'mm' },
    decimals: { mm: 0, in: 1 },
  },
  small_length: {
    units: [millimetre, inch],
    shown: { metric: 'mm', us: 'in', mixed: 'mm' },
    decimals: { mm: 2, in: 4 },
  },
  fin_pitch: {
    units: [millimetre, finsPerInch],
    shown: { metric: 'mm', us: 'fpi', mixed: 'fpi' },
    decimals: { mm: 2, fpi: 1 },
  },
  area: {
    units: [scaled('m²', 1, 'm2'), scaled('ft²', 0.09290304, 'ft2', 'sq ft')],
    shown: { metric: 'm²', us: 'ft²', mixed: 'm²' },
    decimals: { 'm²': 2, 'ft²': 1 },
  },
  volume: {
    units: [
      scaled('L', 1, 'l', 'litre', 'litres', 'liter'),
      scaled('qt', 0.946352946, 'quart', 'quarts'),
      scaled('gal', 3.785411784, 'gallon', 'gallons'),
      scaled('mL', 0.001, 'ml', 'cc'),
    ],
    shown: { metric: 'L', us: 'qt', mixed: 'L' },
    decimals: { L: 1, qt: 1 },
  },
  displacement: {
    units: [
      scaled('L', 1, 'l', 'litre', 'litres', 'liter'),
      scaled('cu in', 0.016387064, 'ci', 'cid', 'in3', 'in³'),
      scaled('cc', 0.001, 'cm3', 'ml', 'cm³', 'ccm'),
    ],
    shown: { metric: 'L', us: 'cu in', mixed: 'L' },
    decimals: { L: 1, 'cu in': 0 },
  },
  mass: {
    units: [scaled('kg', 1), scaled('lb', 0.45359237, 'lbs', 'pounds'), scaled('t', 1000)],
    shown: { metric: 'kg', us: 'lb', mixed: 'kg' },
    decimals: { kg: 0, lb: 0 },
  },
  power: {
    units: [
      scaled('kW', 1, 'kw'),
      scaled('hp', 0.745699872, 'bhp'),
      scaled('PS', 0.73549875, 'ps'),
      scaled('W', 0.001, 'w'),
    ],
    shown: { metric: 'kW', us: 'hp', mixed: 'hp' },
    decimals: { kW: 1, hp: 0 },
  },
  money: plain('', 0),
  electric_power: plain('W', 0, 'w', 'watt'),
  voltage: plain('V', 1, 'v', 'volt', 'volts'),
  fuel_flow: {
    units: [scaled('kg/h', 1), scaled('lb/h', 0.45359237), scaled('g/s', 3.6)],
    shown: { metric: 'kg/h', us: 'lb/h', mixed: 'kg/h' },
    decimals: { 'kg/h': 1, 'lb/h': 1 },
  },
  rotation: plain('rpm', 0, '/min', 'r/min', '1/min'),
  speed: {
    units: [scaled('km/h', 1, 'kph', 'kmh'), scaled('mph', 1.609344, 'mi/h'), scaled('m/s', 3.6)],
    shown: { metric: 'km/h', us: 'mph', mixed: 'mph' },
    decimals: { 'km/h': 0, mph: 0 },
  },
  altitude: {
    units: [scaled('m', 1, 'metres'), scaled('ft', 0.3048, 'feet', "'")],
    shown: { metric: 'm', us: 'ft', mixed: 'ft' },
    decimals: { m: 0, ft: 0 },
  },
  acceleration: {
    units: [scaled('m/s²', 1, 'm/s2'), scaled('g', 9.80665)],
    shown: { metric: 'm/s²', us: 'm/s²', mixed: 'm/s²' },
    decimals: { 'm/s²': 2 },
  },
  airflow: {
    units: [
      scaled('m³/s', 1, 'm3/s'),
      scaled('cfm', 0.000471947443, 'ft3/min', 'ft³/min'),
      scaled('m³/h', 1 / 3600, 'm3/h'),
      scaled('L/s', 0.001, 'l/s'),
    ],
    shown: { metric: 'm³/s', us: 'cfm', mixed: 'cfm' },
    decimals: { 'm³/s': 2, cfm: 0 },
  },
  coolant_flow: {
    units: [
      scaled('L/min', 1, 'l/min', 'lpm'),
      scaled('gal/min', 3.785411784, 'gpm'),
      scaled('L/s', 60, 'l/s'),
    ],
    shown: { metric: 'L/min', us: 'gal/min', mixed: 'L/min' },
    decimals: { 'L/min': 0, 'gal/min': 1 },
  },
  velocity: {
    units: [scaled('m/s', 1), scaled('ft/s', 0.3048)],
    shown: { metric: 'm/s', us: 'ft/s', mixed: 'm/s' },
    decimals: { 'm/s': 1, 'ft/s': 1 },
  },
  density: plain('kg/m³', 2, 'kg/m3'),
  heat_capacity: plain('kJ/K', 0, 'kj/k'),
  conductance: plain('kW/K', 2, 'kw/k'),
  duration: {
    units: [
      scaled('s', 1, 'sec', 'seconds'),
      scaled('min', 60, 'minutes'),
      scaled('h', 3600, 'hours'),
    ],
    shown: { metric: 's', us: 's', mixed: 's' },
    decimals: { s: 0 },
  },
  leg_duration: {
    units: [
      scaled('min', 60, 'minutes'),
      scaled('s', 1, 'sec', 'seconds'),
      scaled('h', 3600, 'hours'),
    ],
    shown: { metric: 'min', us: 'min', mixed: 'min' },
    decimals: { min: 0 },
  },
  angle: plain('°', 0, 'deg', 'degrees'),
  head: {
    units: [scaled('m', 1), scaled('ft', 0.3048, 'feet')],
    shown: { metric: 'm', us: 'ft', mixed: 'm' },
    decimals: { m: 1, ft: 1 },
  },
  share: {
    units: [scaled('%', 0.01, 'percent', 'pct')],
    shown: { metric: '%', us: '%', mixed: '%' },
    decimals: { '%': 0 },
  },
  ratio: plain('', 3),
  count: plain('', 0),
  years: plain('years', 0, 'y', 'year'),
  minutes: {
    units: [scaled('min', 1, 'minutes'), scaled('s', 1 / 60, 'sec'), scaled('h', 60, 'hours')],
    shown: { metric: 'min', us: 'min', mixed: 'min' },
    decimals: { min: 0 },
  },
  leak: {
    units: [scaled('mL/h', 1, 'ml/h'), scaled('fl oz/h', 29.5735295625, 'oz/h')],
    shown: { metric: 'mL/h', us: 'fl oz/h', mixed: 'mL/h' },
    decimals: { 'mL/h': 1, 'fl oz/h': 2 },
  },
} as const satisfies Record<string, Kind>;

export type QuantityName = keyof typeof kinds;

export function kindOf(name: string): Kind {
  const kind = (kinds as Record<string, Kind>)[name];
  if (!kind) throw new Error(`no quantity is called ${name}`);
  return kind;
}

/** The unit in which a reader sees a quantity. */
export function shownUnit(name: string, units: Units): Unit {
  const kind = kindOf(name);
  const find = (symbol: string | undefined) => kind.units.find((unit) => unit.symbol === symbol);
  const unit = find(units.own[name]) ?? find(kind.shown[units.set]);
  if (!unit) throw new Error(`${name} shows an unknown unit`);
  return unit;
}
