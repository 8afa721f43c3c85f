import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, Refusal } from '../../testing/page';

afterEach(cleanup);

const size = `/builds/${MULE}/as-found/size`;
const asks = `POST /builds/${MULE}/sizings`;

describe('what a sizing is asked', () => {
  it("goes with the wishes as they stand, in the document's units", async () => {
    const refused = new Refusal(422, 'No part on the shelf would do.');
    const { screen, user, server } = await opened(size, new RecordedServer({ [asks]: refused }));
    const budget = await screen.findByLabelText('Budget');
    await user.type(budget, '900');
    await user.click(screen.getByRole('checkbox', { name: 'fan' }));
    await user.click(screen.getByRole('button', { name: /Find parts/ }));
    await waitFor(() => expect(server.sent(asks)).toHaveLength(1));
    expect(JSON.stringify(server.sent(asks)[0])).toContain('"budget":900');
    expect(JSON.stringify(server.sent(asks)[0])).toContain('"fan"');
    expect(await screen.findByText(/No part on the shelf would do/)).toBeDefined();
  });

  it('is not asked with what cannot be read', async () => {
    const { screen, user, server } = await opened(size, new RecordedServer());
    const chance = await screen.findByLabelText('Chance it holds');
    await user.clear(chance);
    await user.type(chance, 'most of it');
    expect(screen.getByRole('alert').textContent).toContain('is not a number');
    const find = screen.getByRole('button', { name: /Find parts/ }) as HTMLButtonElement;
    expect(find.disabled).toBe(true);
    expect(server.sent(asks)).toEqual([]);
  });
});
