import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, said, saving } from '../../testing/page';

afterEach(cleanup);

type Sent = {
  variants: {
    thermostat: { opens_c: number };
    fan_switch: { on_c: number; off_c: number };
  }[];
};
const ASKED = 'POST /evaluate?variant=as-found&levers=false';

/** A server whose ladder is that of what it is sent. */
function judging(): RecordedServer {
  const judged = recorded[ASKED];
  const answer = (body: unknown) => {
    const [first] = (body as Sent).variants;
    const ladder = {
      ...judged.ladder,
      thermostat_opens_c: first?.thermostat.opens_c,
      fan_on_c: first?.fan_switch.on_c,
      fan_off_c: first?.fan_switch.off_c,
    };
    return { ...judged, ladder };
  };
  return new RecordedServer({ ...saving(), [ASKED]: answer });
}

async function laddered() {
  const server = judging();
  const page = await opened(`/builds/${MULE}/as-found`, server);
  const ladder = await page.screen.findByRole('region', { name: 'Ladder of temperatures' });
  const grip = (name: string) => within(ladder).getByRole('slider', { name });
  const says = (name: string) =>
    (grip(name).getAttribute('aria-valuetext') ?? '').replace(/\s/g, ' ');
  const saved = () => (server.sent(`PUT /builds/${MULE}`) as Sent[]).at(-1)?.variants[0];
  const press = async (name: string, keys: string) => {
    grip(name).focus();
    await page.user.keyboard(keys);
  };
  return { ...page, ladder, grip, says, saved, press };
}

describe('the ladder', () => {
  it('has a grip for what can be set, each with its value and its ends', async () => {
    const { grip, says } = await laddered();
    expect(says('Thermostat grip')).toBe('82 °C');
    expect(says('Fan-on grip')).toBe('96 °C');
    expect(says('Fan-off grip')).toBe('91 °C');
    expect(grip('Fan-on grip').getAttribute('aria-valuemin')).toBe('92');
    expect(grip('Fan-off grip').getAttribute('aria-valuemax')).toBe('95');
  });

  it('is moved by keys, a degree or five at a time, judged and saved', async () => {
    const { says, saved, press } = await laddered();
    await press('Thermostat grip', '{ArrowDown}');
    await waitFor(() => expect(says('Thermostat grip')).toBe('81 °C'));
    await press('Thermostat grip', '{PageUp}');
    await waitFor(() => expect(says('Thermostat grip')).toBe('86 °C'));
    await waitFor(() => expect(saved()?.thermostat.opens_c).toBe(86));
    // What is no key of a grip leaves it.
    await press('Thermostat grip', '{Home}');
    expect(says('Thermostat grip')).toBe('86 °C');
  });

  it('keeps the points of a fan’s switch apart, whichever is moved', async () => {
    const { says, saved, press } = await laddered();
    await press('Fan-on grip', '{PageDown}');
    await waitFor(() => expect(says('Fan-on grip')).toBe('92 °C'));
    await press('Fan-off grip', '{PageUp}');
    expect(says('Fan-off grip')).toBe('91 °C');
    await waitFor(() => expect(saved()?.fan_switch).toMatchObject({ on_c: 92, off_c: 91 }));
  });

  it('goes by whole degrees of the reader’s unit', async () => {
    const { says, saved, press, screen, user } = await laddered();
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(says('Thermostat grip')).toBe('180 °F');
    await press('Thermostat grip', '{ArrowUp}');
    await waitFor(() => expect(says('Thermostat grip')).toBe('181 °F'));
    await waitFor(() => expect(saved()?.thermostat.opens_c).toBeCloseTo((181 - 32) / 1.8, 9));
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
  });

  it('is given back by undo', async () => {
    const { says, press, screen, user } = await laddered();
    await press('Thermostat grip', '{PageDown}');
    await waitFor(() => expect(says('Thermostat grip')).toBe('77 °C'));
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(says('Thermostat grip')).toBe('82 °C'));
  });

  it('has what is colder than its scale at its foot', async () => {
    const judged = recorded[ASKED];
    const [first, ...others] = judged.cases;
    const cold = { ...judged, cases: [{ ...first, top_hose_c: -23, timed: null }, ...others] };
    const { screen } = await opened(
      `/builds/${MULE}/as-found`,
      new RecordedServer({ ...saving(), [ASKED]: cold }),
    );
    const ladder = await screen.findByRole('region', { name: 'Ladder of temperatures' });
    const tall = Number(ladder.querySelector('svg')?.getAttribute('viewBox')?.split(' ')[3]);
    const marks = [...ladder.querySelectorAll('path')]
      .map((path) => /^M116 ([\d.]+)/.exec(path.getAttribute('d') ?? '')?.[1])
      .filter((y) => y !== undefined);
    expect(marks.length).toBe(judged.cases.length);
    expect(Math.max(...marks.map(Number))).toBe(tall - 54);
  });

  it('says in words what stands on it', async () => {
    const { ladder } = await laddered();
    expect(said(ladder)).toContain('boils');
    expect(said(ladder)).toContain('limit');
  });
});
