import { cleanup, fireEvent, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, said, saving } from '../../testing/page';

afterEach(cleanup);

const station = (name: string) => `/builds/${MULE}/as-found/stations/${name}`;
const judged = recorded['POST /evaluate?variant=as-found&levers=false'];
type Saved = {
  variants: {
    cap: Record<string, number | null>;
    thermostat: Record<string, number | null>;
    fan_switch: Record<string, number | null>;
    radiator: Record<string, number | null>;
  }[];
};

async function at(name: string, answers = {}) {
  const server = new RecordedServer({ ...saving(), ...answers });
  const page = await opened(station(name), server);
  const first = () => (server.sent(`PUT /builds/${MULE}`) as Saved[]).at(-1)?.variants[0];
  return { ...page, server, first };
}

describe('parts that were weighed', () => {
  it('stand with their reasons, one as the answer, one as what is fitted', async () => {
    const { screen } = await at('cap');
    const caps = within(await screen.findByRole('list', { name: 'Caps' })).getAllByRole('listitem');
    expect(caps.length).toBe(judged.caps.length);
    judged.caps.forEach((cap, i) => {
      expect(said(caps[i])).toContain(`${cap.pressure_kpa} kPa`);
      const [reason] = cap.text;
      if (typeof reason === 'string') expect(said(caps[i])).toContain(reason.trim());
    });
    expect(caps.filter((line) => said(line).endsWith('fitted')).length).toBeLessThanOrEqual(1);
  });

  it('are fitted with one press, which is saved and can be undone', async () => {
    const { screen, user, first } = await at('cap');
    const field = (await screen.findByLabelText('Cap pressure')) as HTMLInputElement;
    const before = field.value;
    const caps = await screen.findByRole('list', { name: 'Caps' });
    const line = within(caps)
      .getAllByRole('listitem')
      .find((e) => said(e).startsWith('48 kPa')) as HTMLElement;
    await user.click(within(line).getByRole('button', { name: 'fit it' }));
    expect(field.value).toBe('48');
    expect(said(line)).toContain('fitted');
    expect(within(line).queryByRole('button', { name: 'fit it' })).toBeNull();
    await waitFor(() => expect(first()?.cap.pressure_kpa).toBe(48));
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(field.value).toBe(before);
  });

  it('are thermostats, in the units that are chosen', async () => {
    const { screen, user } = await at('thermostat');
    const list = await screen.findByRole('list', { name: 'Thermostats' });
    const names = () =>
      within(list)
        .getAllByRole('listitem')
        .map((e) => said(e).match(/^−?\d+\s°[CF]/)?.[0]);
    expect(names()).toEqual(judged.thermostats.map((t) => `${Math.round(t.opens_c)} °C`));
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(names()).toEqual(
      judged.thermostats.map((t) => `${Math.round(t.opens_c * 1.8 + 32)} °F`),
    );
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
  });

  it('are fan switches, both points of which are taken at once', async () => {
    const { screen, user, first } = await at('thermostat');
    const list = await screen.findByRole('list', { name: 'Fan switches' });
    const lines = within(list).getAllByRole('listitem');
    const free = lines.findIndex((e) => within(e).queryByRole('button', { name: 'fit it' }));
    const wanted = judged.switches[free];
    await user.click(within(lines[free] as HTMLElement).getByRole('button', { name: 'fit it' }));
    await waitFor(() =>
      expect(first()?.fan_switch).toMatchObject({
        on_c: wanted?.on_c,
        off_c: wanted?.off_c,
        full_on_c: null,
        full_off_c: null,
      }),
    );
  });
});

describe('what stands beside the fields of a station', () => {
  it('is what the condition of the core costs, pulled by a slider into its field', async () => {
    const { screen, first } = await at('radiator');
    const costs = await screen.findByRole('region', { name: 'What its condition costs' });
    const asked = recorded['POST /curves/condition?variant=as-found&case=pass'].conditions;
    const tubes = asked.find((one) => one.field === 'blocked_tubes_share');
    expect(said(costs)).toContain(`costs ${tubes?.cost_kw.toFixed(1)} kW`);
    const slider = within(costs).getByLabelText('Tubes blocked') as HTMLInputElement;
    const says = () => (slider.getAttribute('aria-valuetext') ?? '').replace(/\s/g, ' ');
    expect(says()).toBe('10 %');
    fireEvent.change(slider, { target: { value: '0.2' } });
    await waitFor(() => expect(first()?.radiator.blocked_tubes_share).toBeCloseTo(0.2, 9));
    expect(says()).toBe('20 %');
    const field = document.querySelector('[data-path$="radiator/blocked_tubes_share"]');
    expect((field as HTMLInputElement).value).toBe('20');
  });

  it('says of a fault that it gains where it does: fewer tubes run faster', async () => {
    const question = 'POST /curves/condition?variant=as-found&case=pass';
    const { conditions, ...rest } = recorded[question];
    const of = (cost: number) =>
      conditions.map((one, n) => ({ ...one, cost_kw: n === 0 ? cost : 0.04 }));
    const { screen } = await at('radiator', { [question]: { ...rest, conditions: of(-1.3) } });
    const costs = await screen.findByRole('region', { name: 'What its condition costs' });
    expect(said(costs)).toContain('gains 1.3 kW');
    expect(said(costs).match(/costs nothing/g)).toHaveLength(conditions.length - 1);
  });

  it('is each coolant in this build, with the one that is in it', async () => {
    const { screen } = await at('coolant');
    const table = await screen.findByRole('table', { name: 'Coolants in this build' });
    const rows = within(table).getAllByRole('row').slice(1);
    const { outcomes } = recorded['POST /curves/coolants?variant=as-found&case=pass'];
    expect(rows.length).toBe(outcomes.length);
    expect(rows.filter((row) => said(row).includes('fitted')).length).toBe(1);
    const water = rows.find((row) => said(row).startsWith('Water')) as HTMLElement;
    expect(within(water).getAllByRole('cell').map(said)).toContain('0 °C');
    const chart = screen.getByRole('img', { name: /^Freezing and boiling of ethylene glycol/ });
    expect(chart.getAttribute('aria-label')).toContain('boils at 125');
  });

  it.each([
    ['engine', /^Heat by school/],
    ['radiator', /^Core to scale: 650 mm wide/],
    ['air', /^Fan and resistance/],
    ['flow', /^Pump and resistances/],
    ['flow', /^Heat against coolant/],
  ])('is drawn at %s', async (name, label) => {
    const { screen } = await at(name);
    const drawn = await screen.findByRole('img', {
      name: (text) => label.test(text.replaceAll('\u00a0', ' ').replaceAll('\u202f', ' ')),
    });
    expect(drawn.querySelectorAll('path, rect, line').length).toBeGreaterThan(2);
  });
});
