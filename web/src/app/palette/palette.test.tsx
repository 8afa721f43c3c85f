import { beforeEach, describe, expect, it, vi } from 'vitest';
import { clicked, drawn, pressed, typed } from '../../kit/testing';
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

beforeEach(() => {
  ran.length = 0;
  // What a browser has and this document has not.
  HTMLDialogElement.prototype.showModal = function () {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function () {
    this.open = false;
    this.dispatchEvent(new Event('close'));
  };
  Element.prototype.scrollIntoView = () => undefined;
  vi.stubGlobal('CSS', { escape: (text: string) => text.replace(/[^\w-]/g, (c) => `\\${c}`) });
});

async function open() {
  let closed = 0;
  const shown = await drawn(<Palette commands={commands} onClose={() => closed++} />);
  const field = shown.at.querySelector('[role=combobox]');
  const options = () => [...shown.at.querySelectorAll('[role=option]')].map((e) => e.textContent);
  const here = () => shown.at.querySelector('[role=option][data-highlighted]')?.textContent;
  return { shown, field, options, here, closed: () => closed };
}

describe('the palette', () => {
  it('lists every command, the first of them ready', async () => {
    const { shown, field, options, here } = await open();
    expect(field?.getAttribute('aria-expanded')).toBe('true');
    expect((field as HTMLInputElement).labels?.[0]?.textContent).toBe('Command');
    expect(options()).toHaveLength(4);
    expect(options()[0]).toBe('Go to Drive itG');
    expect(here()).toContain('Drive it');
    await shown.gone();
  });

  it('runs what a few letters find, once it has closed', async () => {
    const { shown, field, options, here, closed } = await open();
    await typed(field, 'lever shr');
    expect(options()).toEqual(['Try a lever A full shroud']);
    expect(here()).toContain('A full shroud');
    await pressed(field, 'Enter');
    expect(ran).toEqual(['A full shroud']);
    expect(closed()).toBe(1);
    await shown.gone();
  });

  it('goes down and up by the arrows', async () => {
    const { shown, field, here } = await open();
    await pressed(field, 'ArrowDown');
    expect(here()).toContain('Size it');
    await pressed(field, 'ArrowDown');
    await pressed(field, 'ArrowUp');
    expect(here()).toContain('Size it');
    await pressed(field, 'Enter');
    expect(ran).toEqual(['Size it']);
    await shown.gone();
  });

  it('takes a press, and says where nothing is called so', async () => {
    const { shown, field } = await open();
    await clicked([...shown.at.querySelectorAll('[role=option]')].at(3) ?? null);
    expect(ran).toEqual(['Undo']);
    await typed(field, 'nothing of the kind');
    expect(shown.at.querySelector('[role=status]')?.textContent).toContain('Nothing is called');
    await pressed(field, 'Enter');
    expect(ran).toEqual(['Undo']);
    await shown.gone();
  });

  it('closes by Escape and runs nothing', async () => {
    const { shown, field, closed } = await open();
    await pressed(field, 'Escape');
    expect(closed()).toBe(1);
    expect(ran).toEqual([]);
    await shown.gone();
  });
});
