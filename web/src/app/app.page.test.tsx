import { act, cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said } from '../testing/page';
import { bringBuilds } from './App';

afterEach(cleanup);

const build = `/builds/${MULE}/as-found`;

describe('the frame round a build', () => {
  it('has the job in order, with what waits at each', async () => {
    const { screen } = await opened(build);
    const job = await screen.findByRole('navigation', { name: 'The job' });
    await waitFor(() => expect(said(job)).toContain('2 of 4 hold'));
    const places = within(job)
      .getAllByRole('link')
      .map((e) => e.textContent ?? '');
    expect(
      places.map(
        (text) => text.match(/^(Describe|Judge|Size|Drive|Fit and fill|Find the cause)/)?.[0],
      ),
    ).toEqual(['Describe', 'Judge', 'Size', 'Drive', 'Fit and fill', 'Find the cause']);
  });

  it('stands there at its first drawing where its part has been brought, with nothing in its place', async () => {
    await bringBuilds();
    const seen: string[] = [];
    const watched = new MutationObserver(() => seen.push(said(document.body)));
    watched.observe(document.body, { childList: true, subtree: true });
    const asked = 'POST /evaluate?variant=as-found&levers=false';
    const slowly = async () => {
      await new Promise((passed) => setTimeout(passed, 60));
      return recorded[asked];
    };
    const { screen } = await opened(build, new RecordedServer({ [asked]: slowly }));
    expect(said(document.body)).toContain('Opening…');
    const answers = await screen.findByRole('region', { name: 'Four answers' });
    watched.disconnect();
    expect(said(answers)).toContain('kPa');
    // The build came with its answer: it was never shown waiting for one.
    expect(seen.filter((text) => text.includes('Computing'))).toEqual([]);
  });

  it('goes from one build to another that the address names, and shows nothing of the first there', async () => {
    const other = '00000000-0000-4000-8000-000000000002';
    const stored = recorded[`GET /builds/${MULE}`];
    const found = { ...stored, id: other, build: { ...stored.build, name: 'Other' } };
    const { screen } = await opened(
      build,
      new RecordedServer({
        [`GET /builds/${other}`]: found,
        [`GET /builds/${other}/sizings/newest`]: null,
        [`GET /builds/${other}/jobs`]: [],
      }),
    );
    await screen.findByRole('region', { name: 'Four answers' });
    const seen: string[] = [];
    const watched = new MutationObserver(() =>
      seen.push(
        `${location.pathname} ${(document.querySelector('[aria-label="Name of the build"]') as HTMLInputElement | null)?.value ?? ''}`,
      ),
    );
    watched.observe(document.body, { subtree: true, childList: true, attributes: true });
    act(() => {
      history.pushState(null, '', `/builds/${other}`);
      dispatchEvent(new PopStateEvent('popstate'));
    });
    await waitFor(() => expect(location.pathname).toBe(`/builds/${other}/as-found`));
    const name = (await screen.findByLabelText('Name of the build')) as HTMLInputElement;
    await waitFor(() => expect(name.value).toBe('Other'));
    watched.disconnect();
    expect(seen.filter((line) => line.includes(other) && line.endsWith('Mule'))).toEqual([]);
    expect(seen.filter((line) => line.startsWith(build))).toEqual([]);
  });

  it('goes where a key says, unless a field is typed in', async () => {
    const { screen, user } = await opened(build);
    await screen.findByRole('region', { name: 'Four answers' });
    await user.keyboard('d');
    await waitFor(() => expect(location.pathname).toBe(`${build}/cases`));
    await user.click(screen.getByLabelText('Name of the build'));
    await user.keyboard('g');
    expect(location.pathname).toBe(`${build}/cases`);
  });

  it('opens the palette, which knows levers and places', async () => {
    const { screen, user } = await opened(build);
    await screen.findByText('What would help');
    await user.keyboard('{Control>}k{/Control}');
    const field = await screen.findByRole('combobox', { name: 'Command' });
    await user.type(field, 'drive');
    expect(screen.getAllByRole('option').length).toBeGreaterThan(0);
    await user.keyboard('{Enter}');
    await waitFor(() => expect(location.pathname).toMatch(/drive/));
  });

  it('keeps what was typed while the server is away, and says so', async () => {
    let away = false;
    const server = new RecordedServer({
      [`PUT /builds/${MULE}`]: () => {
        away = true;
        throw new TypeError('Failed to fetch');
      },
    });
    const { screen, user } = await opened(build, server);
    const name = (await screen.findByLabelText('Name of the build')) as HTMLInputElement;
    await user.type(name, ' II');
    await waitFor(() => expect(away).toBe(true));
    expect(await screen.findByText(/^The server does not answer/)).toBeDefined();
    expect(name.value).toBe('Mule II');
    expect(screen.getAllByText(/not saved: server away/).length).toBeGreaterThan(0);
  });

  it('asks whose version to go on with, where another was saved meanwhile', async () => {
    const theirs = { ...(await recordedBuild()), revision: 7 };
    const conflict = new Refusal(412, 'Saved elsewhere.', { current: theirs });
    let saved = 0;
    const server = new RecordedServer({
      // Both stay in the history: ours is stored below theirs.
      [`PUT /builds/${MULE}`]: (mine: unknown) => {
        saved += 1;
        return saved === 1 ? conflict : { ...theirs, revision: 7 + saved, build: mine };
      },
    });
    const { screen, user } = await opened(build, server);
    await user.type(await screen.findByLabelText('Name of the build'), '!');
    expect(await screen.findByText(/Revision 7 was saved elsewhere/)).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Go on with theirs' }));
    await waitFor(() =>
      expect((screen.getByLabelText('Name of the build') as HTMLInputElement).value).toBe('Mule'),
    );
  });

  it('tries another air without saving it', async () => {
    const { screen, user, server } = await opened(build, new RecordedServer());
    await user.click(await screen.findByRole('button', { name: 'What if' }));
    const what = await screen.findByRole('region', { name: 'What if' });
    const says = () =>
      within(what)
        .getAllByRole('slider')
        .map((e) => (e.getAttribute('aria-valuetext') ?? '').replace(/\s/g, ' '));
    expect(says()).toEqual(['28 °C', '700 m']);
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(says()[0]).toBe('82 °F');
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
    expect(said(what)).toContain('What if the air were 28 °C');
    expect(server.sent(`PUT /builds/${MULE}`)).toEqual([]);
  });

  it('tries as high as the site lies, however high', async () => {
    const kept = recorded[`GET /builds/${MULE}`];
    const site = { ...kept.build.site, altitude_m: 4200 };
    const high = { ...kept, build: { ...kept.build, site } };
    const server = new RecordedServer({ [`GET /builds/${MULE}`]: high });
    const { screen, user } = await opened(build, server);
    await user.click(await screen.findByRole('button', { name: 'What if' }));
    const what = await screen.findByRole('region', { name: 'What if' });
    const altitude = within(what).getAllByRole('slider')[1] as HTMLInputElement;
    expect([altitude.max, altitude.value]).toEqual(['4200', '4200']);
  });
});

async function recordedBuild() {
  const answer = await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`));
  return (await answer.json()) as object;
}
