import { ChakraProvider } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { beforeEach, describe, expect, it } from 'vitest';
import { useUnits } from '../../model/units/store';
import { inDays, inPercent, marks } from '../../model/words/days';
import { system } from '../theme/system';
import { tone, toneStops } from '../theme/temperature';
import { Quantity } from './Quantity';
import { Sentence } from './Sentence';
import { VerdictMark } from './VerdictMark';

const text = (node: ReactNode) =>
  renderToStaticMarkup(<ChakraProvider value={system}>{node}</ChakraProvider>)
    .replace(/<style[\s\S]*?<\/style>/g, '')
    .replace(/<[^>]+>/g, '')
    .trim();

beforeEach(() => useUnits.getState().choose('metric'));

describe('words on the page', () => {
  it('carry quantities in the reader’s units', () => {
    const said = [
      'Only ',
      { quantity: 'temperature_difference', value: 5, bare: false },
      ' to the limit.',
    ];
    expect(text(<Sentence text={said} />)).toBe('Only 5\u00a0K to the limit.');
  });

  it('leave the unit out where the next number has it', () => {
    const said = [
      { quantity: 'airflow', value: 0.09, bare: true },
      ' of ',
      { quantity: 'airflow', value: 0.14, bare: false },
    ];
    expect(text(<Sentence text={said} />)).toBe('0.090 of 0.140\u00a0m³/s');
  });

  it('say none where there is no number', () => {
    expect(text(<Quantity value={null} kind="temperature" />)).toBe('none');
    expect(text(<Quantity value={null} kind="temperature" none="never settles" />)).toBe(
      'never settles',
    );
  });

  it.each(['holds', 'tight', 'fails'] as const)('name a verdict by its word: %s', (verdict) => {
    expect(text(<VerdictMark verdict={verdict} />)).toBe(verdict);
  });
});

describe('the temperature tone', () => {
  it('runs from slate to ember and stops at its ends', () => {
    expect(tone(-30)).toBe(tone(toneStops[0].at));
    expect(tone(200)).toBe(tone(130));
    expect(tone(null)).toBe(tone(130));
    expect(new Set([20, 60, 85, 105, 130].map((t) => tone(t))).size).toBe(5);
  });
});

describe('a chance in days', () => {
  it.each([
    [1, 'ninety-nine days in a hundred'],
    [0.9, 'nine days in ten'],
    [0.899, 'eight days in ten'],
    [0.5, 'even odds'],
    [0.499, 'just under even odds'],
    [0.3, 'three days in ten'],
    [0.05, 'less than one day in ten'],
    [0.004, 'not one day in a hundred'],
  ])('%d is %s', (chance, says) => {
    expect(inDays(chance)).toBe(says);
    expect(
      text(<Sentence text={['Holds ', { quantity: 'chance', value: chance, bare: false }]} />),
    ).toBe(`Holds ${says}`);
  });

  it.each([
    [1, '99 %'],
    [0.9996, '99 %'],
    [0.9, '90 %'],
    [0.897, '89 %'],
    [0.29, '29 %'],
    [0.01, '1 %'],
    [0.0099, 'under 1 %'],
    [0, 'under 1 %'],
  ])('%d is %s in per cent', (chance, says) => {
    expect(inPercent(chance).replaceAll('\u00a0', ' ')).toBe(says);
  });

  it('fills no mark that is not reached', () => {
    expect([0.04, 0.1, 0.899, 0.9, 1].map(marks)).toEqual([0, 1, 8, 9, 10]);
  });
});
