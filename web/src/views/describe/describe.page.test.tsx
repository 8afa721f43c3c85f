import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

const JUDGE = '/evaluate?variant=as-found&levers=false';
const place = `/builds/${MULE}/as-found/describe`;

describe('what is known of a build', () => {
  it('says station by station what was guessed, and leads there', async () => {
    const { screen, user } = await opened(place);
    const view = await screen.findByRole('region', { name: 'Describe' });
    await waitFor(() => expect(said(view)).toMatch(/\d guessed: /));
    expect(said(view)).toContain('nothing guessed');
    await user.click(screen.getByText('Radiator core'));
    await waitFor(() =>
      expect(location.pathname).toBe(`/builds/${MULE}/as-found/stations/radiator`),
    );
  });
});

it('says what was guessed of a case, beside it', async () => {
  const found = recorded[`POST ${JUDGE}`];
  const guess = {
    path: '/cases/1/brake_power_kw',
    title: 'Brake power',
    quantity: 'power',
    value: 0,
    guess: true,
  };
  const server = new RecordedServer({
    [`POST ${JUDGE}`]: { ...found, assumed: [...found.assumed, guess] },
  });
  const { screen } = await opened(place, server);
  const view = await screen.findByRole('region', { name: 'Describe' });
  const named = found.cases[1]?.name;
  await waitFor(() => expect(said(view)).toContain(`${named}: brake power guessed`));
  expect(said(view)).not.toContain(`${found.cases[0]?.name}: `);
});

it('says nothing of guesses before there is an answer', async () => {
  let answer = () => {};
  const held = new Promise<void>((done) => {
    answer = done;
  });
  const found = recorded[`POST ${JUDGE}`];
  const server = new RecordedServer({ [`POST ${JUDGE}`]: () => held.then(() => found) });
  const { screen } = await opened(place, server);
  const view = await screen.findByRole('region', { name: 'Describe' });
  expect(said(view)).not.toContain('nothing guessed');
  answer();
  await waitFor(() => expect(said(view)).toContain('nothing guessed'));
});

describe('a build without an answer yet', () => {
  const incomplete = new Refusal(422, '1 value is needed.', {
    type: 'urn:ebbrin:incomplete-build',
    errors: [
      { path: '/variants/0/radiator/width_mm', message: 'Core width is needed.', type: 'missing' },
    ],
  });
  const withoutWidth = async () => {
    const found = await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`));
    const stored = (await found.json()) as { build: { variants: { radiator: object }[] } };
    const [first, ...others] = stored.build.variants;
    const radiator = { ...first?.radiator, width_mm: null };
    return { ...stored, build: { ...stored.build, variants: [{ ...first, radiator }, ...others] } };
  };

  it('asks for what is missing, keeps the field under the hand, and judges once it is there', async () => {
    const stored = await withoutWidth();
    const server: RecordedServer = new RecordedServer({
      ...saving(),
      [`GET /builds/${MULE}`]: stored,
      [`POST ${JUDGE}`]: async (body: unknown) => {
        if (!JSON.stringify(body).includes('"width_mm":640')) return incomplete;
        const answer = await new RecordedServer().fetch(
          new Request(`http://x/api/v1${JUDGE}`, { method: 'POST' }),
        );
        return answer.json();
      },
    });
    const { screen, user } = await opened(place, server);
    const width = (await screen.findByLabelText('Core width')) as HTMLInputElement;
    expect(screen.getByRole('heading', { name: 'What an answer needs' })).toBeDefined();
    expect(screen.getByText(/still to fill/)).toBeDefined();
    await waitFor(() => expect(document.activeElement).toBe(width));
    const see = screen.getByRole('button', { name: 'See the answer' });
    await user.click(see); // too soon: back to what is missing
    expect(document.activeElement).toBe(width);
    expect(location.pathname).toBe(place);
    await user.keyboard('640');
    await screen.findByText('That is enough for an answer.');
    expect(document.activeElement).toBe(width);
    await user.click(see);
    expect(await screen.findByRole('region', { name: 'Four answers' })).toBeDefined();
    expect(location.pathname).toBe(`/builds/${MULE}/as-found`);
  });

  it('shows an answer that was asked for before it was there, unless something was changed meanwhile', async () => {
    const stored = await withoutWidth();
    const answers: (() => void)[] = [];
    const whole = await new RecordedServer()
      .fetch(new Request(`http://x/api/v1${JUDGE}`, { method: 'POST' }))
      .then((found) => found.json());
    const server = new RecordedServer({
      ...saving(),
      [`GET /builds/${MULE}`]: stored,
      [`POST ${JUDGE}`]: (body: unknown) =>
        JSON.stringify(body).includes('"width_mm":null')
          ? incomplete
          : new Promise((resolve) => answers.push(() => resolve(whole))),
    });
    const { screen, user } = await opened(place, server);
    const width = await screen.findByLabelText('Core width');
    await user.type(width, '640{Enter}');
    expect(await screen.findByText('Working it out …')).toBeDefined();
    await user.type(width, '{Backspace}1');
    expect(screen.queryByText('Working it out …')).toBeNull();
    await user.keyboard('{Enter}');
    expect(location.pathname).toBe(place);
    for (const answer of answers) answer();
    expect(await screen.findByRole('region', { name: 'Four answers' })).toBeDefined();
    expect(location.pathname).toBe(`/builds/${MULE}/as-found`);
  });
});
