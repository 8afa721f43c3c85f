import { Svg } from '../../kit/primitives';
import { Circle, Line, Mark, Rect } from '../../kit/shapes';
import { tone } from '../../kit/theme/temperature';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { hoseWidth } from '../loop/Loop';
import type { Moment } from './course';

const [TOP, BOTTOM, LEFT, RIGHT] = [26, 94, 132, 430];
const FLUTES = [0, 1, 2, 3, 4, 5, 6];

/** The loop as it stands at a moment of the drive: hoses by flow and temperature, thermostat, fan, fill. */
export function MomentLoop({
  moment,
  filled,
  atInlet,
  fan,
}: {
  readonly moment: Moment;
  /** Coolant at the start, L. */
  readonly filled: number;
  readonly atInlet: boolean;
  /** Whether there is a fan. */
  readonly fan: boolean;
}) {
  const units = useUnits((u) => u.units);
  const t = (celsius: number) => formatQuantity(celsius, 'temperature', units);
  const width = Math.min(hoseWidth(moment.flow), 14);
  const low = moment.coolant < 0.93 * filled;
  const opened = openness(moment.lift, (share) => formatQuantity(share, 'share', units));
  const valve = atInlet ? BOTTOM : TOP;
  const dashed = width < 2 ? '3 2' : undefined;
  return (
    <Svg
      role="img"
      aria-label={`Loop at this moment: engine out ${t(moment.engineOut)}, top hose ${t(moment.top)}, bottom hose ${t(moment.bottom)}, thermostat ${opened}, fan ${moment.stage > 0 ? 'on' : 'off'}`}
      viewBox="0 0 560 122"
      width="100%"
      maxWidth="620px"
      display="block"
    >
      <line
        x1={LEFT}
        x2={RIGHT}
        y1={TOP}
        y2={TOP}
        stroke={tone(moment.top)}
        strokeWidth={width}
        strokeDasharray={dashed}
      />
      <line
        x1={LEFT}
        x2={RIGHT}
        y1={BOTTOM}
        y2={BOTTOM}
        stroke={tone(moment.bottom)}
        strokeWidth={width}
        strokeDasharray={dashed}
      />
      <Rect x={2} y={8} width={LEFT - 2} height={106} rx={5} fill="raised" stroke="edge" />
      <rect x={LEFT - 7} y={12} width={5} height={98} fill={tone(moment.engineOut)} />
      <Mark x={14} y={30} weight="strong">
        Engine
      </Mark>
      <Mark x={14} y={58} fontSize="20px" weight="strong">
        {t(moment.engineOut)}
      </Mark>
      <Mark x={14} y={80}>{`metal ${t(moment.metal)}`}</Mark>
      <Mark x={14} y={102}>
        {low
          ? `${formatQuantity(moment.coolant, 'volume', units)} left`
          : `${formatQuantity(moment.pressure, 'pressure', units)}`}
      </Mark>
      <Valve y={valve} lift={moment.lift} />
      <Mark x={LEFT + 16} y={valve === TOP ? 56 : 54}>
        thermostat
      </Mark>
      <Mark x={LEFT + 16} y={valve === TOP ? 73 : 71}>
        {opened}
      </Mark>
      <Mark x={RIGHT - 12} y={TOP + 24} textAnchor="end">{`top hose ${t(moment.top)}`}</Mark>
      <Mark
        x={RIGHT - 12}
        y={BOTTOM - 15}
        textAnchor="end"
      >{`bottom hose ${t(moment.bottom)}`}</Mark>
      <Rect x={RIGHT} y={8} width={26} height={106} rx={3} fill="raised" stroke="edge" />
      {FLUTES.map((i) => (
        <rect
          key={i}
          x={RIGHT + 5}
          y={14 + i * 14}
          width={16}
          height={8}
          fill={tone(moment.top + ((moment.bottom - moment.top) * i) / (FLUTES.length - 1))}
        />
      ))}
      {fan && <Fan stage={moment.stage} />}
    </Svg>
  );
}

function openness(lift: number, share: (value: number) => string): string {
  if (lift <= 0) return 'shut';
  if (lift >= 1) return 'wide open';
  return lift < 0.01 ? 'barely open' : `${share(lift)} open`;
}

function Valve({ y, lift }: { readonly y: number; readonly lift: number }) {
  const turn = 90 * (1 - Math.min(Math.max(lift, 0), 1));
  return (
    <>
      <Circle cx={LEFT + 36} cy={y} r="13" fill="raised" stroke="ink" strokeWidth="1.5" />
      <g transform={`rotate(${turn} ${LEFT + 36} ${y})`}>
        <Line x1={LEFT + 25} x2={LEFT + 47} y1={y} y2={y} stroke="ink" strokeWidth="3" />
      </g>
    </>
  );
}

function Fan({ stage }: { readonly stage: number }) {
  const on = stage > 0;
  return (
    <>
      <Circle
        cx={498}
        cy={52}
        r="32"
        fill={on ? 'accentSoft' : 'raised'}
        stroke={on ? 'air' : 'edge'}
        strokeWidth={on ? '2.5' : '1.5'}
      />
      {[0, 60, 120].map((angle) => (
        <g key={angle} transform={`rotate(${angle} 498 52)`}>
          <Line
            x1={472}
            x2={524}
            y1={52}
            y2={52}
            stroke={on ? 'air' : 'edge'}
            strokeWidth={on ? '5' : '2'}
          />
        </g>
      ))}
      <Mark x={498} y={106} textAnchor="middle" weight={on ? 'strong' : 'plain'}>
        {on ? (stage > 1 ? 'fan, full' : 'fan on') : 'fan off'}
      </Mark>
    </>
  );
}
