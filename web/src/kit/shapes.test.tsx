import { cleanup } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { drawn } from '../testing/drawn';
import { Circle, Mark } from './shapes';
import { colour, semanticColors, styled } from './theme/colours';
import { system } from './theme/system';
import { tone } from './theme/temperature';

afterEach(cleanup);

test('a colour for a drawing is what the rest of the page calls by that name', () => {
  for (const name of Object.keys(semanticColors))
    expect(colour(name)).toBe(system.token.var(`colors.${name}`));
  for (const name of ['plain', 'strong'])
    expect(styled('font-weights', name)).toBe(system.token.var(`fontWeights.${name}`));
});

test('any other colour stays as it is written', () => {
  for (const written of ['none', tone(20), 'url(#tone)', 'currentColor', undefined])
    expect(colour(written)).toBe(written);
});

test('a shape has its colours by name, and words in a drawing their weight', () => {
  const { container } = drawn(
    <svg role="img" aria-label="A part">
      <Circle cx={5} cy={5} r={2} fill="none" stroke="accent" />
      <Mark x={3} y={4} weight="strong" over>
        96
      </Mark>
    </svg>,
  );
  const circle = container.querySelector('circle');
  expect(circle?.getAttribute('stroke')).toBe(colour('accent'));
  expect(circle?.getAttribute('fill')).toBe('none');
  const words = container.querySelector('text');
  expect(words?.getAttribute('fill')).toBe(colour('ink'));
  expect(words?.getAttribute('font-weight')).toBe(styled('font-weights', 'strong'));
  expect(words?.getAttribute('paint-order')).toBe('stroke');
});
