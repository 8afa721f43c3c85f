import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const size = `/builds/${MULE}/as-found/size`;
const newest = `GET /builds/${MULE}/sizings/newest`;
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

  it('says of each wish what it means, for a finger too', async () => {
    const { screen } = await opened(size, new RecordedServer());
    for (const [label, means] of [
      ['Cores', 'in real steps of rows'],
      ['Depth', 'Without the fan'],
      ['Budget', 'for what is new'],
    ] as const) {
      const field = await screen.findByLabelText(label);
      expect(field.title).toBe('');
      const told = (field.getAttribute('aria-describedby') ?? '').split(' ');
      expect(told.map((id) => said(document.getElementById(id))).join(' ')).toContain(means);
    }
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

  it('is asked again once what cannot be read is no longer asked for', async () => {
    const { screen, user, server } = await opened(size, new RecordedServer());
    const chance = await screen.findByLabelText('Chance it holds');
    await user.clear(chance);
    await user.type(chance, 'most of it');
    await user.selectOptions(screen.getByLabelText('Asked for'), 'margin');
    expect(screen.queryByRole('alert')).toBeNull();
    await user.click(screen.getByRole('button', { name: /Find parts/ }));
    await waitFor(() => expect(server.sent(asks)).toHaveLength(1));
    expect(server.sent(asks)[0]).toMatchObject({ wishes: { by: 'margin', margin_k: 6 } });
  });

  it('keeps what was wished for this build while one looks elsewhere', async () => {
    const { screen, user } = await opened(size, new RecordedServer());
    await user.type(await screen.findByLabelText('Budget'), '900');
    await user.click(screen.getByRole('button', { name: 'Back to the loop' }));
    await screen.findByRole('region', { name: 'Four answers' });
    await user.click(screen.getByRole('link', { name: /^Size/ }));
    expect(((await screen.findByLabelText('Budget')) as HTMLInputElement).value).toBe('900');
  });

  it('keeps what was changed while it was looking for parts', async () => {
    let answer = () => {};
    const held = new Promise<void>((done) => {
      answer = done;
    });
    const found = recorded[asks];
    const server = new RecordedServer({ [newest]: null, [asks]: () => held.then(() => found) });
    const { screen, user } = await opened(size, server);
    const budget = (await screen.findByLabelText('Budget')) as HTMLInputElement;
    await user.type(budget, '900');
    await user.click(screen.getByRole('button', { name: /Find parts/ }));
    await waitFor(() => expect(server.sent(asks)).toHaveLength(1));
    await user.clear(budget);
    await user.type(budget, '1200');
    await user.tab();
    answer();
    await screen.findByRole('region', { name: 'Which parts would do' });
    expect(budget.value).toBe('1200');
    expect(await screen.findByText('The wishes have changed since this was found.')).toBeDefined();
  });

  it.each([
    ['far below, as on a phone', 1200],
    ['beside the wishes', 150],
  ])('brings its answer into sight where that lies %s', async (_, top) => {
    const { screen, user } = await opened(size, new RecordedServer({ [newest]: null }));
    const into: Element[] = [];
    vi.spyOn(Element.prototype, 'scrollIntoView').mockImplementation(function (this: Element) {
      into.push(this);
    });
    vi.spyOn(Element.prototype, 'getBoundingClientRect').mockReturnValue({ top } as DOMRect);
    vi.spyOn(document.documentElement, 'clientHeight', 'get').mockReturnValue(844);
    await user.click(await screen.findByRole('button', { name: /Find parts/ }));
    const answer = await screen.findByRole('region', { name: 'Which parts would do' });
    expect(into.filter((one) => one.contains(answer))).toHaveLength(top > 844 / 2 ? 1 : 0);
  });

  it('takes lengths in the reader’s unit and keeps them in the document’s', async () => {
    const { screen, user, server } = await opened(size, new RecordedServer());
    await user.type(await screen.findByLabelText('Width'), '20 in');
    await user.click(screen.getByRole('button', { name: /Find parts/ }));
    await waitFor(() => expect(server.sent(asks)).toHaveLength(1));
    expect(server.sent(asks)[0]).toMatchObject({ wishes: { width_mm: 508 } });
  });
});
