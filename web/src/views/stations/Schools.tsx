import { scaleLinear } from 'd3-scale';
import { Svg } from '../../kit/primitives';
import { Circle, Line, Mark, Rect } from '../../kit/shapes';
import type { CaseResult, Evaluation } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

export const schoolNames: Record<CaseResult['heat']['schools'][number]['school'], string> = {
  energy_balance: 'Energy balance',
  thirds: 'Thirds rule',
  share_of_power: 'Share of brake power',
  measured: 'Measured',
};

const WIDTH = 500;
const LEFT = 148;
const RIGHT = 372;
const ROW = 28;
const TOP = 24;

/** What each school sends into the coolant of the shown case, with its band; the chosen one stands out. */
export function Schools({
  shown,
  chosen,
}: {
  readonly shown: CaseResult;
  readonly chosen: string;
}) {
  const units = useUnits((u) => u.units);
  const unit = shownUnit('power', units);
  const { schools } = shown.heat;
  const most = Math.max(...schools.map((s) => s.high_kw)) * 1.02;
  const x = scaleLinear([0, unit.fromDocument(most)], [LEFT, RIGHT]);
  const at = (kw: number) => x(unit.fromDocument(kw));
  const height = TOP + schools.length * ROW + 44;
  const said = schools
    .map(
      (s) =>
        `${schoolNames[s.school]} ${formatQuantity(s.heat_kw, 'power', units)}, band ${formatQuantity(s.low_kw, 'power', units)} to ${formatQuantity(s.high_kw, 'power', units)}`,
    )
    .join('; ');
  const published = `${formatQuantity(shown.heat.published_low_kw, 'power', units)} to ${formatQuantity(shown.heat.published_high_kw, 'power', units)}`;
  return (
    <Svg
      role="img"
      aria-label={`Heat by school: ${said}. Published for such engines: ${published}.`}
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      maxWidth="620px"
    >
      {x.ticks(5).map((tick) => (
        <g key={tick}>
          <Line
            x1={x(tick)}
            x2={x(tick)}
            y1={TOP - 8}
            y2={height - 44}
            stroke="rule"
            strokeWidth="1"
          />
          <Mark x={x(tick)} y={height - 28} textAnchor="middle">
            {tick}
          </Mark>
        </g>
      ))}
      <Mark x={RIGHT + 14} y={height - 28}>{`${unit.symbol}`}</Mark>
      <Mark x={0} y={height - 5}>{`Published for all such engines: ${published}.`}</Mark>
      {schools.map((s, i) => {
        const y = TOP + i * ROW + 8;
        const mine = s.school === chosen;
        return (
          <g key={s.school}>
            <Mark x={LEFT - 12} y={y + 4} textAnchor="end" weight={mine ? 'strong' : 'plain'}>
              {schoolNames[s.school]}
            </Mark>
            <Rect
              x={at(s.low_kw)}
              y={y - 6}
              width={Math.max(1, at(s.high_kw) - at(s.low_kw))}
              height={12}
              rx={2}
              fill={mine ? 'accentSoft' : 'rule'}
              stroke={mine ? 'accent' : 'none'}
            />
            <Circle cx={at(s.heat_kw)} cy={y} r="5" fill={mine ? 'accent' : 'ink'} />
            <Mark x={RIGHT + 14} y={y + 4} weight={mine ? 'strong' : 'plain'}>
              {`${formatQuantity(s.heat_kw, 'power', units)}${mine ? ', taken' : ''}`}
            </Mark>
          </g>
        );
      })}
    </Svg>
  );
}

/** Heat into the coolant in every case, by the chosen school. */
export function HeatPerCase({ evaluation }: { readonly evaluation: Evaluation }) {
  const units = useUnits((u) => u.units);
  const most = Math.max(...evaluation.cases.map((c) => c.heat.high_kw));
  const x = scaleLinear([0, most], [0, RIGHT - LEFT]);
  const height = evaluation.cases.length * ROW + 6;
  const said = evaluation.cases
    .map((c) => `${c.name} ${formatQuantity(c.heat.chosen_kw, 'power', units)}`)
    .join('; ');
  return (
    <Svg
      role="img"
      aria-label={`Heat in each case: ${said}.`}
      viewBox={`0 0 ${WIDTH} ${height}`}
      width="100%"
      maxWidth="620px"
      marginTop="2"
    >
      {evaluation.cases.map((c, i) => {
        const y = i * ROW + 14;
        const name = c.name.length > 19 ? `${c.name.slice(0, 18)}…` : c.name;
        return (
          <g key={c.id}>
            <Mark x={LEFT - 12} y={y + 4} textAnchor="end">
              {name}
            </Mark>
            <Line
              x1={LEFT + x(c.heat.low_kw)}
              x2={LEFT + x(c.heat.high_kw)}
              y1={y}
              y2={y}
              stroke="edge"
              strokeWidth="1.2"
            />
            <Circle cx={LEFT + x(c.heat.chosen_kw)} cy={y} r="4" fill="ink" />
            <Mark x={RIGHT + 14} y={y + 4}>
              {formatQuantity(c.heat.chosen_kw, 'power', units)}
            </Mark>
          </g>
        );
      })}
    </Svg>
  );
}
