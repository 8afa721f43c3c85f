import { afterEach, expect, it } from 'vitest';
import { type Drawn, drawn } from '../testing';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from './Table';

let shown: Drawn;
afterEach(() => shown.gone());

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

it('is a table to whoever hears the page, stacked or not', async () => {
  shown = await drawn(table('md'));
  const roles = [...shown.at.querySelectorAll('[role]')].map((e) => e.getAttribute('role'));
  expect(roles).toEqual([
    'table',
    'rowgroup',
    'columnheader',
    'columnheader',
    'rowgroup',
    'row',
    'cell',
    'cell',
  ]);
  expect(shown.at.querySelector('th')?.scope).toBe('col');
  expect(shown.at.querySelector('[data-label=hottest]')?.textContent).toBe('104');
});

it('says once, at its root, how all of it looks', async () => {
  shown = await drawn(table());
  const looks = () =>
    [...shown.at.querySelectorAll('table, thead, tbody, tr, td')].map((e) => e.className);
  const plain = looks();
  await shown.again(table('lg'));
  const stacked = looks();
  // The row of the head is the table's own; every other part stacks.
  const same = stacked.filter((name, i) => name === plain[i]);
  expect(same).toHaveLength(1);
});
