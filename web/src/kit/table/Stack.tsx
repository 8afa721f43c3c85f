/** A table that becomes rows of labels where it has no room: below "md" or below "lg". Each cell brings its label. */

import { chakra } from '@chakra-ui/react';
import type { ComponentProps } from 'react';

const below = (display: string, narrow: object) => ({
  md: { display: { base: 'block', md: display }, ...narrow },
  lg: { display: { base: 'block', lg: display }, ...narrow },
});

const TableBase = chakra('table', {
  base: { width: '100%' },
  variants: { stack: below('table', {}) },
});
const HeadBase = chakra('thead', {
  variants: {
    stack: {
      md: { display: { base: 'none', md: 'table-header-group' } },
      lg: { display: { base: 'none', lg: 'table-header-group' } },
    },
  },
});
const BodyBase = chakra('tbody', { variants: { stack: below('table-row-group', {}) } });
const RowBase = chakra('tr', {
  base: { borderTop: '1px solid', borderColor: 'rule' },
  variants: {
    stack: {
      md: {
        display: { base: 'grid', md: 'table-row' },
        gridTemplateColumns: 'repeat(3, minmax(0,1fr))',
        gap: '2',
        paddingBlock: { base: '2', md: '0' },
      },
      lg: {
        display: { base: 'grid', lg: 'table-row' },
        gridTemplateColumns: { base: 'repeat(2, minmax(0,1fr))', md: 'repeat(4, minmax(0,1fr))' },
        gap: '2',
        paddingBlock: { base: '3', lg: '0' },
      },
    },
  },
});
const labelled = {
  content: 'attr(data-label)',
  display: 'block',
  textStyle: 'small',
  color: 'quiet',
  fontWeight: 'plain',
} as const;
const CellBase = chakra('td', {
  variants: {
    stack: {
      md: {
        display: { base: 'block', md: 'table-cell' },
        textAlign: { base: 'left', md: 'inherit' },
        _before: { ...labelled, display: { base: 'block', md: 'none' } },
      },
      lg: {
        display: { base: 'block', lg: 'table-cell' },
        textAlign: { base: 'left', lg: 'inherit' },
        _before: { ...labelled, display: { base: 'block', lg: 'none' } },
      },
    },
    /** Takes a whole line where the table is stacked. */
    wide: { true: { gridColumn: '1 / -1' } },
  },
});

// Where their display is changed, browsers forget what tables are: the roles say it.
export const StackTable = (props: ComponentProps<typeof TableBase>) => (
  <TableBase role="table" {...props} />
);
export const StackHead = (props: ComponentProps<typeof HeadBase>) => (
  <HeadBase role="rowgroup" {...props} />
);
export const StackBody = (props: ComponentProps<typeof BodyBase>) => (
  <BodyBase role="rowgroup" {...props} />
);
export const StackRow = (props: ComponentProps<typeof RowBase>) => (
  <RowBase role="row" {...props} />
);
export function StackCell({
  label,
  ...props
}: ComponentProps<typeof CellBase> & { readonly label?: string }) {
  return <CellBase role="cell" data-label={label ?? ''} {...props} />;
}
