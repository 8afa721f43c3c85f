import { cleanup, fireEvent, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { SizingRun } from '../../model/api/types';
import { MOST_VARIANTS } from '../../model/document/edit';
import { inPercent } from '../../model/words/days';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, said, saving } from '../../testing/page';

afterEach(cleanup);

const size = `/builds/${MULE}/as-found/size`;
const newest = `GET /builds/${MULE}/sizings/newest`;
const asks = `POST /builds/${MULE}/sizings`;
const done = recorded[asks] as unknown as SizingRun;
const found = done.result as NonNullable<SizingRun['result']>;
const there = (run: Partial<SizingRun> = {}, more = {}) =>
  new RecordedServer({ [newest]: { ...done, ...run }, ...saving(), ...more });

type Saved = { variants: { id: string; name: string }[] };
const saved = (server: RecordedServer) =>
  (server.sent(`PUT /builds/${MULE}`) as Saved[]).at(-1)?.variants ?? [];

describe('what a sizing found', () => {
  it('stands as rows, what each is best at with what it keeps and costs', async () => {
    const { screen } = await opened(size, there());
    const rows = within(await screen.findByRole('table', { name: 'Solutions' }))
      .getAllByRole('row')
      .slice(1);
    expect(rows).toHaveLength(found.solutions.length);
    for (const [i, solution] of found.solutions.entries()) {
      const text = said(rows[i]);
      expect(text).toContain(String(i + 1));
      expect(text).toContain(solution.titles.flat().join(', '));
      expect(text).toContain(String(Math.round(solution.cost)));
      expect(text).toContain(`${Math.round(solution.margin_k)} K`);
    }
  });

  it('says one of one', async () => {
    const { screen } = await opened(size, there({ result: { ...found, combinations: 1 } }));
    expect(await screen.findByText('1 combination was looked at.')).toBeDefined();
  });

  it('names what is new with its price and what stays without', async () => {
    const { screen } = await opened(size, there());
    const detail = await screen.findByRole('region', { name: 'Solution 1' });
    const parts = found.solutions[0]?.parts ?? [];
    expect(within(detail).queryAllByText('stays')).toHaveLength(parts.filter((p) => !p.new).length);
    for (const part of parts.filter((entry) => entry.new))
      expect(said(detail)).toContain(`new, ${Math.round(part.price ?? 0)}`);
  });

  it('says of a price whether it is known, guessed by what is like it, or nothing at all', async () => {
    const [first, ...others] = found.solutions;
    const part = (slot: string, price: number | null, unpriced: boolean) => ({
      slot,
      text: [slot],
      new: price !== null,
      price,
      unpriced,
    });
    const parts = [
      part('radiator', 120, true),
      part('fan', 0, true),
      part('shroud', 0, false),
      part('coolant', 30, false),
      part('pump', null, false),
    ];
    const solutions = [{ ...first, parts }, ...others];
    const result = { ...found, solutions } as typeof found;
    const { screen } = await opened(size, there({ result }));
    const detail = await screen.findByRole('region', { name: 'Solution 1' });
    const prices = [...detail.querySelectorAll('dd:nth-of-type(2)')].slice(0, parts.length);
    expect(prices.map(said)).toEqual([
      'new, about 120',
      'new, no price known',
      'changed',
      'new, 30',
      'stays',
    ]);
  });

  it('says what is to be minded of a solution, and of it alone', async () => {
    const solutions = found.solutions.map((one, n) => ({
      ...one,
      cautions: n === 0 ? [['Hill: coolant wears the tubes.']] : [],
    }));
    const { screen, user } = await opened(size, there({ result: { ...found, solutions } }));
    const detail = await screen.findByRole('region', { name: 'Solution 1' });
    expect(said(detail)).toContain('Mind: Hill: coolant wears the tubes.');
    const second = within(screen.getByRole('table', { name: 'Solutions' })).getAllByRole('row')[2];
    await user.click(within(second as HTMLElement).getAllByRole('button')[0] as HTMLElement);
    expect(said(screen.getByRole('region', { name: 'Solution 2' }))).not.toContain('Mind:');
  });

  it('shows the one that is pressed, in the rows or on the chart', async () => {
    const { screen, user } = await opened(size, there());
    const table = await screen.findByRole('table', { name: 'Solutions' });
    const second = within(table).getAllByRole('row')[2] as HTMLElement;
    await user.click(within(second).getAllByRole('button')[0] as HTMLElement);
    expect(screen.getByRole('region', { name: 'Solution 2' })).toBeDefined();
    const point = screen.getByRole('button', { name: /^Solution 3: / });
    expect(point.getAttribute('aria-pressed')).toBe('false');
    await user.click(point);
    expect(screen.getByRole('region', { name: 'Solution 3' })).toBeDefined();
    expect(point.getAttribute('aria-pressed')).toBe('true');
  });

  it('goes along the chart by the arrows, the dearer to the right, and stays at its ends', async () => {
    const { screen, user } = await opened(size, there());
    await screen.findByRole('table', { name: 'Solutions' });
    const by = (key: 'cost' | 'face_m2') =>
      found.front
        .filter((point) => point.solution !== null)
        .sort((a, b) => a[key] - b[key] || a.kept_k - b.kept_k)
        .map((point) => (point.solution ?? 0) + 1);
    const press = (key: string) => {
      const on = screen
        .getAllByRole('button', { name: /^Solution \d+: / })
        .find((point) => point.getAttribute('aria-pressed') === 'true');
      fireEvent.keyDown(on as HTMLElement, { key });
    };
    const cheapest = by('cost')[0];
    for (let n = 0; n < found.front.length + 1; n++) press('ArrowLeft');
    expect(screen.getByRole('region', { name: `Solution ${cheapest}` })).toBeDefined();
    for (const next of by('cost').slice(1)) {
      press('ArrowRight');
      expect(screen.getByRole('region', { name: `Solution ${next}` })).toBeDefined();
    }
    press('ArrowRight');
    expect(screen.getByRole('region', { name: `Solution ${by('cost').at(-1)}` })).toBeDefined();
    await user.selectOptions(screen.getByLabelText('What is kept against'), 'face_m2');
    expect(screen.getByRole('group', { name: /against face: / })).toBeDefined();
    for (let n = 0; n < found.front.length + 1; n++) press('ArrowLeft');
    expect(screen.getByRole('region', { name: `Solution ${by('face_m2')[0]}` })).toBeDefined();
  });

  it('opens in the workbench as a variant of its own, which is saved', async () => {
    const { screen, user, server } = await opened(size, there());
    const before = recorded[`GET /builds/${MULE}`].build.variants.length;
    await user.click(
      await screen.findByRole('button', { name: 'Open solution 2 in the workbench' }),
    );
    await waitFor(() => expect(saved(server)).toHaveLength(before + 1));
    const added = saved(server).at(-1);
    expect(added?.name).toContain(found.solutions[1]?.titles.flat().join(', ') ?? '?');
    expect(new Set(saved(server).map((variant) => variant.id)).size).toBe(before + 1);
    await waitFor(() => expect(location.pathname).toContain(`/${added?.id}`));
  });

  it('opens none where the build holds no more, and says so', async () => {
    const stored = recorded[`GET /builds/${MULE}`];
    const [first] = stored.build.variants;
    const variants = Array.from({ length: MOST_VARIANTS }, (_, i) => ({
      ...first,
      ...(i > 0 ? { id: `v${i}`, name: `Another ${i}` } : {}),
    }));
    const full = { ...stored, build: { ...stored.build, variants } };
    const { screen } = await opened(size, there({}, { [`GET /builds/${MULE}`]: full }));
    const open = await screen.findByRole('button', { name: 'Open solution 1 in the workbench' });
    expect((open as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByText(/remove one first/)).toBeDefined();
  });

  it('says in other air what each still has, and the face that it takes', async () => {
    const { screen } = await opened(size, there());
    const elsewhere = await screen.findByRole('region', { name: 'Elsewhere' });
    const rows = within(elsewhere).getAllByRole('row').slice(1);
    expect(rows).toHaveLength(found.moves.length);
    expect(rows.map((row) => said(row.firstElementChild))).toContain('as asked');
    for (const [i, move] of found.moves.entries())
      for (const chance of move.chances) {
        expect(said(rows[i])).toContain(said({ textContent: inPercent(chance) } as Element));
        // Nothing is certain, and a chance that holds is one that reaches nine in ten.
        expect(said(rows[i])).not.toContain('100 %');
      }
  });
});

describe('what the cases ask for', () => {
  it('is one sentence, and all of it for the radiator shop on request', async () => {
    const { screen, user } = await opened(size, there());
    const asked = await screen.findByRole('region', { name: 'What the cases ask for' });
    const required = found.requirement;
    const hardest = required.cases.find((entry) => entry.case_id === required.case_id);
    expect(said(asked)).toContain(`${hardest?.name} asks for it`);
    const more = within(asked).getByRole('button', { name: 'For the radiator shop' });
    expect(more.getAttribute('aria-expanded')).toBe('false');
    await user.click(more);
    expect(within(asked).getAllByRole('row').slice(1)).toHaveLength(required.cases.length);
    expect(
      within(within(asked).getByRole('list', { name: 'Ways to move the air' })).getAllByRole(
        'listitem',
      ),
    ).toHaveLength(required.faces.length);
    for (const title of ['Ask for', 'Measure', 'Refuse'])
      expect(within(asked).getByRole('heading', { name: title })).toBeDefined();
    await user.click(within(asked).getByRole('button', { name: 'Less' }));
    expect(within(asked).queryByRole('table')).toBeNull();
  });

  it.each([
    [50, 103, 'Cap: at least 50 kPa, at most 103 kPa.'],
    [0, 0, 'Cap: an open one.'],
    [null, 0, 'Cap: an open one at most, and that is not enough.'],
    [null, 90, 'Cap: at least none does, at most 90 kPa.'],
  ])('says which cap does: from %s to %s', async (cap_lowest_kpa, cap_highest_kpa, words) => {
    const requirement = { ...found.requirement, cap_lowest_kpa, cap_highest_kpa };
    const { screen, user } = await opened(size, there({ result: { ...found, requirement } }));
    await user.click(await screen.findByRole('button', { name: 'For the radiator shop' }));
    const asked = screen.getByRole('region', { name: 'What the cases ask for' });
    expect(said(asked)).toContain(words);
  });

  it('is copied as a text with the caution at its end', async () => {
    const { screen, user } = await opened(size, there());
    await user.click(await screen.findByRole('button', { name: 'For the radiator shop' }));
    const write = vi.fn(() => Promise.resolve());
    vi.stubGlobal('navigator', { ...navigator, clipboard: { writeText: write } });
    await user.click(screen.getByRole('button', { name: 'Copy the specification' }));
    await waitFor(() => expect(write).toHaveBeenCalled());
    const text = String((write.mock.calls as unknown[][])[0]?.[0]);
    expect(text.startsWith('Radiator for ')).toBe(true);
    expect(text).toMatch(/Refuse:\n- /);
    expect(text.trimEnd().endsWith('a licensed technician come first.')).toBe(true);
  });

  it('says so where no core is large enough', async () => {
    const none = { ...found.requirement, chosen: null };
    const { screen } = await opened(size, there({ result: { ...found, requirement: none } }));
    expect(await screen.findByText(/No core is large enough/)).toBeDefined();
  });
});

describe('while it is looked for, and when it came to nothing', () => {
  it('says how far it is and stops on request', async () => {
    const running: Partial<SizingRun> = { state: 'running', progress: 0.37, result: null };
    const cancel = `POST /sizings/${done.id}/cancel`;
    const { screen, user, server } = await opened(
      size,
      there(running, { [cancel]: { ...done, state: 'cancelled', result: null } }),
    );
    expect(said(await screen.findByRole('status', { name: 'Progress' }))).toContain('37 %');
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(server.sent(cancel)).toHaveLength(1));
    expect(await screen.findByText(/Stopped. Nothing in the build was changed/)).toBeDefined();
  });

  it('says that another worker has begun again, and that none has taken it up', async () => {
    const lost = there({ state: 'running', progress: 0.1, attempt: 2, result: null });
    const first = await opened(size, lost);
    expect(said(await first.screen.findByRole('status', { name: 'Progress' }))).toContain(
      'another has begun again',
    );
    cleanup();
    const waits = there({ state: 'waiting', progress: 0, result: null });
    const { screen } = await opened(size, waits);
    expect(said(await screen.findByRole('status', { name: 'Progress' }))).toContain('No worker');
  });

  it('says why it failed', async () => {
    const failed = there({ state: 'failed', message: 'The worker ran out of time.', result: null });
    const { screen } = await opened(size, failed);
    expect(await screen.findByText('The worker ran out of time.')).toBeDefined();
  });

  it('says what would have to give where nothing fits', async () => {
    const obstacles = [{ wish: 'budget', text: ['Budget: 301 instead of 50.'] }];
    const result = { ...found, solutions: [], front: [], obstacles } as unknown as typeof found;
    const { screen } = await opened(size, there({ result }));
    expect(said(await screen.findByRole('region', { name: 'Nothing fits' }))).toContain(
      'Budget: 301 instead of 50.',
    );
    expect(screen.queryByRole('table', { name: 'Solutions' })).toBeNull();
  });

  it('is let go on request, and the one before it is shown', async () => {
    let removed = 0;
    const { screen, user } = await opened(
      size,
      new RecordedServer({
        [newest]: () => (removed ? null : done),
        [`DELETE /sizings/${done.id}`]: () => {
          removed += 1;
          return {};
        },
      }),
    );
    await user.click(await screen.findByRole('button', { name: 'Let this result go' }));
    expect(await screen.findByText(/Say what the parts must keep to/)).toBeDefined();
    expect(removed).toBe(1);
  });
});

describe('what has changed since', () => {
  it('is said of wishes, and not of wishes that were put back', async () => {
    const { screen, user } = await opened(size, there());
    const budget = await screen.findByLabelText('Budget');
    expect(screen.queryByText(/have changed since/)).toBeNull();
    await user.type(budget, '900');
    expect(screen.getByText(/The wishes have changed since this was found/)).toBeDefined();
    await user.clear(budget);
    expect(screen.queryByText(/have changed since/)).toBeNull();
  });

  it('is not said of a name: the parts are the same', async () => {
    const stored = recorded[`GET /builds/${MULE}`];
    const variants = stored.build.variants.map((v: { name: string }) => ({
      ...v,
      name: 'Renamed',
    }));
    const other = { ...stored, build: { ...stored.build, variants } };
    const { screen } = await opened(size, there({}, { [`GET /builds/${MULE}`]: other }));
    expect(await screen.findByText(/Which parts would do, from “Renamed”/)).toBeDefined();
    expect(screen.queryByText(/has changed since/)).toBeNull();
  });

  it('is said of the build', async () => {
    const stored = recorded[`GET /builds/${MULE}`];
    const site = { ...stored.build.site, ambient_c: stored.build.site.ambient_c + 3 };
    const other = { ...stored, build: { ...stored.build, site } };
    const { screen } = await opened(size, there({}, { [`GET /builds/${MULE}`]: other }));
    expect(await screen.findByText(/The build has changed since this was found/)).toBeDefined();
  });
});
