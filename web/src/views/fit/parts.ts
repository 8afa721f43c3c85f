/** The parts of this view, by the end of their address. */

export type FitPart = '' | 'parts' | 'car' | 'mix' | 'fill' | 'prove';

export const parts: Record<FitPart, string> = {
  '': 'Work plan',
  parts: 'Parts and materials',
  car: 'The car',
  mix: 'Mix',
  fill: 'Fill and bleed',
  prove: 'Prove it',
};

export function partOf(found: string | undefined): FitPart | null {
  const name = found ?? '';
  return name in parts ? (name as FitPart) : null;
}
