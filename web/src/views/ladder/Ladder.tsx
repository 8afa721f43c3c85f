import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { memo, useId } from 'react';
import { Box, Heading, HiddenText, Row, Svg, Words } from '../../kit/primitives';
import { Layer, Line, Mark, Path, Rect } from '../../kit/shapes';
import { toneStops } from '../../kit/theme/temperature';
import type { CaseResult, Evaluation } from '../../model/api/types';
import { formatQuantity, shown } from '../../model/units/format';
import { shownUnit, type Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { boundOf, hottest } from '../../model/words/hottest';
import { ladderRange, spread } from './geometry';
import { Handles } from './Handles';
import { useHeight } from './useHeight';

interface MarkSpec {
  /** What tells it from the others, where two may be called alike. */
  readonly id?: string;
  readonly label: string;
  readonly value: number;
  readonly strong?: boolean;
  /** What stands before the number, where it is a bound. */
  readonly bound?: string;
}

/** Where a variant brings the shown case; the one in the loop is strong. */
export type VariantMark = MarkSpec;

const BAR = { x: 118, width: 14 };
const WIDTH = 284;
const GAP = 19;
const FOOT = 54;
const HEAD = 14;

/** One scale of temperatures with everything that has one, for the shown case and its altitude. */
export const Ladder = memo(function Ladder({
  evaluation,
  ghost,
  shownCase,
  side,
}: {
  readonly evaluation: Evaluation;
  readonly ghost: Evaluation | null;
  readonly shownCase: CaseResult;
  /** Variants side by side: their marks of the shown case take the place of the other cases. */
  readonly side: readonly VariantMark[] | null;
}) {
  const units = useUnits((u) => u.units);
  const [ref, height] = useHeight<HTMLDivElement>(560);
  const marks = partMarks(evaluation, shownCase);
  const cases = side ?? caseMarks(evaluation, shownCase);
  const [low, high] = ladderRange([...marks, ...cases].map((mark) => mark.value));
  const y = scaleLinear()
    .domain([low, high])
    .range([height - FOOT, HEAD]);
  // What is colder than the scale stands at its foot.
  const at = (item: MarkSpec) => ({ item, at: Math.min(y(item.value), height - FOOT) });
  const right = spread(marks.map(at), GAP, HEAD - 8, height - FOOT + 8);
  const left = spread(cases.map(at), GAP, HEAD - 8, height - FOOT + 8);
  return (
    <Box
      as="section"
      aria-label="Ladder of temperatures"
      display="flex"
      flexDirection="column"
      height="100%"
      minHeight="0"
    >
      <Row flexWrap="wrap" justifyContent="space-between" paddingInline="4" paddingTop="3">
        <Heading>Ladder</Heading>
        <Words size="small" tone="quiet" textAlign="right">
          {side ? `${shownCase.name}, ` : ''}
          <Words size="small" whiteSpace="nowrap">
            {shownUnit('temperature', units).symbol} at{' '}
            {formatQuantity(shownCase.altitude_m, 'altitude', units)}
          </Words>
        </Words>
      </Row>
      <Box ref={ref} flex="1" minHeight="380px">
        <Svg
          width="100%"
          height={`${height}px`}
          viewBox={`0 0 ${WIDTH} ${height}`}
          role="group"
          aria-label="Scale"
          display="block"
        >
          {/* Said once, in the text below; what is drawn is for the eye. */}
          <Layer aria-hidden="true">
            <Scale
              low={low}
              high={high}
              y={y}
              units={units}
              taken={left.map((entry) => entry.label)}
            />
            {left.map(({ item, at, label }) => (
              <g key={`case-${item.id ?? item.label}`}>
                <Path
                  d={`M${BAR.x - 2} ${at}L${BAR.x - 12} ${at}L${BAR.x - 20} ${label}`}
                  stroke="ink"
                  strokeWidth={item.strong ? 2.4 : 1.2}
                  fill="none"
                />
                <Mark
                  x={BAR.x - 24}
                  y={label + 5}
                  textAnchor="end"
                  weight={item.strong ? 'strong' : 'plain'}
                >
                  {short(item, units)}
                </Mark>
              </g>
            ))}
            {right.map(({ item, at, label }) => (
              <g key={`mark-${item.label}`}>
                <Path
                  d={`M${BAR.x + BAR.width + 2} ${at}L${BAR.x + BAR.width + 10} ${at}L${BAR.x + BAR.width + 20} ${label}`}
                  stroke="edge"
                  strokeWidth={item.strong ? 2.4 : 1.1}
                  fill="none"
                />
                <Mark
                  x={BAR.x + BAR.width + 25}
                  y={label + 5}
                  weight={item.strong ? 'strong' : 'plain'}
                >
                  {`${shown(item.value, 'temperature', units).number} ${item.label}`}
                </Mark>
              </g>
            ))}
          </Layer>
          <Handles evaluation={evaluation} y={y} x={BAR.x + BAR.width + 1} />
          <Layer aria-hidden="true">
            <Ghosts evaluation={evaluation} ghost={ghost} shownCase={shownCase} y={y} />
            <Rect x={BAR.x} y={height - 30} width={BAR.width} height={14} fill="air" />
            <Mark x={BAR.x + BAR.width + 25} y={height - 18}>
              {`${shown(evaluation.ladder.freezes_c, 'temperature', units).number} freezes`}
            </Mark>
            <Path
              d={`M${BAR.x - 5} ${height - 42}l24 -5M${BAR.x - 5} ${height - 36}l24 -5`}
              stroke="quiet"
              strokeWidth="1"
            />
          </Layer>
        </Svg>
      </Box>
      <HiddenText>
        {[...cases, ...marks]
          .map(
            (mark) =>
              `${mark.label} ${mark.bound ?? ''}${formatQuantity(mark.value, 'temperature', units)}`,
          )
          .join('; ')}
        {`; freezes at ${formatQuantity(evaluation.ladder.freezes_c, 'temperature', units)}`}
      </HiddenText>
    </Box>
  );
});

function Scale({
  low,
  high,
  y,
  units,
  taken,
}: {
  readonly low: number;
  readonly high: number;
  readonly y: (value: number) => number;
  readonly units: Units;
  /** Heights where a label stands already. */
  readonly taken: readonly number[];
}) {
  const id = useId();
  const unit = shownUnit('temperature', units);
  const from = unit.fromDocument(low);
  const to = unit.fromDocument(high);
  const step = to - from > 110 ? 20 : 10;
  const first = Math.ceil(from / step) * step;
  const ticks = Array.from(
    { length: Math.floor((to - first) / step) + 1 },
    (_, i) => first + i * step,
  );
  return (
    <>
      <defs>
        <linearGradient
          id={id}
          gradientUnits="userSpaceOnUse"
          x1="0"
          x2="0"
          y1={y(low)}
          y2={y(high)}
        >
          {toneStops.map((stop) => (
            <stop
              key={stop.at}
              offset={Math.max(0, Math.min(1, (stop.at - low) / (high - low)))}
              stopColor={stop.color}
            />
          ))}
        </linearGradient>
      </defs>
      <rect
        x={BAR.x}
        y={y(high)}
        width={BAR.width}
        height={y(low) - y(high)}
        fill={`url(#${id})`}
      />
      {ticks.map((tick) => {
        const at = y(unit.toDocument(tick));
        return (
          <g key={tick}>
            <Line
              x1={BAR.x}
              x2={BAR.x + BAR.width}
              y1={at}
              y2={at}
              stroke="ground"
              strokeWidth="1"
            />
          </g>
        );
      })}
      {ticks
        .filter((tick) => taken.every((at) => Math.abs(at - y(unit.toDocument(tick))) > 14))
        .map((tick) => (
          <Mark
            key={tick}
            x={BAR.x - 10}
            textAnchor="end"
            y={y(unit.toDocument(tick)) + 4}
            fill="quiet"
            fontSize="12px"
          >
            {tick}
          </Mark>
        ))}
    </>
  );
}

/** Where marks stood before the last change. */
function Ghosts({
  evaluation,
  ghost,
  shownCase,
  y,
}: {
  readonly evaluation: Evaluation;
  readonly ghost: Evaluation | null;
  readonly shownCase: CaseResult;
  readonly y: ScaleLinear<number, number>;
}) {
  if (!ghost) return null;
  const now = new Map(
    [...partMarks(evaluation, shownCase), ...caseMarks(evaluation, shownCase)].map((m) => [
      m.id ?? m.label,
      m.value,
    ]),
  );
  const before = ghost.cases.find((entry) => entry.id === shownCase.id) ?? ghost.cases[0];
  if (!before) return null;
  const [low = 0, high = 0] = y.domain();
  const moved = [...partMarks(ghost, before), ...caseMarks(ghost, before)].filter(
    (mark) =>
      Math.abs((now.get(mark.id ?? mark.label) ?? mark.value) - mark.value) > 0.4 &&
      mark.value >= low &&
      mark.value <= high,
  );
  return (
    <>
      {moved.map((mark) => (
        <Line
          key={mark.id ?? mark.label}
          x1={BAR.x - 12}
          x2={BAR.x + BAR.width + 12}
          y1={y(mark.value)}
          y2={y(mark.value)}
          stroke="ink"
          strokeWidth="1.4"
          strokeDasharray="2 3"
        />
      ))}
    </>
  );
}

function partMarks(evaluation: Evaluation, shownCase: CaseResult): MarkSpec[] {
  const { ladder } = evaluation;
  const marks: MarkSpec[] = [
    { label: 'boils, cap on', value: shownCase.boils_c },
    { label: 'limit', value: shownCase.limit_c, strong: true },
    { label: 'boils, cap failed', value: shownCase.boils_without_cap_c },
    { label: 'wide open', value: ladder.thermostat_full_c },
    { label: 'starts to open', value: ladder.thermostat_opens_c },
  ];
  if (ladder.fan_on_c !== null) marks.push({ label: 'fan on', value: ladder.fan_on_c });
  if (ladder.fan_off_c !== null) marks.push({ label: 'fan off', value: ladder.fan_off_c });
  return marks;
}

function caseMarks(evaluation: Evaluation, shownCase: CaseResult): MarkSpec[] {
  return evaluation.cases.flatMap((entry) => {
    const value = hottest(entry);
    return value === null
      ? []
      : [
          {
            id: entry.id,
            label: entry.name,
            value,
            strong: entry.id === shownCase.id,
            bound: boundOf(entry),
          },
        ];
  });
}

const SIGN: Record<string, string> = { 'up to ': '≤', 'over ': '>' };

/** A case's name in one word that fits beside the bar, and its number. */
function short({ label: name, value, bound = '' }: MarkSpec, units: Units): string {
  const words = name.split(/[ ,]+/);
  const longest = words.reduce((best, word) => (word.length > best.length ? word : best), '');
  const word = name.length <= 9 ? name : longest;
  const cut = word.length > 9 ? `${word.slice(0, 8)}…` : word;
  return `${cut} ${SIGN[bound] ?? ''}${shown(value, 'temperature', units).number}`;
}
