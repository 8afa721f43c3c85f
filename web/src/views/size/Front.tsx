import { useState } from 'react';
import { Chart, Level } from '../../kit/chart/Chart';
import { Row, Select, Words } from '../../kit/primitives';
import { Circle, Mark } from '../../kit/shapes';
import type { FrontPoint } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { inPercent } from '../../model/words/days';
import { type Abscissa, abscissae, nextAlong, span } from './front';

/** Every combination that no other beats, what it keeps against what it takes; the few are numbered and can be chosen. */
export function Front({
  points,
  wanted,
  byChance,
  chosen,
  onChoose,
}: {
  readonly points: readonly FrontPoint[];
  /** What was asked to be kept, K: a margin, or nothing beyond what the chance asks. */
  readonly wanted: number;
  /** Whether a chance was asked for rather than a margin. */
  readonly byChance: boolean;
  readonly chosen: number;
  readonly onChoose: (solution: number) => void;
}) {
  const units = useUnits((u) => u.units);
  const [axis, setAxis] = useState<Abscissa>('cost');
  const across = abscissae[axis];
  const margins = points.map((point) => point.kept_k);
  const shown = points.filter((point) => point.solution !== null);
  const rest = points.filter((point) => point.solution === null);
  const place = (point: FrontPoint) =>
    `${inPercent(point.chance_share)} chance, ${formatQuantity(point.kept_k, 'temperature_difference', units)} for ${across.title} ${formatQuantity(point[axis], across.kind, units)}`;
  return (
    <figure>
      <Row flexWrap="wrap" justifyContent="space-between" gap="2">
        <Words size="small" tone="quiet">
          {points.length === 1
            ? 'One combination that no other beats.'
            : `${points.length} combinations that no other beats; each trades one thing for another.`}
        </Words>
        <Select
          aria-label="What is kept against"
          width="auto"
          value={axis}
          onChange={(event) => setAxis(event.target.value as Abscissa)}
        >
          {Object.entries(abscissae).map(([key, entry]) => (
            <option key={key} value={key}>
              against {entry.title}
            </option>
          ))}
        </Select>
      </Row>
      <Chart
        label={`${byChance ? 'Hotter air to spare beyond the chance asked' : 'Margin'} against ${across.title}: ${shown.map((point) => `${(point.solution ?? 0) + 1}, ${place(point)}`).join('; ')}.`}
        group
        height={232}
        room={92}
        x={{ kind: across.kind, ...span(points.map((point) => point[axis])), of: across.of }}
        y={{ kind: 'temperature_difference', ...span([...margins, wanted]) }}
      >
        {(at) => (
          <>
            <Level place={at} value={wanted} />
            <Mark x={at.right + 6} y={at.y(wanted) + 4}>
              {byChance ? 'chance asked' : 'asked'}
            </Mark>
            {rest.map((point) => (
              <Circle
                key={`${point.cost} ${point.electric_w} ${point.face_m2} ${point.kept_k}`}
                cx={at.x(point[axis])}
                cy={at.y(point.kept_k)}
                r="3.5"
                fill="air"
              />
            ))}
            {shown.map((point) => {
              const number = point.solution ?? 0;
              const on = number === chosen;
              return (
                // biome-ignore lint/a11y/useSemanticElements: a point of a drawing cannot be a button element
                <g
                  key={number}
                  role="button"
                  tabIndex={on ? 0 : -1}
                  aria-pressed={on}
                  aria-label={`Solution ${number + 1}: ${place(point)}`}
                  ref={on ? (element) => focusIfNear(element) : undefined}
                  cursor="pointer"
                  onClick={() => onChoose(number)}
                  onKeyDown={(event) => {
                    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key] as 1 | -1 | undefined;
                    if (step === undefined) return;
                    event.preventDefault();
                    onChoose(nextAlong(points, number, axis, step));
                  }}
                >
                  <Circle
                    cx={at.x(point[axis])}
                    cy={at.y(point.kept_k)}
                    r="22"
                    fill="none"
                    pointerEvents="all"
                  />
                  <Circle
                    cx={at.x(point[axis])}
                    cy={at.y(point.kept_k)}
                    r="11"
                    fill={on ? 'accent' : 'raised'}
                    stroke={on ? 'accent' : 'edge'}
                    strokeWidth="1.6"
                  />
                  <Mark
                    x={at.x(point[axis])}
                    y={at.y(point.kept_k) + 4.5}
                    textAnchor="middle"
                    weight="strong"
                    fill={on ? 'onAccent' : 'ink'}
                  >
                    {number + 1}
                  </Mark>
                </g>
              );
            })}
          </>
        )}
      </Chart>
    </figure>
  );
}

/** The keyboard goes with the choice while it is on the chart. */
function focusIfNear(element: SVGGElement | null) {
  const now = document.activeElement;
  if (element && now !== element && now?.closest('svg') === element.closest('svg')) element.focus();
}
