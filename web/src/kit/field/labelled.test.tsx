import { afterEach, describe, expect, it } from 'vitest';
import { Input, Select, Slider } from '../primitives';
import { clicked, type Drawn, drawn } from '../testing';
import { Labelled, TickField } from './Labelled';

let shown: Drawn;
afterEach(() => shown.gone());

const field = (wrong: string | null) => (
  <Labelled label="Core width" unit="mm" wrong={wrong} help="Fins only.">
    <Input defaultValue="560" />
  </Labelled>
);
const described = (control: Element | null) =>
  (control?.getAttribute('aria-describedby') ?? '')
    .split(' ')
    .filter(Boolean)
    .map((id) => document.getElementById(id)?.textContent);

describe('a labelled field', () => {
  it('is tied to its label, its help and what is wrong with it', async () => {
    shown = await drawn(field(null));
    const input = shown.at.querySelector('input');
    expect(input?.labels?.[0]?.textContent).toBe('Core width');
    expect(input?.getAttribute('aria-invalid')).toBeNull();
    expect(described(input)).toEqual(['Fins only.']);
    expect(shown.at.querySelector('[role=alert]')).toBeNull();

    await shown.again(field('Core width must lie within 100 to 2000 mm.'));
    expect(input?.getAttribute('aria-invalid')).toBe('true');
    expect(shown.at.querySelector('[role=alert]')?.textContent).toContain('100 to 2000');
    expect(described(input)).toContain('Core width must lie within 100 to 2000 mm.');
    expect(input?.value).toBe('560');
  });

  it('says its unit to the eye alone: the label and the help have words', async () => {
    shown = await drawn(field(null));
    const unit = [...shown.at.querySelectorAll('[aria-hidden]')].find(
      (e) => e.textContent === 'mm',
    );
    expect(unit).toBeDefined();
  });

  it('holds choices, ticks and sliders as well', async () => {
    const said: boolean[] = [];
    shown = await drawn(
      <>
        <Labelled label="Coolant" help="What is in it.">
          <Select>
            <option>water</option>
          </Select>
        </Labelled>
        <Labelled label="Blocked tubes">
          <Slider min={0} max={1} defaultValue={0.2} />
        </Labelled>
        <TickField
          label="Electric"
          help="Turns by itself."
          onChange={(event) => said.push(event.target.checked)}
        />
      </>,
    );
    const [select, slider, tick] = ['select', '[type=range]', '[type=checkbox]'].map((what) =>
      shown.at.querySelector<HTMLInputElement>(what),
    );
    expect([select, slider, tick].map((e) => e?.labels?.[0]?.textContent)).toEqual([
      'Coolant',
      'Blocked tubes',
      'Electric',
    ]);
    expect(described(select ?? null)).toEqual(['What is in it.']);
    expect(described(tick ?? null)).toEqual(['Turns by itself.']);
    await clicked(tick?.labels?.[0] ?? null);
    expect(said).toEqual([true]);
  });
});
