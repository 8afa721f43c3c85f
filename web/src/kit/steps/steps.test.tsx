import { ChakraProvider } from '@chakra-ui/react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { system } from '../theme/system';
import { BandTimer } from './BandTimer';
import { between, clock, inMinutes, lasting } from './clock';

const drawn = (
  startedAt: string | null,
  took: number | null,
  more: Partial<Parameters<typeof BandTimer>[0]> = {},
) =>
  renderToStaticMarkup(
    <ChakraProvider value={system}>
      <BandTimer
        startedAt={startedAt}
        took={took}
        band={{ low: 570, high: 750 }}
        expects="it opens"
        {...more}
      />
    </ChakraProvider>,
  )
    .replace(/<style[\s\S]*?<\/style>/g, '')
    .replace(/<[^>]+>/g, ' ');

describe('a running time', () => {
  it('is read at arm’s length', () => {
    expect([0, 522, 3599, 3661, -4].map(clock)).toEqual([
      '00:00',
      '08:42',
      '59:59',
      '1:01:01',
      '00:00',
    ]);
  });

  it('says minutes as one says them', () => {
    expect([30, 570, 750, 870, 1500].map(inMinutes)).toEqual(['½', '9½', '12½', '14½', '25']);
    expect([570, 7199, 12900].map(lasting)).toEqual(['9½ min', '120 min', '3.6 h']);
    // Both ends in the unit of the longer one, whichever side of two hours the other lies.
    expect([between(1020, 1800), between(6000, 8400), between(7200, 10080)]).toEqual([
      '17 to 30 min',
      '1.7 to 2.3 h',
      '2.0 to 2.8 h',
    ]);
  });

  it('is late only of what should have come, and long enough of what one waits for', () => {
    const told = (more: Partial<Parameters<typeof BandTimer>[0]>) =>
      drawn('2026-05-14T09:00:00Z', null, more);
    vi.useFakeTimers({ now: Date.parse('2026-05-14T09:40:00Z') });
    const open = { low: 1800, high: Number.POSITIVE_INFINITY };
    expect(told({ band: { low: 570, high: 750 }, came: 700 })).not.toContain('Later');
    expect(told({ band: { low: 570, high: 750 }, came: 800 })).toContain('Later than expected');
    expect(told({ band: open })).toContain('expected 30 min or later');
    expect(told({ band: open })).not.toContain('Later');
    expect(told({ band: { ...open, waits: true } })).toContain('wait 30 min or longer');
    expect(told({ band: { ...open, waits: true } })).toContain('Long enough');
    const longer = { low: 2000, high: 2500, waits: true };
    expect(told({ band: longer })).not.toContain('Long enough');
    expect(told({ band: { ...longer, high: 2300 } })).toContain('Long enough');
    expect(told({ band: { ...longer, high: 2300 } })).not.toContain('Later');
    vi.useRealTimers();
  });

  it('stands beside its band, and says when it is late', () => {
    vi.useFakeTimers({ now: Date.parse('2026-05-14T09:10:00Z') });
    expect(drawn('2026-05-14T09:00:00Z', null)).toContain('10:00');
    expect(drawn('2026-05-14T09:00:00Z', null)).toContain('expected 9½ to 12½ min');
    expect(drawn('2026-05-14T09:00:00Z', null)).not.toContain('Later than expected');
    expect(drawn('2026-05-14T08:50:00Z', null)).toContain('Later than expected');
    expect(drawn(null, 600)).toContain('it took');
    expect(drawn(null, null)).toContain('not started');
    vi.useRealTimers();
  });
});
