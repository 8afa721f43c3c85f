/** A chance in words that never say more than it is: a tenth is reached or it is not named. */

const DAYS = [
  '',
  'one day',
  'two days',
  'three days',
  'four days',
  '',
  'six days',
  'seven days',
  'eight days',
  'nine days',
];

/** As the server says it (ground/words.py, in_days). */
export function inDays(chance: number): string {
  if (chance >= 0.99) return 'ninety-nine days in a hundred';
  if (chance < 0.01) return 'not one day in a hundred';
  if (chance < 0.1) return 'less than one day in ten';
  if (chance >= 0.45 && chance < 0.5) return 'just under even odds';
  const tenths = Math.floor(chance * 10 + 1e-9);
  return tenths === 5 ? 'even odds' : `${DAYS[tenths]} in ten`;
}

/** The same in per cent, as the server says it (in_percent): 0.897 is no 90 %, and nothing is certain. */
export function inPercent(chance: number): string {
  return chance < 0.01
    ? 'under 1\u00a0%'
    : `${Math.min(Math.floor(chance * 100 + 1e-9), 99)}\u00a0%`;
}

/** How many of ten marks are filled: whole tenths that are reached. */
export function marks(chance: number): number {
  return Math.min(Math.floor(chance * 10 + 1e-9), 10);
}
