import { Box, Svg } from '../../kit/primitives';
import { Circle, Line, Mark, Path } from '../../kit/shapes';
import type { JobEntry } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';

const WIDTH = 640;
const HEIGHT = 150;
const LEFT = 70;
const BOTTOM = 28;

/** Readings of the gauge against minutes. */
export function HoldChart({ readings }: { readonly readings: readonly JobEntry[] }) {
  const units = useUnits((u) => u.units);
  const first = Date.parse(readings[0]?.at ?? '');
  const points = readings.map((one) => ({
    id: one.id,
    at: (Date.parse(one.at) - first) / 60000,
    value: one.value ?? 0,
  }));
  const end = Math.max(points.at(-1)?.at ?? 0, 30);
  const high = Math.max(...points.map((point) => point.value));
  const low = Math.min(...points.map((point) => point.value), high - 10);
  const x = (minutes: number) => LEFT + ((WIDTH - LEFT - 20) * minutes) / end;
  const y = (value: number) =>
    12 + ((HEIGHT - BOTTOM - 24) * (high - value)) / Math.max(high - low, 1);
  const line = points
    .map((point, n) => `${n ? 'L' : 'M'}${x(point.at)} ${y(point.value)}`)
    .join('');
  return (
    <Box marginBlock="2">
      <Svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        maxWidth="760px"
        role="img"
        aria-label={`Gauge over ${counted(Math.round(points.at(-1)?.at ?? 0), 'minute', 'minutes')}, from ${formatQuantity(points[0]?.value ?? 0, 'pressure', units)} to ${formatQuantity(points.at(-1)?.value ?? 0, 'pressure', units)}`}
      >
        {[high, low].map((value) => (
          <g key={value}>
            <Line x1={LEFT} x2={WIDTH - 20} y1={y(value)} y2={y(value)} stroke="rule" />
            <Mark x={LEFT - 8} y={y(value) + 5} textAnchor="end">
              {formatQuantity(value, 'pressure', units)}
            </Mark>
          </g>
        ))}
        {[0, end / 2, end].map((minutes) => (
          <Mark key={minutes} x={x(minutes)} y={HEIGHT - 6} textAnchor="middle">
            {Math.round(minutes)} min
          </Mark>
        ))}
        <Path d={line} fill="none" stroke="accent" strokeWidth="2" />
        {points.map((point) => (
          <Circle key={point.id} cx={x(point.at)} cy={y(point.value)} r="4" fill="accent" />
        ))}
      </Svg>
    </Box>
  );
}
