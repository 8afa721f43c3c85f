/** The words of the trade and of this page, each said once. Tooltips and the list of words read from here. */
export const glossary = {
  band: {
    word: 'band',
    says: 'From how little to how much the heat of such engines is found to be, by the school that is chosen.',
  },
  boiling: {
    word: 'margin to boiling',
    says: 'How much hotter the coolant at the engine’s outlet could get before it boils under the cap.',
  },
  chance: {
    word: 'chance',
    says: 'In how many of ten cars like this one it stays below its limit, with all that is guessed or scatters. It holds from nine, is tight from five.',
  },
  core: {
    word: 'core',
    says: 'Tubes and fins of the radiator, without its tanks.',
  },
  explains: {
    word: 'explains the complaint',
    says: 'A cause can be there without being why the car came in: a weak cap beside a dead fan. This is the chance that it is the reason.',
  },
  face: {
    word: 'face',
    says: 'Width times height of the core: what the air meets.',
  },
  fullyOpen: {
    word: 'fully open',
    says: 'A thermostat opens over some kelvin, from the temperature stamped on it. Fully open it can do no more: then only air, core and pump count.',
  },
  kwk: {
    word: 'kW/K',
    says: 'Heat that the core sheds for each kelvin between the coolant and the air that come in.',
  },
  noSteady: {
    word: 'never settles',
    says: 'More heat comes in than goes out at any temperature below boiling: it only gets hotter with time.',
  },
  re: {
    word: 'Re',
    says: 'Reynolds number of the coolant in the tubes. Under some 2300 it flows in layers and gives off little heat; over 4000 it mixes and gives off much.',
  },
  school: {
    word: 'school',
    says: 'A way to estimate the heat into the coolant. Builders disagree, so all stand side by side.',
  },
  spare: {
    word: 'air to spare',
    says: 'How much hotter the outside air could be before the case reaches its limit. Below zero it lacks so much.',
  },
  thirds: {
    word: 'thirds rule',
    says: 'A third of the fuel’s energy to the crankshaft, a third to the coolant, a third to the exhaust: so as much heat to the coolant as brake power. More than most engines send.',
  },
} as const;

export type TermName = keyof typeof glossary;
