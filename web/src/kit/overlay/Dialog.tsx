import { createSlotRecipeContext, defineSlotRecipe, type HTMLChakraProps } from '@chakra-ui/react';
import { type ReactNode, useLayoutEffect, useRef } from 'react';
import { Button, Heading } from '../primitives';

const recipe = defineSlotRecipe({
  slots: ['sheet', 'head', 'body'],
  base: {
    sheet: {
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
    head: {
      display: 'flex',
      alignItems: 'center',
      justifyContent: 'space-between',
      gap: '3',
      marginBottom: '2',
    },
    body: { padding: '4' },
  },
});
const { withProvider, withContext } = createSlotRecipeContext({ recipe });
const Sheet = withProvider<HTMLDialogElement, HTMLChakraProps<'dialog'>>('dialog', 'sheet');
const Head = withContext<HTMLDivElement, HTMLChakraProps<'div'>>('div', 'head');
const Body = withContext<HTMLDivElement, HTMLChakraProps<'div'>>('div', 'body');

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
  const here = useRef(false);
  useLayoutEffect(() => {
    const sheet = ref.current;
    if (!sheet || sheet.open) return;
    here.current = true;
    sheet.showModal();
    // A sheet that is typed into begins in its field, not at the button that closes it.
    sheet.querySelector('input')?.focus();
    // Closed before it goes, so that the browser gives the focus back to where it was.
    return () => {
      here.current = false;
      sheet.close();
    };
  }, []);
  return (
    <Sheet
      ref={ref}
      aria-label={title}
      // A browser tells late that a sheet was closed: its successor may be open by then.
      onClose={() => here.current && onClose()}
      onKeyDown={(event) => {
        event.stopPropagation();
        // At once, and not when the browser tells: what is pressed next belongs to the page.
        if (event.key !== 'Escape' || event.nativeEvent.isComposing) return;
        event.preventDefault();
        onClose();
      }}
      onClick={(event) => {
        if (event.target === ref.current) onClose();
      }}
    >
      <Body>
        <Head>
          <Heading>{title}</Heading>
          <Button look="bare" title="Esc" onClick={onClose}>
            Close
          </Button>
        </Head>
        {children}
      </Body>
    </Sheet>
  );
}
