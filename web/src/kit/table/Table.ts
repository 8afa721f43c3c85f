/** Tables. One of a `kind` says it once, at its root; below "md" or "lg" it may `stack`: rows of labels, where a table has no room. */

import {
  createSlotRecipeContext,
  defineSlotRecipe,
  type HTMLChakraProps,
  type RecipeVariantProps,
} from '@chakra-ui/react';

const labelled = {
  content: 'attr(data-label)',
  display: 'block',
  textStyle: 'small',
  color: 'quiet',
  fontWeight: 'plain',
  whiteSpace: 'normal',
} as const;

/** Up to a width each row is a small grid of cells that bring their labels, and the head is gone. */
function stacked(at: 'md' | 'lg') {
  const from = (display: string, below = 'block') => ({ display: { base: below, [at]: display } });
  const columns = {
    md: 'repeat(3, minmax(0,1fr))',
    lg: { base: 'repeat(2, minmax(0,1fr))', md: 'repeat(4, minmax(0,1fr))' },
  }[at];
  return {
    root: from('table'),
    head: from('table-header-group', 'none'),
    body: from('table-row-group'),
    row: {
      ...from('table-row', 'grid'),
      gridTemplateColumns: columns,
      gap: '2',
      paddingBlock: { base: '2', [at]: '0' },
    },
    cell: {
      ...from('table-cell'),
      [`${at}Down`]: { textAlign: 'left' },
      _before: { ...labelled, display: { base: 'block', [at]: 'none' } },
    },
  };
}

const recipe = defineSlotRecipe({
  slots: ['root', 'head', 'body', 'row', 'column', 'cell'],
  base: {
    root: { width: '100%', marginTop: '2' },
    row: { borderTop: '1px solid', borderColor: 'rule' },
    column: {
      textStyle: 'small',
      fontWeight: 'plain',
      color: 'quiet',
      verticalAlign: 'bottom',
      textAlign: 'left',
      padding: '1',
    },
    cell: { padding: '1' },
  },
  variants: {
    kind: {
      /** Words first, numbers to the right, small. */
      figures: {
        column: { textAlign: 'right', _first: { textAlign: 'left' } },
        cell: {
          textStyle: 'small',
          textAlign: 'right',
          whiteSpace: 'nowrap',
          _first: { textAlign: 'left', whiteSpace: 'normal' },
        },
      },
      /** Cells that hold more than a figure. */
      entries: { column: { padding: '2' }, cell: { padding: '2' } },
      /** Cells that are typed into, or are as wide as they can be. */
      bare: {},
    },
    stack: { md: stacked('md'), lg: stacked('lg') },
  },
  defaultVariants: { kind: 'figures' },
});

const { withProvider, withContext } = createSlotRecipeContext({ recipe });

type Labelled = HTMLChakraProps<'td'> & { readonly 'data-label'?: string };

// Where their display is changed, browsers forget what tables are: the roles say it.
export const Table = withProvider<
  HTMLTableElement,
  HTMLChakraProps<'table', RecipeVariantProps<typeof recipe>>
>('table', 'root', { defaultProps: { role: 'table' } });
export const TableHead = withContext<HTMLTableSectionElement, HTMLChakraProps<'thead'>>(
  'thead',
  'head',
  { defaultProps: { role: 'rowgroup' } },
);
export const TableBody = withContext<HTMLTableSectionElement, HTMLChakraProps<'tbody'>>(
  'tbody',
  'body',
  { defaultProps: { role: 'rowgroup' } },
);
export const TableRow = withContext<HTMLTableRowElement, HTMLChakraProps<'tr'>>('tr', 'row', {
  defaultProps: { role: 'row' },
});
export const Column = withContext<HTMLTableCellElement, HTMLChakraProps<'th'>>('th', 'column', {
  defaultProps: { role: 'columnheader', scope: 'col' },
});
/** A cell; where its table stacks, `data-label` says what it holds. */
export const Cell = withContext<HTMLTableCellElement, Labelled>('td', 'cell', {
  defaultProps: { role: 'cell' },
});
