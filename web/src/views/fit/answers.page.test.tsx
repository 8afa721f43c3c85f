import { cleanup, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, said } from '../../testing/page';

afterEach(cleanup);

const at = (part: string) => `/builds/${MULE}/core-fans/fit/${part}`;

describe('what is read off an instrument', () => {
  it('is a cap on a tester, judged against its mark as one types', async () => {
    const server = new RecordedServer({
      'POST /fit/cap': (body: unknown) => {
        const { mark_kpa, lifts_kpa } = body as { mark_kpa: number; lifts_kpa: number };
        const weak = lifts_kpa < 0.9 * mark_kpa;
        return {
          verdict: weak ? 'fail' : 'pass',
          lead: [weak ? 'It lets go too early.' : 'It holds.'],
          evidence: {},
        };
      },
    });
    const { screen, user } = await opened(at('prove'), server);
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    expect(said(cap)).toContain('its mark is 103 kPa');
    const lifts = within(cap).getByLabelText('Lets go at');
    await user.type(lifts, '10 psi');
    expect(await within(cap).findByText('It lets go too early.')).toBeDefined();
    await user.clear(lifts);
    await user.type(lifts, '105');
    expect(await within(cap).findByText('It holds.')).toBeDefined();
    expect(within(cap).getByRole('button', { name: /Keep it as a proof/ })).toBeDefined();
  });

  it('is a figure that cannot be read, which is said and stays', async () => {
    const { screen, user, server } = await opened(at('prove'));
    const cap = await screen.findByRole('region', { name: 'Cap on a tester' });
    const lifts = within(cap).getByLabelText('Lets go at') as HTMLInputElement;
    await user.type(lifts, 'a lot');
    expect(within(cap).getByRole('alert').textContent).toContain('is not a number');
    expect(lifts.value).toBe('a lot');
    expect(server.sent('POST /fit/cap')).toEqual([]);
  });
});

describe('what to pour', () => {
  it('is asked anew with each figure, in the units of the document', async () => {
    const { screen, user, server } = await opened(at('mix'));
    const all = await screen.findByLabelText('All coolant');
    await screen.findByText(/it comes to/);
    await user.clear(all);
    await user.type(all, '2 gal');
    const last = () => server.sent('POST /fit/mix').at(-1) as { volume_l: number };
    await expect.poll(() => last().volume_l, { timeout: 20_000 }).toBeCloseTo(7.571, 3);
    const years = await screen.findByRole('region', { name: 'Ten years of coolant' });
    expect(within(years).getAllByRole('listitem').length).toBeGreaterThan(1);
  });
});
