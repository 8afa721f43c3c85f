import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

const build = `/builds/${MULE}`;
const judged = recorded['POST /evaluate?variant=as-found&levers=true'];
const stored = recorded[`GET /builds/${MULE}`].build;

/** A server that makes a variant of any lever, and judges it as the one that it was made from. */
function pulling(name: string): RecordedServer {
  const id = `as-found-${name}`;
  const pulled = {
    ...stored,
    variants: [...stored.variants, { ...stored.variants[0], id, name: `As found + ${name}` }],
  };
  return new RecordedServer({
    ...saving(),
    [`POST /levers/${name}?variant=as-found`]: pulled,
    [`POST /evaluate?variant=${id}&levers=false`]: { ...judged, variant_id: id, levers: [] },
    [`POST /evaluate?variant=${id}&levers=true`]: { ...judged, variant_id: id },
    [`POST /uncertainty?variant=${id}`]: recorded['POST /uncertainty?variant=as-found'],
  });
}

async function helping(server?: RecordedServer, search = '') {
  const page = await opened(`${build}/as-found${search}`, server);
  const help = await page.screen.findByRole('region', { name: 'What would help' });
  await within(help).findAllByRole('button', { name: 'try' });
  return { ...page, help };
}

/** What a lever brings in a case, as it was recorded. */
const worth = (caseId: string) =>
  judged.levers
    .map((lever) => lever.cases.find((one) => one.case_id === caseId)?.ambient_gain_k ?? null)
    .sort((a, b) => (b ?? Number.NEGATIVE_INFINITY) - (a ?? Number.NEGATIVE_INFINITY));

/** Kelvins that stand behind each line, as numbers. */
const shown = (help: HTMLElement) =>
  [...said(help).matchAll(/([+−]?\d+)\sK/g)].map((found) => Number(found[1]?.replace('−', '-')));

describe('what would help', () => {
  it('begins with what helps most in the case that is shown, and says no more than it is', async () => {
    const { help } = await helping();
    const expected = worth('pass')
      .slice(0, 6)
      .map((kelvin) => Math.round(kelvin ?? 0));
    expect(shown(help)).toEqual(expected);
    expect(said(help)).toContain('The pass, 2200 m');
  });

  it('says of a case that never settles what makes it settle, before what is unclear', async () => {
    const levers = judged.levers.map((lever, n) => ({
      ...lever,
      cases: lever.cases.map((one) => ({ ...one, ambient_gain_k: null, cures: n === 3 })),
    }));
    const server = new RecordedServer({
      'POST /evaluate?variant=as-found&levers=true': { ...judged, levers },
    });
    const { help } = await helping(server);
    expect(said(help).indexOf('it settles')).toBeGreaterThan(0);
    expect(said(help).indexOf('it settles')).toBeLessThan(said(help).indexOf('unclear'));
    expect(said(help)).toContain(levers[3]?.text.filter((word) => typeof word === 'string')[0]);
  });

  it('goes by the case that is chosen', async () => {
    const { help } = await helping(undefined, '?case=motorway');
    const [most] = worth('motorway');
    expect(shown(help)[0]).toBe(Math.round(most ?? 0));
    expect(said(help)).toContain('Motorway with trailer');
  });

  it('shows those that do not help, too, and takes them away again', async () => {
    const { help, user } = await helping();
    const count = () => within(help).getAllByRole('button', { name: 'try' }).length;
    expect(count()).toBe(6);
    await user.click(within(help).getByRole('button', { name: /^all 14, also/ }));
    expect(count()).toBe(judged.levers.length);
    expect(Math.min(...shown(help))).toBeLessThan(0);
    await user.click(within(help).getByRole('button', { name: 'fewer' }));
    expect(count()).toBe(6);
  });

  it('says what is to be minded about a lever beside it', async () => {
    const levers = judged.levers.map((lever) => ({
      ...lever,
      cautions: lever.name === 'core_area' ? [['The car has no room for it.']] : [],
    }));
    const server = new RecordedServer({
      'POST /evaluate?variant=as-found&levers=true': { ...judged, levers },
    });
    const { help, user } = await helping(server);
    await user.click(within(help).getByRole('button', { name: /^all 14, also/ }));
    expect(said(help).match(/Mind: /g)).toHaveLength(1);
    expect(said(help)).toMatch(/try\s*Mind: The car has no room for it\./);
  });

  it('is tried in a variant of its own, which is shown and saved; undo takes it away', async () => {
    const server = pulling('fan_flow');
    const { help, screen, user } = await helping(server);
    await user.click(within(help).getAllByRole('button', { name: 'try' })[0] as HTMLElement);
    await waitFor(() => expect(location.pathname).toBe(`${build}/as-found-fan_flow`));
    const variants = screen.getByRole('region', { name: 'Variants' });
    const pressed = () => within(variants).getByRole('button', { name: /As found \+ fan_flow/ });
    await waitFor(() => expect(pressed().getAttribute('aria-pressed')).toBe('true'));
    await waitFor(() => expect(server.sent(`PUT ${build}`).length).toBeGreaterThan(0));
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(location.pathname).toBe(`${build}/as-found`));
    expect(said(screen.getByRole('region', { name: 'Variants' }))).not.toContain('fan_flow');
  });

  it('leaves what was changed while it was being tried', async () => {
    let answer = () => {};
    const held = new Promise<void>((done) => {
      answer = done;
    });
    const server = pulling('fan_flow');
    const own = server.own as Record<string, unknown>;
    const pulled = own['POST /levers/fan_flow?variant=as-found'];
    own['POST /levers/fan_flow?variant=as-found'] = () => held.then(() => pulled);
    const { help, screen, user } = await helping(server);
    await user.click(within(help).getAllByRole('button', { name: 'try' })[0] as HTMLElement);
    const ambient = screen.getByLabelText('ambient');
    await user.clear(ambient);
    await user.type(ambient, '31');
    answer();
    await waitFor(() => expect(location.pathname).toBe(`${build}/as-found-fan_flow`));
    type Saved = { site: { ambient_c: number }; variants: { id: string }[] };
    const saved = () => server.sent(`PUT ${build}`).at(-1) as Saved | undefined;
    await waitFor(() => expect(saved()?.variants.at(-1)?.id).toBe('as-found-fan_flow'));
    expect(saved()?.site.ambient_c).toBe(31);
  });

  it('from the palette is refused in words, too', async () => {
    const why = 'Cap pressure is 265 kPa; it must lie within 0 to 250 kPa.';
    const server = new RecordedServer({
      ...saving(),
      'POST /levers/cap_up?variant=as-found': new Refusal(422, why),
    });
    const { screen, user } = await helping(server);
    await user.keyboard('{Control>}k{/Control}');
    await user.type(await screen.findByRole('combobox', { name: 'Command' }), 'cap lever{Enter}');
    expect(said(await screen.findByText(why))).toBe(why);
    await user.click(screen.getByRole('button', { name: 'Good' }));
    expect(screen.queryByText(why)).toBeNull();
  });

  it('that leaves what a build may hold is refused in words, and nothing is changed', async () => {
    const why = 'Cap pressure is 265 kPa; it must lie within 0 to 250 kPa.';
    const server = new RecordedServer({
      ...saving(),
      'POST /levers/fan_flow?variant=as-found': new Refusal(422, why),
    });
    const { help, user } = await helping(server);
    await user.click(within(help).getAllByRole('button', { name: 'try' })[0] as HTMLElement);
    expect(said(await within(help).findByRole('alert'))).toBe(why);
    expect(location.pathname).toBe(`${build}/as-found`);
    expect(server.sent(`PUT ${build}`)).toEqual([]);
  });
});
