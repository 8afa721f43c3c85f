import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { caseBody } from '../../testing/cases';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

const cause = `/builds/${MULE}/as-found/cause`;

describe('looking for a cause', () => {
  it('names the likeliest, with what speaks for them', async () => {
    const { screen } = await opened(cause);
    const causes = await screen.findByRole('region', { name: 'What it may be' });
    expect(said(causes)).toContain('Core too small for this engine');
    expect(said(causes)).toContain('Fan too small or without a shroud');
    const next = screen.getByRole('region', { name: 'Next test' });
    expect(within(next).getAllByRole('button').length).toBeGreaterThan(1);
  });

  it('begins a case with the first answer, and asks anew with it', async () => {
    const begun: { id?: string } = {};
    const server = new RecordedServer({
      [`POST /builds/${MULE}/cases`]: (body: unknown) => {
        begun.id = (body as { id: string }).id;
        return caseBody(begun.id, MULE);
      },
    });
    const { screen, user } = await opened(cause, server);
    const seen = await screen.findByRole('region', { name: 'What was seen' });
    await user.click(
      within(seen).getAllByRole('button', { name: 'it runs hot' })[0] as HTMLElement,
    );
    await waitFor(() => expect(begun.id).toBeDefined());
    await waitFor(() =>
      expect(JSON.stringify(server.sent('POST /diagnosis').at(-1))).toContain(
        '"complaint":"runs_hot"',
      ),
    );
  });

  it('says what an hour is worth must be a number, and keeps asking with the last', async () => {
    const { screen, user, server } = await opened(cause);
    const rate = await screen.findByLabelText('An hour is worth');
    await user.clear(rate);
    await user.type(rate, 'a lot');
    expect(screen.getByRole('alert').textContent).toContain('A number above 0, 100000 at most.');
    expect(JSON.stringify(server.sent('POST /diagnosis').at(-1))).not.toContain('a lot');
    await user.clear(rate);
    await user.type(rate, '200000');
    expect(screen.getByRole('alert').textContent).toContain('100000 at most');
    expect(JSON.stringify(server.sent('POST /diagnosis').at(-1))).not.toContain('200000');
  });

  it('says that another variant stands in the car than the one it goes by, and leads to it', async () => {
    const { screen, user, server } = await opened(`/builds/${MULE}/core/cause`);
    expect(said(await screen.findByText(/In the car stands/))).toContain(
      'In the car stands “As found”; this goes by “Bigger core”.',
    );
    await user.click(screen.getByRole('link', { name: 'Go by the one in the car' }));
    await waitFor(() => expect(screen.queryByText(/In the car stands/)).toBeNull());
    await waitFor(() =>
      expect(JSON.stringify(server.sent('POST /diagnosis').at(-1))).toContain(
        '"variant":"as-found"',
      ),
    );
  });

  it('times a test of this car alone, until it is answered', async () => {
    const { screen, user } = await opened(cause);
    const seen = await screen.findByRole('region', { name: 'What was seen' });
    await user.selectOptions(
      within(seen).getByLabelText('What else was seen'),
      "Pumped to the cap's mark, and half an hour of waiting",
    );
    const test = screen.getByRole('region', { name: 'Next test' });
    await user.click(within(test).getByRole('button', { name: 'Start 30 minutes' }));
    const timers = () => Object.keys(localStorage).filter((key) => key.includes('.timer.'));
    expect(timers()).toEqual([expect.stringContaining(MULE)]);
    const shown = test.querySelector('[data-test]');
    await user.click(shown?.querySelector('[data-value]') as HTMLElement);
    expect(timers()).toEqual([]);
  });

  it('says why it is not answered', async () => {
    const refused = new Refusal(422, 'That cannot be seen on a car without a pump.');
    const { screen } = await opened(cause, new RecordedServer({ 'POST /diagnosis': refused }));
    expect(await screen.findByText(/cannot be seen on a car without a pump/)).toBeDefined();
  });
});

describe('the card for the road', () => {
  it('says the cap stays shut, before anything else is asked', async () => {
    const { screen } = await opened('/road');
    const card = await screen.findByRole('article');
    expect(said(card)).toContain('Do not open it.');
    expect(screen.getByRole('heading', { name: 'It boils right now' })).toBeDefined();
  });
});
