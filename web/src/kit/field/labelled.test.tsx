import { cleanup, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Input, Select, Slider } from '../primitives';
import { Labelled, TickField } from './Labelled';

afterEach(cleanup);

const field = (wrong: string | null) => (
  <Labelled label="Core width" unit="mm" wrong={wrong} help="Fins only.">
    <Input defaultValue="560" />
  </Labelled>
);
const pointedAt = (control: Element, by: string) =>
  document.getElementById(control.getAttribute(by) ?? '')?.textContent;

describe('a labelled field', () => {
  it('is tied to its label, its help and what is wrong with it', async () => {
    const shown = drawn(field(null));
    const input = shown.getByLabelText('Core width') as HTMLInputElement;
    expect(input.getAttribute('aria-invalid')).toBeNull();
    expect(pointedAt(input, 'aria-describedby')).toBe('Fins only.');
    expect(shown.queryByRole('alert')).toBeNull();

    shown.rerender(field('Core width must lie within 100 to 2000 mm.'));
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(shown.getByRole('alert').textContent).toContain('100 to 2000');
    await waitFor(() => expect(pointedAt(input, 'aria-errormessage')).toContain('100 to 2000'));
    expect(input.value).toBe('560');
  });

  it('brings what is wrong into sight of whoever types in it, and of nobody else', () => {
    const shown = drawn(field(null));
    const into: Element[] = [];
    vi.spyOn(Element.prototype, 'scrollIntoView').mockImplementation(function (this: Element) {
      into.push(this);
    });
    shown.rerender(field('Too wide.'));
    expect(into).toEqual([]);
    shown.rerender(field(null));
    shown.getByLabelText('Core width').focus();
    shown.rerender(field('Too wide.'));
    expect(into).toEqual([shown.getByRole('alert')]);
  });

  it('shows its unit to the eye alone', () => {
    const shown = drawn(field(null));
    expect(shown.getByText('mm').getAttribute('aria-hidden')).toBe('true');
  });

  it('holds choices, ticks and sliders as well', async () => {
    const said: boolean[] = [];
    const shown = drawn(
      <>
        <Labelled label="Coolant" help="What is in it.">
          <Select>
            <option>water</option>
          </Select>
        </Labelled>
        <Labelled label="Blocked tubes">
          <Slider min={0} max={1} defaultValue={0.2} aria-valuetext="20 %" />
        </Labelled>
        <TickField
          label="Electric"
          help="Turns by itself."
          onChange={(event) => said.push(event.target.checked)}
        />
      </>,
    );
    const select = shown.getByRole('combobox', { name: 'Coolant' });
    expect(pointedAt(select, 'aria-describedby')).toBe('What is in it.');
    expect(shown.getByRole('slider', { name: 'Blocked tubes' })).toBeDefined();
    const tick = shown.getByRole('checkbox', { name: 'Electric' });
    expect(pointedAt(tick, 'aria-describedby')).toBe('Turns by itself.');
    await userEvent.click(shown.getByText('Electric'));
    expect(said).toEqual([true]);
  });
});
