import { chakra, Portal, Tooltip } from '@chakra-ui/react';
import { type ReactNode, useState } from 'react';
import { glossary, type TermName } from './glossary';

const Word = chakra('button', {
  base: {
    font: 'inherit',
    color: 'inherit',
    background: 'none',
    border: 'none',
    padding: '0',
    minHeight: 'target',
    minWidth: 'target',
    display: 'inline-flex',
    alignItems: 'flex-end',
    justifyContent: 'flex-end',
    textAlign: 'inherit',
    cursor: 'help',
    textDecoration: 'underline dotted',
    textUnderlineOffset: '3px',
  },
});
const Says = chakra(Tooltip.Content, {
  base: {
    background: 'ink',
    color: 'ground',
    padding: '3',
    borderRadius: 'soft',
    maxWidth: '300px',
    textStyle: 'small',
    zIndex: 'skip',
  },
});

/** A word with what it means: under the mouse, at the focus, or at a touch. */
export function Term({
  name,
  children,
}: {
  readonly name: TermName;
  readonly children?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Tooltip.Root
      open={open}
      openDelay={150}
      closeOnClick={false}
      closeOnPointerDown={false}
      onOpenChange={(next) => setOpen(next.open)}
      positioning={{ placement: 'top' }}
    >
      <Tooltip.Trigger asChild>
        <Word type="button" onClick={() => setOpen(true)}>
          {children ?? glossary[name].word}
        </Word>
      </Tooltip.Trigger>
      <Portal>
        <Tooltip.Positioner>
          <Says>{glossary[name].says}</Says>
        </Tooltip.Positioner>
      </Portal>
    </Tooltip.Root>
  );
}
