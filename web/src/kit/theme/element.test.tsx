import { screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Box, Tick, Words } from '../primitives';
import { same } from './element';

test('props are the same by what they say, and what React made is itself alone', () => {
  const child = <Words>96</Words>;
  expect(same({ size: 'small', children: '96' }, { size: 'small', children: '96' })).toBe(true);
  expect(same({ display: { base: 'none' } }, { display: { base: 'none' } })).toBe(true);
  expect(same({ _hover: { color: { base: 'ink' } } }, { _hover: { color: { base: 'ink' } } })).toBe(
    true,
  );
  expect(same({ children: child }, { children: child })).toBe(true);
  expect(same({ children: child }, { children: <Words>96</Words> })).toBe(false);
  expect(same({ children: '96' }, { children: '97' })).toBe(false);
  expect(same({ display: { base: 'none' } }, { display: { base: 'none', md: 'block' } })).toBe(
    false,
  );
  expect(same({ hidden: true }, {})).toBe(false);
  expect(same({ a: undefined }, { b: undefined })).toBe(false);
  expect(same({ onClick: () => 1 }, { onClick: () => 1 })).toBe(false);
});

test('an element says what it was last told', () => {
  const [first, second] = [vi.fn(), vi.fn()];
  const page = (words: string, colour: string, pressed: () => void) => (
    <Box color={colour}>
      <Words data-testid="words">{words}</Words>
      <Tick aria-label="keep" onChange={pressed} />
    </Box>
  );
  const { rerender, container } = drawn(page('96 °C', 'ink', first));
  const was = (container.firstElementChild as HTMLElement).className;
  rerender(page('97 °C', 'fails', second));
  expect(screen.getByTestId('words').textContent).toBe('97 °C');
  expect((container.firstElementChild as HTMLElement).className).not.toBe(was);
  screen.getByLabelText('keep').click();
  expect([first.mock.calls.length, second.mock.calls.length]).toEqual([0, 1]);
  rerender(page('96 °C', 'ink', first));
  expect((container.firstElementChild as HTMLElement).className).toBe(was);
});
