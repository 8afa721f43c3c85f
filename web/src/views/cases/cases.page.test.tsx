import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, saving } from '../../testing/page';

afterEach(cleanup);

const rows = `/builds/${MULE}/as-found/cases`;
type Saved = { cases: { id: string; name: string; speed_km_h: number }[] };
const savedTo = (server: RecordedServer) => server.sent(`PUT /builds/${MULE}`) as Saved[];

describe('cases as rows', () => {
  it('has a field for each number, and a dash for what does not matter', async () => {
    const { screen } = await opened(rows);
    const table = await screen.findByRole('table', { name: 'Cases' });
    expect(within(table).getAllByRole('textbox', { name: /^Name of case/ })).toHaveLength(4);
    expect(within(table).getAllByText('–').length).toBeGreaterThan(0);
    expect(within(table).getByText('fails')).toBeDefined();
  });

  it('changes one case and saves it', async () => {
    const { screen, user, server } = await opened(rows, new RecordedServer(saving()));
    const speed = await screen.findByLabelText('Motorway with trailer, speed');
    await user.clear(speed);
    await user.type(speed, '50 mph');
    const saved = () =>
      savedTo(server)
        .at(-1)
        ?.cases.find((entry) => entry.id === 'motorway');
    await waitFor(() => expect(saved()?.speed_km_h).toBeCloseTo(80.47, 2));
  });

  it('has kinds to add, each with values that are judged at once', async () => {
    const { screen, user, server } = await opened(rows, new RecordedServer(saving()));
    await user.click(await screen.findByRole('button', { name: '+ case' }));
    const idle = screen.getByRole('button', { name: 'Traffic, idle' });
    const hint = document.getElementById(idle.getAttribute('aria-describedby') ?? '');
    expect(hint?.textContent).toContain('standing on the hottest day');
    await user.click(idle);
    await waitFor(() => expect(savedTo(server).at(-1)?.cases).toHaveLength(5));
  });

  it('says so where a case of that name is not there', async () => {
    const { screen } = await opened(`${rows}/moon`);
    expect(await screen.findByText(/has no case “moon”/)).toBeDefined();
  });

  it('edits one case by itself, and keeps its name from being empty', async () => {
    const { screen, user } = await opened(`${rows}/pass`);
    const name = await screen.findByRole('textbox', { name: 'Name' });
    await user.clear(name);
    expect(screen.getByRole('alert').textContent).toContain('A case needs a name.');
  });
});
