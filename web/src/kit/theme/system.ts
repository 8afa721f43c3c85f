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

const colors = {
  paper: { value: '#f5f2e9' },
  sheet: { value: '#fffdf8' },
  shade: { value: '#ebe6d8' },
  graphite: { value: '#20262b' },
  lead: { value: '#4b5258' },
  line: { value: '#d3cdbb' },
  pine: { value: '#1e5145' },
  pineSoft: { value: '#dfe9e2' },
  ochre: { value: '#7a4f00' },
  ochreSoft: { value: '#f5e6c3' },
  wine: { value: '#8a1538' },
  wineSoft: { value: '#f6dede' },
  night: { value: '#14181b' },
  nightSheet: { value: '#1c2226' },
  nightShade: { value: '#272e33' },
  chalk: { value: '#ece9df' },
  ash: { value: '#b3b8b6' },
  nightLine: { value: '#3b444a' },
  mint: { value: '#86cdb4' },
  mintSoft: { value: '#203a33' },
  honey: { value: '#eac06c' },
  honeySoft: { value: '#3c3015' },
  rose: { value: '#ff9ba5' },
  roseSoft: { value: '#45202a' },
  slate: { value: '#7f7a68' },
  nightSlate: { value: '#7d8890' },
  mist: { value: '#9fb0b8' },
  nightMist: { value: '#5b6d77' },
};

const pair = (light: string, dark: string) => ({
  value: { base: `{colors.${light}}`, _dark: `{colors.${dark}}` },
});

const semanticColors = {
  ground: pair('paper', 'night'),
  raised: pair('sheet', 'nightSheet'),
  sunken: pair('shade', 'nightShade'),
  ink: pair('graphite', 'chalk'),
  quiet: pair('lead', 'ash'),
  rule: pair('line', 'nightLine'),
  edge: pair('graphite', 'ash'),
  /** Of what is typed into: 3:1 against the ground and the field (WCAG 1.4.11). */
  field: pair('slate', 'nightSlate'),
  accent: pair('pine', 'mint'),
  onAccent: pair('sheet', 'night'),
  accentSoft: pair('pineSoft', 'mintSoft'),
  holds: pair('pine', 'mint'),
  tight: pair('ochre', 'honey'),
  fails: pair('wine', 'rose'),
  tightSoft: pair('ochreSoft', 'honeySoft'),
  failsSoft: pair('wineSoft', 'roseSoft'),
  air: pair('mist', 'nightMist'),
};

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
    cssVarsPrefix: 'eb',
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
        zIndex: { strip: { value: 5 }, skip: { value: 20 } },
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
