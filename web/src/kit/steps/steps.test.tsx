import { ChakraProvider } from '@chakra-ui/react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { system } from '../theme/system';
import { BandTimer } from './BandTimer';
import { clock, inMinutes } from './clock';

const drawn = (startedAt: string | null, took: number | null) =>
  renderToStaticMarkup(
    <ChakraProvider value={system}>
      <BandTimer
        startedAt={startedAt}
        took={took}
        band={{ low: 570, high: 750 }}
        expects="it opens"
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
    expect([30, 570, 750, 870, 1500, 12900].map(inMinutes)).toEqual([
      '½',
      '9½',
      '12½',
      '14½',
      '25',
      '3.6 h',
    ]);
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
