import { describe, expect, it } from 'vitest';
import schema from '../api/build.schema.json';
import served from '../api/quantities.json';
import { editable, formatQuantity } from './format';
import { inUnits } from './help';
import { parseQuantity } from './parse';
import { kindOf, kinds, METRIC, MIXED, type QuantityName, type Units, US } from './quantities';

const read = (text: string, kind: string, units: Units = METRIC) => {
  const parsed = parseQuantity(text, kind, units);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe('typed quantities', () => {
  // Exact by definition: the inch, the pound-force per square inch, the US gallon, the foot.
  it.each([
    ['16 psi', 'pressure', 110.316],
    ['1.1 bar', 'pressure', 110],
    ['1,1 bar', 'pressure', 110],
    ['195 F', 'temperature', 90.5556],
    ['195°F', 'temperature', 90.5556],
    ['-40 f', 'temperature', -40],
    ['363.15 K', 'temperature', 90],
    ['18 f', 'temperature_difference', 10],
    ['10 K', 'temperature_difference', 10],
    ['2.5 gal/min', 'coolant_flow', 9.46353],
    ['14 fpi', 'fin_pitch', 1.81429],
    ['22 in', 'length', 558.8],
    ['22"', 'length', 558.8],
    ['1 200 mm', 'length', 1200],
    ['1,200.5', 'length', 1200.5],
    ['1,234,567', 'length', 1234567],
    ['1.234,5', 'length', 1234.5],
    ['1.234.567,8', 'length', 1234567.8],
    ['-1,234.5 mm', 'length', -1234.5],
    ['0,125', 'length', 0.125],
    ['12,5', 'length', 12.5],
    ['1234,567', 'length', 1234.567],
    ['1.5e3', 'length', 1500],
    ['.5', 'length', 0.5],
    ['350 cid', 'displacement', 5.73547],
    ['342 hp', 'power', 255.029],
    ['2500 cfm', 'airflow', 1.17987],
    ['50', 'share', 0.5],
    ['7200 ft', 'altitude', 2194.56],
    ['−5', 'temperature', -5],
    ['1e2', 'rotation', 100],
  ])('%s as %s', (text, kind, value) => {
    expect(read(text, kind)).toBeCloseTo(value, 3);
  });

  it('takes a bare number in the unit that is shown', () => {
    expect(read('16', 'pressure', US)).toBeCloseTo(110.316, 3);
    expect(read('16', 'pressure', METRIC)).toBe(16);
    expect(read('2.0', 'volume')).toBe(2);
  });

  it.each([
    ['wide', 'length', 'is not a number'],
    ['', 'length', 'is not a number'],
    ['5 parsec', 'length', 'is not a unit that fits here. Use mm, in, cm.'],
    ['5 kPa', 'temperature', 'is not a unit that fits here'],
    ['--5', 'length', 'is not a number'],
    ['6,500', 'rotation', '“6,500” can be 6500 or 6.500: leave the comma out, or write a point.'],
    ['−1,200 mm', 'length', 'can be −1200 or −1.200'],
    ['1,23.5', 'length', 'is not a number'],
    ['1.23.4', 'length', 'is not a number'],
    ['1,2,3', 'length', 'is not a number'],
    ['0 fpi', 'fin_pitch', 'cannot be converted'],
  ])('refuses “%s” in words', (text, kind, words) => {
    const parsed = parseQuantity(text, kind, METRIC);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.message).toContain(words);
  });

  it('reads back what an editor shows, in every kind and unit set', () => {
    for (const name of Object.keys(kinds) as QuantityName[]) {
      for (const units of [METRIC, US, MIXED]) {
        for (const value of [1.8143, 12.5, 96]) {
          expect(read(editable(value, name, units), name, units)).toBeCloseTo(value, 1);
        }
      }
    }
  });
});

describe('shown quantities', () => {
  it('are prices as they were given, and what money comes to in whole ones', () => {
    const euro = { ...METRIC, currency: '€' };
    expect(formatQuantity(498.5, 'price', euro)).toBe('498.50 €');
    expect(formatQuantity(498, 'price', euro)).toBe('498 €');
    expect(formatQuantity(498.5, 'price', METRIC)).toBe('498.50');
    expect(formatQuantity(1204.4, 'money', euro)).toBe('1204 €');
  });

  it.each([
    [110.3, 'pressure', 'metric', '110 kPa'],
    [110.316, 'pressure', 'us', '16.0 psi'],
    [0.107, 'pressure', 'metric', '0.11 kPa'],
    [0, 'pressure', 'metric', '0 kPa'],
    [0.0268, 'velocity', 'metric', '0.027 m/s'],
    [1.24, 'velocity', 'metric', '1.2 m/s'],
    [90, 'temperature', 'us', '194 °F'],
    [-37.4, 'temperature', 'metric', '−37 °C'],
    [-0.2, 'temperature', 'metric', '0 °C'],
    [10, 'temperature_difference', 'us', '18 F°'],
    [0.0853, 'airflow', 'metric', '0.085 m³/s'],
    [1.2, 'airflow', 'metric', '1.20 m³/s'],
    [0.5, 'share', 'metric', '50 %'],
    [1.8143, 'fin_pitch', 'us', '14.0 fpi'],
    [4, 'power', 'us', '5.4 hp'],
  ] as const)('%d %s in %s is %s', (value, kind, set, text) => {
    expect(formatQuantity(value, kind, { set, own: {} })).toBe(text);
  });
});

describe('units chosen one by one', () => {
  const own = { set: 'metric', own: { pressure: 'bar', power: 'PS' } } as const;

  it('are shown and read instead of those of the set', () => {
    expect(formatQuantity(110, 'pressure', own)).toBe('1.10 bar');
    expect(formatQuantity(100, 'power', own)).toBe('136.0 PS');
    expect(read('0.9', 'pressure', own)).toBeCloseTo(90, 9);
    expect(formatQuantity(90, 'temperature', own)).toBe('90 °C');
  });

  it('that are unknown fall back to the set', () => {
    expect(formatQuantity(110, 'pressure', { set: 'us', own: { pressure: 'cubit' } })).toBe(
      '16.0 psi',
    );
  });

  it('mixed are metric temperatures with pounds and miles', () => {
    expect(formatQuantity(82, 'temperature', MIXED)).toBe('82 °C');
    expect(formatQuantity(110.316, 'pressure', MIXED)).toBe('16.0 psi');
    expect(formatQuantity(80.4672, 'speed', MIXED)).toBe('50 mph');
  });
});

describe('the help of a field', () => {
  it.each([
    ['None above 20 km/h.', 'None above 12 mph.'],
    ['Pressure lost through the open valve at 100 L/min.', '26.4 gal/min.'],
    ['Height, 200 to 800 mm: what lets it rise.', 'Height, 7.9 to 31.5 in: what'],
    ['0.1 to 0.5 mm in a neglected core.', '0.0039 to 0.0197 in in a neglected core.'],
    ['Further rise: 8 to 15 K.', 'Further rise: 14 to 27 F°.'],
    ['The fan must go on above where it goes off (88 °C)', 'goes off (190 °F)'],
    ['5 kW, over 2000 kg 8 kW, at 35 °C', '6.7 hp, over 4409 lb 10.7 hp, at 95 °F'],
    ['1.6 L/min per kW rated, at least 150 L/min', '1.6 L/min per kW rated, at least 39.6 gal/min'],
    ['14 fins per inch is 1.81 mm.', '14 fins per inch is 1.81 mm.'],
    ['3 % is the usual limit.', '3 % is the usual limit.'],
  ])('%s', (text, us) => {
    expect(inUnits(text, US)).toContain(us);
    expect(inUnits(text, METRIC)).toBe(text);
  });

  it('has no metric figure left for those who read in pounds and inches, in any field', () => {
    const texts = Object.values(schema.$defs).flatMap((model) =>
      Object.values(
        (model as { properties?: Record<string, { description?: string }> }).properties ?? {},
      ).map((field) => inUnits(field.description ?? '', US)),
    );
    expect(texts.some((text) => text.includes('gal/min'))).toBe(true);
    const metric = /\d (mm|cm|m|L|L\/min|km\/h|kPa|Pa|K|°C|kW|kg|m³\/s)\b/;
    expect(texts.filter((text) => metric.test(text) && !text.includes('fins per inch'))).toEqual(
      [],
    );
  });
});

it.each(Object.entries(served))('%s is in %s here as in the document', (name, unit) => {
  const own = kindOf(name).units.find((u) => u.toDocument(1) === 1 && u.toDocument(0) === 0);
  expect(own?.symbol).toBe(unit);
});
