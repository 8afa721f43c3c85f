/** Every colour of the page, by name, in the light and in the dark. */

/** What the page's own variables of style begin with. */
export const PREFIX = 'eb';

export const colors = {
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

export const semanticColors = {
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

/** What the page's style calls one of its values. */
export const styled = (kind: string, name: string) =>
  `var(--${PREFIX}-${kind}-${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)})`;

/** A colour for a drawing: by its name the page's own, which follows light and dark; anything else as it stands. */
export const colour = (name: string | undefined) =>
  name && Object.hasOwn(semanticColors, name) ? styled('colors', name) : name;
