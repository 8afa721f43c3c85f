import { describe, expect, it } from 'vitest';
import { METRIC, shownUnit, US } from '../../model/units/quantities';
import { handlesOf, settable } from './handles';

const ladder = { thermostat_opens_c: 82, fan_on_c: 98, fan_off_c: 92 };

describe('grips of the ladder', () => {
  it('are one for the thermostat and two for a fan', () => {
    expect(handlesOf(ladder).map((h) => h.field)).toEqual([
      'thermostat/opens_c',
      'fan_switch/on_c',
      'fan_switch/off_c',
    ]);
    expect(handlesOf({ ...ladder, fan_on_c: null, fan_off_c: null })).toHaveLength(1);
  });

  it('never pass their partner', () => {
    const [, on, off] = handlesOf(ladder);
    const unit = shownUnit('temperature', METRIC);
    if (!on || !off) throw new Error('a fan has two');
    expect(settable(on, 60, unit)).toBe(93);
    expect(settable(off, 120, unit)).toBe(97);
  });

  it('stop at whole degrees of the reader’s own unit', () => {
    const [opens] = handlesOf(ladder);
    if (!opens) throw new Error('a thermostat has one');
    expect(settable(opens, 84.4, shownUnit('temperature', METRIC))).toBe(84);
    const fahrenheit = settable(opens, 84.4, shownUnit('temperature', US));
    expect(fahrenheit * 1.8 + 32).toBeCloseTo(184, 9);
  });
});
