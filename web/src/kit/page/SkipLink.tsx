import { chakra } from '@chakra-ui/react';

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

/** The first thing that Tab reaches: past the header to what the page is about. */
export function SkipLink() {
  return (
    <Skip
      href="#main"
      onClick={(event) => {
        event.preventDefault();
        document.getElementById('main')?.focus();
      }}
    >
      Skip to the answer
    </Skip>
  );
}
