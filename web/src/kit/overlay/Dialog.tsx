import { chakra } from '@chakra-ui/react';
import { type ReactNode, useLayoutEffect, useRef } from 'react';
import { Box, Button, Heading, Row } from '../primitives';

const Sheet = chakra('dialog', {
  base: {
    background: 'raised',
    color: 'ink',
    border: '1px solid',
    borderColor: 'edge',
    borderRadius: 'soft',
    padding: '0',
    margin: 'auto',
    marginTop: '8vh',
    width: 'min(720px, calc(100vw - 32px))',
    maxHeight: '80vh',
    overflow: 'auto',
    _backdrop: { background: 'ink', opacity: 0.4 },
  },
});

/** A sheet over the page; Esc, the button or a press beside it closes it, and the focus goes back. */
export function Dialog({
  title,
  onClose,
  children,
}: {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useLayoutEffect(() => {
    const sheet = ref.current;
    if (!sheet || sheet.open) return;
    sheet.showModal();
    // A sheet that is typed into begins in its field, not at the button that closes it.
    sheet.querySelector('input')?.focus();
    // Closed before it goes, so that the browser gives the focus back to where it was.
    return () => sheet.close();
  }, []);
  return (
    <Sheet
      ref={ref}
      aria-label={title}
      onClose={onClose}
      onKeyDown={(event) => event.stopPropagation()}
      onClick={(event) => {
        if (event.target === ref.current) ref.current?.close();
      }}
    >
      <Box padding="4">
        <Row justifyContent="space-between" marginBottom="2">
          <Heading>{title}</Heading>
          <Button look="bare" title="Esc" onClick={() => ref.current?.close()}>
            Close
          </Button>
        </Row>
        {children}
      </Box>
    </Sheet>
  );
}
