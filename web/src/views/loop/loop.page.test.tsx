import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const build = `/builds/${MULE}`;

describe('a build that is opened', () => {
  it('leads to its first variant and says its verdict four times', async () => {
    const { screen } = await opened(build);
    const answers = await screen.findByRole('region', { name: 'Four answers' });
    expect(location.pathname).toBe(`${build}/as-found`);
    expect(said(answers)).toContain('650 × 400 × 30 mm');
    expect(said(answers)).toContain('holds 2 of 4 cases');
    expect(said(answers)).toContain('short in The pass, 2200 m');
    await waitFor(() => expect(document.title).toBe('Mule – Ebbrin'));
  });

  it('lists its cases, the worst first, and shows the one that is pressed', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    const cases = await screen.findByRole('region', { name: 'Duty cases' });
    const names = within(cases).getAllByRole('button', { name: /in the loop$/ });
    expect(names.map((e) => e.getAttribute('aria-label'))).toEqual([
      'Show The pass, 2200 m in the loop',
      'Show Motorway with trailer in the loop',
      'Show Ferry queue, air con on in the loop',
      'Show Cold morning, heater on in the loop',
    ]);
    await user.click(within(cases).getByText('Motorway with trailer'));
    expect(location.search).toBe('?case=motorway');
    expect(screen.getByRole('region', { name: /^Coolant loop in Motorway/ })).toBeDefined();
  });

  it('has a row of figures for each case, in words of the table', async () => {
    const { screen } = await opened(`${build}/as-found`);
    const cases = await screen.findByRole('region', { name: 'Duty cases' });
    const cell = within(cases)
      .getAllByRole('cell')
      .find((e) => e.dataset.label === 'heat kW');
    expect(said(cell)).toBe('48.8');
    const columns = within(cases).getAllByRole('columnheader');
    expect(columns.map(said)).toContain('heat kW');
  });

  it('comes in the units that are chosen', async () => {
    const { screen, user } = await opened(`${build}/as-found`);
    const answers = await screen.findByRole('region', { name: 'Four answers' });
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(said(answers)).toContain('25.6 × 15.7 × 1.2 in');
    expect(said(answers)).toContain('180 °F');
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
    expect(said(answers)).toContain('82 °C');
  });

  it('says so where it is not there, or the variant is not', async () => {
    const gone = {
      [`GET /builds/${MULE}`]: new Refusal(404, 'There is no such build.'),
    };
    const first = await opened(build, new RecordedServer(gone));
    expect(await first.screen.findByText(/There is no such build/)).toBeDefined();
    cleanup();
    const second = await opened(`${build}/nowhere`);
    expect(await second.screen.findByText(/has no variant “nowhere”/)).toBeDefined();
  });

  it('is asked for levers once the answer stands, and lists them by what they bring', async () => {
    const { screen, server } = await opened(`${build}/as-found`);
    const help = await screen.findByRole('region', { name: 'What would help' });
    await within(help).findAllByRole('button', { name: /try/i });
    const asked = server.asked.map((one) => one.what);
    expect(asked.indexOf('POST /evaluate?variant=as-found&levers=false')).toBeLessThan(
      asked.indexOf('POST /evaluate?variant=as-found&levers=true'),
    );
  });
});
