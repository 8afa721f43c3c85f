import { cleanup } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import type { CaseResult, Evaluation } from '../../model/api/types';
import recorded from '../../testing/answers.json';
import { drawn } from '../../testing/drawn';
import { LadderBand } from './LadderBand';

afterEach(cleanup);

it('keeps what lies close together on the band apart in words, in order', () => {
  const evaluation = recorded['POST /evaluate?variant=as-found&levers=false'];
  const close = { ...evaluation.cases[0], limit_c: 97, boils_c: 103, top_hose_c: 105, timed: null };
  const { container } = drawn(
    <LadderBand
      evaluation={evaluation as unknown as Evaluation}
      shownCase={close as unknown as CaseResult}
    >
      whole
    </LadderBand>,
  );
  const labels = [...container.querySelectorAll('text')]
    .map((text) => ({ says: text.textContent, x: Number(text.getAttribute('x')) }))
    .filter(({ says }) => !says?.startsWith('top hose'));
  expect(labels.map(({ says }) => says)).toEqual(['opens 82', 'limit 97', 'boils 103']);
  const gaps = labels.slice(1).map(({ x }, n) => x - (labels[n]?.x ?? 0));
  // A letter of 13 px is some 7 px wide; "boils 103" has nine.
  expect(Math.min(...gaps)).toBeGreaterThan(9 * 7);
  expect(Math.max(...labels.map(({ x }) => x))).toBeLessThan(366 - 31);
});
