import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { type ReactNode, useId } from 'react';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { Svg } from '../primitives';
import { Line, Mark, Path } from '../shapes';
import { apart, type Label, widthOf } from './labels';

const WIDTH = 500;
const EDGE = { left: 52, top: 26, bottom: 24 };
const NO_FOOT = 8;

/** Where the axes begin and end, as shares of a chart's width with `room` px on its right. */
export function acrossShares(room: number): readonly [number, number] {
  return [EDGE.left / WIDTH, (WIDTH - room) / WIDTH];
}

export interface Axis {
  readonly kind: string;
  /** Ends in the document's unit. */
  readonly from: number;
  readonly to: number;
  /** What follows the unit, such as "of air". */
  readonly of?: string;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Where things go on a chart, px, for values in the document's units. */
export interface Place {
  readonly x: (value: number) => number;
  readonly y: (value: number) => number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  readonly path: (points: readonly Point[]) => string;
  /** Keeps lines inside the axes. */
  readonly clip: string;
}

/** Axes with units and ticks in the reader's own; what stands on them is drawn by `children`. */
export function Chart({
  label,
  x,
  y,
  height = 176,
  room = 112,
  group = false,
  foot = true,
  children,
}: {
  /** The chart in words. */
  readonly label: string;
  readonly x: Axis;
  readonly y: Axis;
  readonly height?: number;
  /** Room on the right for labels, px. */
  readonly room?: number;
  /** Whether things on it can be pressed. */
  readonly group?: boolean;
  /** Whether the scale along the bottom is written; another chart below may have it. */
  readonly foot?: boolean;
  readonly children: (place: Place) => ReactNode;
}) {
  const units = useUnits((u) => u.units);
  const clip = useId();
  const [xUnit, yUnit] = [shownUnit(x.kind, units), shownUnit(y.kind, units)];
  const below = { text: `${xUnit.symbol} ${x.of ?? ''}`, x: 0, y: 0 };
  const left = EDGE.left;
  const right = WIDTH - room;
  const bottom = height - (foot ? EDGE.bottom : NO_FOOT);
  const across = scaleLinear([xUnit.fromDocument(x.from), xUnit.fromDocument(x.to)], [left, right]);
  const up = scaleLinear(
    [yUnit.fromDocument(y.from), yUnit.fromDocument(y.to)],
    [bottom, EDGE.top],
  );
  const place: Place = {
    x: (value) => across(xUnit.fromDocument(value)),
    y: (value) => up(yUnit.fromDocument(value)),
    left,
    right,
    top: EDGE.top,
    bottom,
    path: (points) =>
      line<Point>()
        .x((p) => across(xUnit.fromDocument(p.x)))
        .y((p) => up(yUnit.fromDocument(p.y)))([...points]) ?? '',
    clip: `url(#${clip})`,
  };
  return (
    <Svg
      role={group ? 'group' : 'img'}
      aria-label={label}
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      maxWidth="620px"
    >
      <clipPath id={clip}>
        <rect x={left} y={EDGE.top} width={right - left} height={bottom - EDGE.top} />
      </clipPath>
      {up.ticks(height < 120 ? 2 : 4).map((tick) => (
        <g key={tick}>
          <Line
            x1={left}
            x2={right}
            y1={up(tick)}
            y2={up(tick)}
            stroke={tick === 0 ? 'edge' : 'rule'}
            strokeWidth="1"
          />
          <Mark x={left - 8} y={up(tick) + 4} textAnchor="end">
            {String(tick).replace('-', '−')}
          </Mark>
        </g>
      ))}
      {foot &&
        across.ticks(6).map((tick) => (
          <Mark key={tick} x={across(tick)} y={bottom + 18} textAnchor="middle">
            {String(tick).replace('-', '−')}
          </Mark>
        ))}
      {foot && (
        <Mark x={Math.min(right + 24, WIDTH - widthOf(below))} y={bottom + 18}>
          {below.text}
        </Mark>
      )}
      <Mark x={left - 8} y={12} textAnchor="end">
        {yUnit.symbol}
      </Mark>
      {children(place)}
    </Svg>
  );
}

/** A line of a chart. */
export function Curve({
  place,
  points,
  main = false,
  dashed = false,
}: {
  readonly place: Place;
  readonly points: readonly Point[];
  readonly main?: boolean;
  readonly dashed?: boolean;
}) {
  return (
    <Path
      d={place.path(points)}
      clipPath={place.clip}
      fill="none"
      stroke={main ? 'accent' : 'ink'}
      strokeWidth={main ? '2.5' : '1.6'}
      strokeDasharray={dashed ? '5 4' : undefined}
    />
  );
}

/** The name of a line at its right end; none where no part of it is seen. */
export function atEnd(place: Place, points: readonly Point[], text: string, main = false): Label[] {
  const inside = points.filter((p) => {
    const y = place.y(p.y);
    return y >= place.top - 1 && y <= place.bottom + 1;
  });
  const end = inside.at(-1);
  return end ? [{ text, main, x: place.x(end.x) + 8, y: place.y(end.y) + 4 }] : [];
}

/** The words on a chart, those first that must stand where they are. */
export function Labels({
  place,
  labels,
}: {
  readonly place: Place;
  readonly labels: readonly Label[];
}) {
  return apart(labels, { right: WIDTH, top: 12, bottom: place.bottom }).map((label) => (
    <Mark
      key={`${label.text} ${label.x} ${label.y}`}
      x={label.x}
      y={label.y}
      over={label.over}
      fill={label.fails ? 'fails' : label.main ? 'accent' : 'ink'}
      weight={label.main || label.strong ? 'strong' : 'plain'}
    >
      {label.text}
    </Mark>
  ));
}

/** A value that all of a chart is seen against. */
export function Level({ place, value }: { readonly place: Place; readonly value: number }) {
  return (
    <Line
      x1={place.left}
      x2={place.right}
      y1={place.y(value)}
      y2={place.y(value)}
      stroke="ink"
      strokeWidth="1.2"
      strokeDasharray="5 4"
    />
  );
}
