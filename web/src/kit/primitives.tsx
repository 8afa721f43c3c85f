/** The recipes of the page as elements. Components are put together from these. */

import { useFieldContext } from '@chakra-ui/react';
import { type ComponentProps, useState } from 'react';
import { element } from './theme/element';

/** What is typed into; in a `Labelled` field it knows its label, help and what is wrong, as do the others below. */
export { Input } from '@chakra-ui/react';

export const Box = element('div');
export const Row = element('div', { base: { display: 'flex', alignItems: 'center', gap: '3' } });
export const Column = element('div', {
  base: { display: 'flex', flexDirection: 'column', gap: '2' },
});
export const Grid = element('div', { base: { display: 'grid' } });

const words = {
  base: { textStyle: 'body' },
  variants: {
    size: {
      huge: { textStyle: 'huge' },
      large: { textStyle: 'large' },
      strong: { textStyle: 'strong' },
      body: { textStyle: 'body' },
      small: { textStyle: 'small' },
    },
    tone: {
      ink: { color: 'ink' },
      quiet: { color: 'quiet' },
      accent: { color: 'accent' },
      holds: { color: 'holds' },
      tight: { color: 'tight' },
      fails: { color: 'fails' },
    },
  },
} as const;

export const Words = element('span', words);
export const Paragraph = element('p', words);
export const Title = element('h1', { base: { textStyle: 'large' } });
export const Heading = element('h2', { base: { textStyle: 'strong' } });

/** What is pressed changes its colour softly, but for those who want nothing to move. */
const soft = {
  transitionProperty: 'background-color, border-color, color',
  transitionDuration: 'quick',
} as const;

const Pressed = element('button', {
  base: {
    ...soft,
    minHeight: 'target',
    paddingInline: '4',
    borderRadius: 'soft',
    border: '1px solid',
    cursor: 'pointer',
    textStyle: 'body',
    fontWeight: 'firm',
    whiteSpace: 'nowrap',
    _disabled: { opacity: 0.55, cursor: 'default' },
  },
  variants: {
    look: {
      main: { background: 'accent', borderColor: 'accent', color: 'onAccent' },
      plain: {
        background: 'transparent',
        borderColor: 'rule',
        color: 'ink',
        _hover: { borderColor: 'edge' },
      },
      bare: {
        background: 'transparent',
        borderColor: 'transparent',
        color: 'accent',
        paddingInline: '2',
        _hover: { textDecoration: 'underline' },
      },
    },
  },
  defaultVariants: { look: 'plain' },
});

type ButtonProps = ComponentProps<typeof Pressed>;

/** What is pressed. It sends the form that it stands in only where it says so, by its type. One that cannot be pressed any
 * more keeps the focus that it has: the keys of who has just pressed it would begin at the top of the page. */
export function Button(props: ButtonProps) {
  return props.disabled === undefined ? (
    <Pressed type="button" {...props} />
  ) : (
    <Halting type="button" {...props} />
  );
}

function Halting({ disabled, onClick, onFocus, onBlur, ...others }: ButtonProps) {
  const [held, setHeld] = useState(false);
  return (
    <Pressed
      {...others}
      disabled={disabled && !held}
      aria-disabled={disabled || undefined}
      onFocus={(event) => {
        setHeld(true);
        onFocus?.(event);
      }}
      onBlur={(event) => {
        setHeld(false);
        onBlur?.(event);
      }}
      onClick={(event) => {
        if (!disabled) return onClick?.(event);
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
}

const chosen = {
  background: 'accent',
  color: 'onAccent',
  borderColor: 'accent',
  // Under the mouse it stays what it is: light words on dark.
  _hover: { background: 'accent' },
} as const;

export const Station = element('button', {
  base: {
    ...soft,
    background: 'raised',
    border: '1.5px solid',
    borderColor: 'edge',
    borderRadius: 'soft',
    color: 'ink',
    cursor: 'pointer',
    textAlign: 'left',
    padding: '3',
    minHeight: 'target',
    _hover: { background: 'accentSoft' },
    _pressed: chosen,
    _selected: chosen,
  },
});

/** A box to tick; drawn here, for a browser's own is white in the dark. Small to look at, large enough to hit. */
const Ticked = element('input', {
  base: {
    appearance: 'none',
    display: 'inline-grid',
    placeContent: 'center',
    flexShrink: 0,
    width: 'target',
    height: 'target',
    margin: '-11px',
    cursor: 'pointer',
    background: 'transparent',
    border: 'none',
    _before: {
      content: '""',
      gridArea: '1 / 1',
      width: '22px',
      height: '22px',
      background: 'raised',
      border: '1.5px solid',
      borderColor: 'edge',
      borderRadius: '4px',
    },
    _checked: {
      _before: { background: 'accent', borderColor: 'accent' },
      _after: {
        content: '""',
        gridArea: '1 / 1',
        placeSelf: 'center',
        width: '14px',
        height: '14px',
        background: 'onAccent',
        clipPath: 'polygon(8% 52%, 22% 38%, 40% 57%, 78% 16%, 92% 30%, 40% 84%)',
      },
    },
  },
});
export const Tick = (props: ComponentProps<typeof Ticked>) => (
  <Ticked type="checkbox" {...useFieldContext()?.getInputProps()} {...props} />
);

/** The unit at the end of a field. */
export const FieldUnit = element('span', {
  base: {
    textStyle: 'small',
    color: 'quiet',
    position: 'absolute',
    right: '3',
    top: '50%',
    transform: 'translateY(-50%)',
  },
});

/** How far long work is. */
export const Progress = element('progress', {
  base: { width: '100%', height: '10px', accentColor: 'accent', display: 'block' },
});

const Range = element('input', {
  base: { width: '100%', minHeight: 'target', accentColor: 'accent', cursor: 'pointer' },
});
/** A quantity that is dragged; what it says aloud is its value in the reader's unit. */
export const Slider = (props: ComponentProps<typeof Range> & { 'aria-valuetext': string }) => (
  <Range type="range" {...useFieldContext()?.getInputProps()} {...props} />
);

const Chooser = element('select', {
  base: {
    minHeight: 'target',
    paddingInline: '2',
    background: 'raised',
    border: '1px solid',
    borderColor: 'field',
    borderRadius: 'soft',
    textStyle: 'body',
    fontWeight: 'field',
    width: '100%',
    _hover: { borderColor: 'edge' },
  },
});

export const Select = (props: ComponentProps<typeof Chooser>) => (
  <Chooser {...useFieldContext()?.getSelectProps()} {...props} />
);

export const Notice = element('div', {
  base: {
    display: 'flex',
    alignItems: 'center',
    flexWrap: 'wrap',
    gap: '3',
    paddingInline: '6',
    paddingBlock: '2',
    textStyle: 'body',
    borderBottom: '1px solid',
    borderColor: 'rule',
  },
  variants: {
    kind: {
      calm: { background: 'accentSoft' },
      tight: { background: 'tightSoft' },
      fails: { background: 'failsSoft' },
    },
  },
  defaultVariants: { kind: 'calm' },
});

/** A drawing; what it is drawn of is in `shapes.tsx`. */
export const Svg = element('svg');

export const HiddenText = element('span', {
  base: {
    position: 'absolute',
    width: '1px',
    height: '1px',
    overflow: 'hidden',
    clipPath: 'inset(50%)',
    whiteSpace: 'nowrap',
  },
});
