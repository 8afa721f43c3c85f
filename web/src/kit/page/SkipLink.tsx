import { chakra } from '@chakra-ui/react';
import { useEffect } from 'react';

const Skip = chakra('a', {
  base: {
    position: 'absolute',
    left: '2',
    top: '-100px',
    padding: '3',
    background: 'raised',
    color: 'accent',
    zIndex: 'skip',
    _focus: { top: '2' },
  },
});

/** The address that was shown last, whichever frame it stood in. */
let last: string | null = null;

const toMain = (options?: FocusOptions) => document.getElementById('main')?.focus(options);

/** The first thing that Tab reaches: past the header to what the page is about. There the keys go on, too, where what
 * had the focus has gone with its view. */
export function SkipLink({ at }: { readonly at: string }) {
  useEffect(() => {
    if (last !== null && last !== at && document.activeElement === document.body)
      toMain({ preventScroll: true });
    last = at;
  }, [at]);
  return (
    <Skip
      href="#main"
      onClick={(event) => {
        event.preventDefault();
        toMain();
      }}
    >
      Skip to the answer
    </Skip>
  );
}
