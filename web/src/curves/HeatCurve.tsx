import { useQuery } from '@tanstack/react-query';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { curvesQuery } from '../api/queries';
import type { Curves } from '../api/types';
import { Box, Circle, Line, Mark, Path, Svg, Words } from '../theme/primitives';
import { formatQuantity } from '../units/format';
import { shownUnit } from '../units/quantities';
import { useUnits } from '../units/store';
import { useSession } from '../workbench/context';
import { useShownCase } from '../workbench/shownCase';

const WIDTH = 620;
const HEIGHT = 176;
const EDGE = { left: 52, right: 118, top: 26, bottom: 24 };

export interface Series {
  readonly kind: 'airflow' | 'coolant_flow';
  readonly points: readonly { readonly flow: number; readonly heat: number }[];
  readonly now: number;
}

export function seriesOf(curves: Curves, of: 'air' | 'coolant'): Series {
  if (of === 'air')
    return {
      kind: 'airflow',
      points: curves.air.map((p) => ({ flow: p.flow_m3_per_s, heat: p.heat_kw })),
      now: curves.air_now_m3_per_s,
    };
  return {
    kind: 'coolant_flow',
    points: curves.coolant.map((p) => ({ flow: p.flow_l_per_min, heat: p.heat_kw })),
    now: curves.coolant_now_l_per_min,
  };
}

/** Heat at a flow, straight between the points of a series. */
export function heatAt(series: Series, flow: number): number {
  const after = series.points.findIndex((point) => point.flow >= flow);
  const b = series.points[Math.max(after, 1)];
  const a = series.points[Math.max(after, 1) - 1];
  if (!a || !b) return Number.NaN;
  return a.heat + ((flow - a.flow) / (b.flow - a.flow)) * (b.heat - a.heat);
}

/** Heat that the shown case would shed at its limit against one flow, with what it has and what it needs. */
export function HeatCurve({ of }: { readonly of: 'air' | 'coolant' }) {
  const build = useSession((s) => s.build);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? '');
  const current = useSession((s) => s.current);
  const shown = useShownCase();
  const found = useQuery(curvesQuery(build, variant, shown?.id ?? '', current));
  return (
    <Box minHeight="206px" aria-busy={found.isPlaceholderData} marginTop="2">
      {found.data && <Drawn curves={found.data} of={of} />}
      {found.isError && (
        <Words size="small" tone="fails">
          The curve cannot be drawn: {found.error.message}
        </Words>
      )}
    </Box>
  );
}

function Drawn({ curves, of }: { readonly curves: Curves; readonly of: 'air' | 'coolant' }) {
  const set = useUnits((u) => u.set);
  const series = seriesOf(curves, of);
  const flowUnit = shownUnit(series.kind, set);
  const heatUnit = shownUnit('power', set);
  const flows = series.points.map((p) => flowUnit.fromDocument(p.flow));
  const most = Math.max(curves.heat_kw, ...series.points.map((p) => p.heat)) * 1.08;
  const x = scaleLinear([0, Math.max(...flows)], [EDGE.left, WIDTH - EDGE.right]);
  const y = scaleLinear([0, heatUnit.fromDocument(most)], [HEIGHT - EDGE.bottom, EDGE.top]);
  const at = (flow: number) => x(flowUnit.fromDocument(flow));
  const up = (heat: number) => y(heatUnit.fromDocument(heat));
  const path = line<Series['points'][number]>()
    .x((p) => at(p.flow))
    .y((p) => up(p.heat))([...series.points]);
  const sheds = heatAt(series, series.now);
  const name = of === 'air' ? 'air' : 'coolant';
  const label = `Heat against ${name}: at the limit the core sheds ${formatQuantity(sheds, 'power', set)} with the ${formatQuantity(series.now, series.kind, set)} that it gets; ${formatQuantity(curves.heat_kw, 'power', set)} are to be shed.`;
  return (
    <figure>
      <Svg
        role="img"
        aria-label={label}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        maxWidth="760px"
      >
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <Line
              x1={EDGE.left}
              x2={WIDTH - EDGE.right}
              y1={y(tick)}
              y2={y(tick)}
              stroke="rule"
              strokeWidth="1"
            />
            <Mark x={EDGE.left - 8} y={y(tick) + 4} textAnchor="end">
              {tick}
            </Mark>
          </g>
        ))}
        {x.ticks(6).map((tick) => (
          <Mark key={tick} x={x(tick)} y={HEIGHT - EDGE.bottom + 18} textAnchor="middle">
            {tick}
          </Mark>
        ))}
        <Mark x={WIDTH - EDGE.right + 24} y={HEIGHT - EDGE.bottom + 18}>
          {`${flowUnit.symbol} of ${name}`}
        </Mark>
        <Mark x={EDGE.left - 8} y={12} textAnchor="end">
          {heatUnit.symbol}
        </Mark>
        <Line
          x1={EDGE.left}
          x2={WIDTH - EDGE.right}
          y1={up(curves.heat_kw)}
          y2={up(curves.heat_kw)}
          stroke="ink"
          strokeWidth="1.5"
          strokeDasharray="5 4"
        />
        <Mark x={WIDTH - EDGE.right + 8} y={up(curves.heat_kw) + 4} weight="strong">
          {`${formatQuantity(curves.heat_kw, 'power', set)} to shed`}
        </Mark>
        <Line
          x1={at(series.now)}
          x2={at(series.now)}
          y1={HEIGHT - EDGE.bottom}
          y2={up(sheds)}
          stroke="accent"
          strokeWidth="1.5"
        />
        <Path d={path ?? ''} fill="none" stroke="accent" strokeWidth="2.5" />
        <Circle cx={at(series.now)} cy={up(sheds)} r="5" fill="accent" />
        <Mark x={at(series.now) + 9} y={HEIGHT - EDGE.bottom - 8} weight="strong">
          {`gets ${formatQuantity(series.now, series.kind, set)}`}
        </Mark>
      </Svg>
      <Words as="figcaption" size="small" tone="quiet" display="block">
        At {formatQuantity(curves.at_c, 'temperature', set)}, the limit, with the fan on.{' '}
        {of === 'coolant' &&
          'More flow never sheds less: slowing the coolant does not give it time to cool.'}
      </Words>
    </figure>
  );
}
