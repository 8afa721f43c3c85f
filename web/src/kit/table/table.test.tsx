import { cleanup } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from './Table';

afterEach(cleanup);

const table = (stack?: 'md' | 'lg') => (
  <Table aria-label="Legs" {...(stack ? { stack } : {})}>
    <TableHead>
      <tr>
        <Column>Leg</Column>
        <Column>hottest</Column>
      </tr>
    </TableHead>
    <TableBody>
      <TableRow>
        <Cell>The pass</Cell>
        <Cell data-label="hottest">104</Cell>
      </TableRow>
    </TableBody>
  </Table>
);

it('is a table to whoever hears the page, stacked or not', () => {
  const shown = drawn(table('md'));
  expect(shown.getByRole('table', { name: 'Legs' })).toBeDefined();
  expect(shown.getAllByRole('columnheader').map((e) => e.textContent)).toEqual(['Leg', 'hottest']);
  expect(shown.getAllByRole('rowgroup')).toHaveLength(2);
  expect(shown.getAllByRole('row')).toHaveLength(2);
  expect(shown.getAllByRole('cell').map((e) => e.getAttribute('role'))).toEqual(['cell', 'cell']);
  expect(shown.getByText('104').getAttribute('data-label')).toBe('hottest');
});

it('says once, at its root, how all of it looks', () => {
  const shown = drawn(table());
  const looks = () =>
    [...shown.container.querySelectorAll('table, thead, tbody, tr, td')].map((e) => e.className);
  const plain = looks();
  shown.rerender(table('lg'));
  // The row of the head is the table's own; every other part stacks.
  expect(looks().filter((name, i) => name === plain[i])).toHaveLength(1);
});
