import { describe, expect, it } from 'vitest';
import { type Command, keysOf, matching } from './commands';

const press = (key: string, held: Partial<Record<'ctrl' | 'meta' | 'shift' | 'alt', true>> = {}) =>
  keysOf({
    key,
    ctrlKey: held.ctrl ?? false,
    metaKey: held.meta ?? false,
    shiftKey: held.shift ?? false,
    altKey: held.alt ?? false,
  });

describe('pressed keys', () => {
  it('are written the same on every keyboard', () => {
    expect(press('r')).toBe('R');
    expect(press('R', { shift: true })).toBe('R');
    expect(press('?', { shift: true })).toBe('?');
    expect(press('z', { ctrl: true })).toBe('Ctrl+Z');
    expect(press('Z', { meta: true, shift: true })).toBe('Ctrl+Shift+Z');
    expect(press('Escape')).toBe('Escape');
  });

  it('with Alt are nobody else’s', () => {
    expect(press('r', { alt: true })).toBe('Alt+R');
  });
});

describe('commands', () => {
  const list = ['Coolant', 'Cap and limits', 'Air: grille, fan, shroud', 'All cases as rows'].map(
    (name): Command => ({ name, group: 'Open', run: () => undefined }),
  );

  it('are found by every word, wherever it stands', () => {
    expect(matching(list, 'fan air').map((c) => c.name)).toEqual(['Air: grille, fan, shroud']);
    expect(matching(list, 'open coo').map((c) => c.name)).toEqual(['Coolant']);
    expect(matching(list, 'nothing')).toEqual([]);
    expect(matching(list, ' ')).toHaveLength(4);
  });

  it('come first when they begin with what is typed', () => {
    expect(matching(list, 'ca').map((c) => c.name)[0]).toBe('Cap and limits');
  });
});
