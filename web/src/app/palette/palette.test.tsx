import { cleanup } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { drawn } from '../../testing/drawn';
import type { Command } from './commands';
import { Palette } from './Palette';

const ran: string[] = [];
const command = (group: string, name: string, keys?: string): Command => ({
  group,
  name,
  ...(keys ? { keys } : {}),
  run: () => ran.push(name),
});
const commands = [
  command('Go to', 'Drive it', 'G'),
  command('Go to', 'Size it', 'Z'),
  command('Try a lever', 'A full shroud'),
  command('Build', 'Undo', 'Ctrl+Z'),
];

afterEach(() => {
  cleanup();
  ran.length = 0;
});

function open() {
  let closed = 0;
  const shown = drawn(<Palette commands={commands} onClose={() => closed++} />);
  const field = shown.getByRole('combobox', { name: 'Command' });
  field.focus();
  const options = () => shown.queryAllByRole('option').map((e) => e.textContent);
  const here = () => shown.container.querySelector('[aria-selected=true]')?.textContent;
  return { shown, field, options, here, user: userEvent.setup(), closed: () => closed };
}

describe('the palette', () => {
  it('lists every command, the first of them ready', () => {
    const { field, options, here } = open();
    expect(field.getAttribute('aria-expanded')).toBe('true');
    expect(options()).toHaveLength(4);
    expect(options()[0]).toBe('Go to Drive itG');
    expect(here()).toContain('Drive it');
  });

  it('runs what a few letters find, once it has closed', async () => {
    const { user, options, here, closed } = open();
    await user.keyboard('lever shr');
    expect(options()).toEqual(['Try a lever A full shroud']);
    expect(here()).toContain('A full shroud');
    await user.keyboard('{Enter}');
    expect(ran).toEqual(['A full shroud']);
    expect(closed()).toBe(1);
  });

  it('goes down and up by the arrows', async () => {
    const { user, here } = open();
    await user.keyboard('{ArrowDown}');
    expect(here()).toContain('Size it');
    await user.keyboard('{ArrowDown}{ArrowUp}');
    expect(here()).toContain('Size it');
    await user.keyboard('{Enter}');
    expect(ran).toEqual(['Size it']);
  });

  it('takes a press', async () => {
    const { shown, user } = open();
    await user.click(shown.getByRole('option', { name: /Undo/ }));
    expect(ran).toEqual(['Undo']);
  });

  it('says where nothing is called so, and Enter then does nothing', async () => {
    const { shown, user } = open();
    await user.keyboard('nothing of the kind{Enter}');
    expect(shown.getByRole('status').textContent).toContain('Nothing is called');
    expect(ran).toEqual([]);
  });
});
