import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

const drive = `/builds/${MULE}/as-found/drive`;
type Saved = { drives: { legs: { duration_s: number }[]; faults: { kind: string }[] }[] };
const savedTo = (server: RecordedServer) => server.sent(`PUT /builds/${MULE}`) as Saved[];

describe('a drive', () => {
  it('says what happens, leg by leg, and leads the play head to it', async () => {
    const { screen, user } = await opened(drive);
    const happens = await screen.findByRole('region', { name: 'What happens' });
    expect(within(happens).getAllByText(/boils/).length).toBeGreaterThan(0);
    const legs = within(happens).getByRole('table', { name: /Legs/ });
    expect(within(legs).getAllByRole('row').length).toBeGreaterThan(2);
    expect(said(legs)).toContain('Motorway with trailer');
    const head = screen.getByRole('slider', { name: 'Play head' });
    const before = head.getAttribute('aria-valuetext');
    await user.click(
      within(happens).getAllByRole('button', { name: /thermostat opens/ })[0] as HTMLElement,
    );
    expect(head.getAttribute('aria-valuetext')).not.toBe(before);
  });

  it('says when the limit is passed first, for it may cool again, and where it boils', async () => {
    await opened(drive);
    await waitFor(() => expect(said(document.querySelector('main'))).toContain('Hottest'));
    const page = said(document.querySelector('main'));
    expect(page).toContain('first over the limit of 108 °C at 30:22');
    // The play head stands where it is hottest.
    expect(page).toContain('the engine’s outlet boils.');
    expect(page).not.toMatch(/ [−-]?0(\.0)? K from boiling/);
  });

  it('is driven again with a leg or a fault that is changed, and saved', async () => {
    const { screen, user, server } = await opened(drive, new RecordedServer(saving()));
    await screen.findByRole('region', { name: 'What happens' });
    const minutes = screen.getByLabelText('Minutes of leg 1');
    await user.clear(minutes);
    await user.type(minutes, '12');
    await user.click(screen.getByRole('checkbox', { name: 'Fan does not turn' }));
    await waitFor(() => expect(savedTo(server).at(-1)?.drives[0]?.legs[0]?.duration_s).toBe(720));
    await waitFor(() =>
      expect(JSON.stringify(savedTo(server).at(-1)?.drives[0]?.faults)).toContain('fan'),
    );
    await waitFor(() =>
      expect(JSON.stringify(server.sent('POST /drive').at(-1))).toContain('"duration_s":720'),
    );
  });

  it('keeps a number that cannot be read, apart from the others', async () => {
    const { screen, user, server } = await opened(drive, new RecordedServer(saving()));
    await screen.findByRole('region', { name: 'What happens' });
    await user.type(screen.getByLabelText('Minutes of leg 2'), 'x');
    expect(await screen.findByText(/1 field cannot be read yet/)).toBeDefined();
    // What is wrong stands beside it, for the eye and for a screen reader.
    const minutes = screen.getByLabelText('Minutes of leg 2');
    const why = document.getElementById(minutes.getAttribute('aria-describedby') ?? '');
    expect(why?.getAttribute('role')).toBe('alert');
    expect(said(why)).not.toBe('');
    expect(savedTo(server)).toEqual([]);
  });

  it('says what is guessed of its legs', async () => {
    const guessed = [['Pull: brake power is taken as ', { quantity: 'power', value: 0 }, '.']];
    const { screen } = await opened(
      drive,
      new RecordedServer({ 'POST /drive': { ...recorded['POST /drive'], guessed } }),
    );
    await screen.findByRole('region', { name: 'What happens' });
    expect(said(document.querySelector('main'))).toContain(
      'Guessed: Pull: brake power is taken as 0.0 kW.',
    );
  });

  it('says what the server says', async () => {
    const refused = new Refusal(422, 'A drive may take a day at most.');
    const { screen } = await opened(drive, new RecordedServer({ 'POST /drive': refused }));
    expect(await screen.findByText(/A drive may take a day at most/)).toBeDefined();
  });

  it('says what the first row of a recording must name, and why one was not read', async () => {
    const refused = new Refusal(422, 'The file is larger than 1 MB.');
    const { screen, user } = await opened(
      drive,
      new RecordedServer({ 'POST /recordings?name=lane': refused }),
    );
    const view = await screen.findByRole('region', { name: 'Recording' });
    expect(said(view)).toContain('time [s], speed [km/h]');
    const file = new File(['time [s]'], 'lane.csv', { type: 'text/csv' });
    await user.upload(screen.getByLabelText('Recorded drive'), file);
    expect(said(await screen.findByRole('alert'))).toBe(
      'Nothing was read: The file is larger than 1 MB.',
    );
  });
});
