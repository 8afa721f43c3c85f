/** Shapes of drawings: SVG's own elements, which know the page's colours by name. A page draws hundreds of them. */

import { type ComponentProps, createElement } from 'react';
import { colour, styled } from './theme/colours';

type ShapeName = 'path' | 'line' | 'rect' | 'circle';

const shape =
  <Name extends ShapeName>(name: Name) =>
  ({ fill, stroke, ...said }: ComponentProps<Name>) =>
    createElement(name, { ...said, fill: colour(fill), stroke: colour(stroke) });

export const Path = shape('path');
export const Line = shape('line');
export const Rect = shape('rect');
export const Circle = shape('circle');

/** Several shapes, of which one thing is said. */
export const Layer = (said: ComponentProps<'g'>) => <g {...said} />;

/** Words in a drawing. */
export function Mark({
  weight,
  over = false,
  fill = 'ink',
  ...said
}: ComponentProps<'text'> & {
  readonly weight?: 'plain' | 'strong';
  /** Keeps them readable where lines pass behind them. */
  readonly over?: boolean;
}) {
  const behind = { stroke: colour('sunken'), strokeWidth: '5px', paintOrder: 'stroke' };
  return (
    <text
      fontSize="13.5px"
      fontWeight={weight && styled('font-weights', weight)}
      {...(over && behind)}
      {...said}
      fill={colour(fill)}
    />
  );
}
