import { cleanup } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Chance } from './Chance';

afterEach(cleanup);

it.each([
  [0.897, 'tight', '89 %', 'eight days in ten', 8],
  [0.9, 'holds', '90 %', 'nine days in ten', 9],
  [0.499, 'fails', '49 %', 'just under even odds', 4],
  [0.997, 'holds', '99 %', 'ninety-nine days in a hundred', 9],
  [0.004, 'fails', 'under 1 %', 'not one day in a hundred', 0],
] as const)(
  'never says more than it is: %s, which %s',
  async (value, verdict, said, days, full) => {
    const shown = drawn(<Chance value={value} verdict={verdict} of="The pass" />);
    const chance = shown.getByRole('button', { name: `The pass: below its limit ${days}` });
    const filled = [...chance.querySelectorAll('rect')].filter(
      (mark) => mark.getAttribute('fill') !== 'none',
    );
    expect(filled).toHaveLength(full);
    await userEvent.click(chance);
    expect(chance.textContent?.replaceAll('\u00a0', ' ')).toBe(said);
    expect(chance.getAttribute('aria-label')?.replaceAll('\u00a0', ' ')).toContain(`, ${said}`);
  },
);
