/** Every colour, font, radius and shadow of the page. Components use only the names given here. */

import {
  createSystem,
  defaultBaseConfig,
  defineConfig,
  defineRecipe,
  defineTextStyles,
  type SystemContext,
} from '@chakra-ui/react';
import { fieldRecipe } from '../field/Labelled';
import { colors, PREFIX, semanticColors } from './colours';

const textStyles = defineTextStyles({
  huge: {
    value: {
      fontSize: '2.125rem',
      fontWeight: 'strong',
      lineHeight: 1.05,
      letterSpacing: '-0.01em',
    },
  },
  large: { value: { fontSize: '1.3125rem', fontWeight: 'strong', lineHeight: 1.15 } },
  strong: { value: { fontSize: '1rem', fontWeight: 'strong', lineHeight: 1.3 } },
  body: { value: { fontSize: '0.9375rem', fontWeight: 'plain', lineHeight: 1.4 } },
  small: { value: { fontSize: '0.8125rem', fontWeight: 'plain', lineHeight: 1.35 } },
});

const inputRecipe = defineRecipe({
  base: {
    width: '100%',
    minHeight: 'target',
    paddingInline: '3',
    background: 'raised',
    border: '1px solid',
    borderColor: 'field',
    borderRadius: 'soft',
    textStyle: 'strong',
    fontWeight: 'field',
    color: 'ink',
    textOverflow: 'ellipsis',
    _hover: { borderColor: 'edge' },
    _placeholder: { color: 'quiet', fontWeight: 'plain', opacity: 1 },
    _invalid: { borderColor: 'fails', borderWidth: '2px', background: 'failsSoft' },
  },
});

const made = createSystem(
  defaultBaseConfig,
  defineConfig({
    cssVarsPrefix: PREFIX,
    globalCss: {
      '*': {
        boxSizing: 'border-box',
        _motionReduce: { transitionDuration: '0s !important', animationDuration: '0s !important' },
      },
      'html, body, #root': { height: '100%', margin: 0, _print: { height: 'auto' } },
      'nav, header button, header select, [data-print=no]': {
        _print: { display: 'none !important' },
      },
      'section, tr, figure': { _print: { breakInside: 'avoid' } },
      // On paper nothing stays folded.
      'details::details-content': { _print: { contentVisibility: 'visible', display: 'block' } },
      html: {
        colorScheme: 'light',
        _dark: { colorScheme: 'dark' },
        // What has the focus is not brought to where the strips of a phone cover it.
        scrollPaddingBlock: { base: '68px', md: '0' },
      },
      body: {
        background: 'ground',
        color: 'ink',
        fontFamily: 'body',
        fontSize: '0.9375rem',
        fontVariantNumeric: 'tabular-nums lining-nums',
        lineHeight: 1.4,
        overflowX: 'hidden',
      },
      'h1, h2, h3, p, ul, ol, dl, dd, table, figure, fieldset': { margin: 0, padding: 0 },
      'ul, ol': { listStyle: 'none' },
      fieldset: { border: 'none', minWidth: 0 },
      'button, input, select, textarea': {
        font: 'inherit',
        color: 'inherit',
        letterSpacing: 'inherit',
      },
      table: { borderCollapse: 'collapse' },
      ':focus-visible': { outline: '2px solid', outlineColor: 'accent', outlineOffset: '2px' },
    },
    theme: {
      breakpoints: { sm: '480px', md: '760px', lg: '1120px', xl: '1440px' },
      tokens: {
        colors,
        fontWeights: {
          plain: { value: 440 },
          field: { value: 520 },
          firm: { value: 560 },
          strong: { value: 620 },
        },
        fonts: { body: { value: "'Archivo Variable', sans-serif" } },
        radii: { soft: { value: '4px' }, round: { value: '999px' } },
        sizes: { target: { value: '44px' } },
        durations: { quick: { value: '120ms' } },
        zIndex: { hanging: { value: 2 }, strip: { value: 5 }, skip: { value: 20 } },
        spacing: {
          1: { value: '4px' },
          2: { value: '8px' },
          3: { value: '12px' },
          4: { value: '16px' },
          5: { value: '20px' },
          6: { value: '24px' },
          8: { value: '32px' },
          10: { value: '40px' },
        },
      },
      semanticTokens: { colors: semanticColors },
      textStyles,
      recipes: { input: inputRecipe },
      slotRecipes: { field: fieldRecipe },
    },
  }),
);

/** Chakra asks for the recipe of an element at every drawing of it; worked out anew each time, they took a quarter of a keystroke's script. */
function once<Config extends object, Recipe>(make: (config: Config) => Recipe) {
  const known = new WeakMap<Config, Recipe>();
  return (config: Config): Recipe => {
    const found = known.get(config) ?? make(config);
    known.set(config, found);
    return found;
  };
}

export const system: SystemContext = {
  ...made,
  cva: once(made.cva as (config: object) => unknown) as SystemContext['cva'],
};
