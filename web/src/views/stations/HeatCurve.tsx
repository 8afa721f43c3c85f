import { memo } from 'react';
import { Chart, Curve, Labels } from '../../kit/chart/Chart';
import { Figure } from '../../kit/chart/Figure';
import { Words } from '../../kit/primitives';
import { Circle, Line } from '../../kit/shapes';
import type { HeatCurves } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { useCurves } from './useCurves';
import { useFans } from './useFans';

export interface Series {
  readonly kind: 'airflow' | 'coolant_flow';
  readonly points: readonly { readonly flow: number; readonly heat: number }[];
  readonly now: number;
}

export function seriesOf(curves: HeatCurves, of: 'air' | 'coolant'): Series {
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
  const found = useCurves('heat');
  return (
    <Figure found={found} height={206}>
      {(curves) => <Drawn curves={curves} of={of} />}
    </Figure>
  );
}

const Drawn = memo(function Drawn({
  curves,
  of,
}: {
  readonly curves: HeatCurves;
  readonly of: 'air' | 'coolant';
}) {
  const units = useUnits((u) => u.units);
  const fanned = useFans() > 0;
  const series = seriesOf(curves, of);
  const most = Math.max(curves.heat_kw, ...series.points.map((p) => p.heat)) * 1.08;
  const sheds = heatAt(series, series.now);
  const label = `Heat against ${of}: at the limit the core sheds ${formatQuantity(sheds, 'power', units)} with the ${formatQuantity(series.now, series.kind, units)} that it gets; ${formatQuantity(curves.heat_kw, 'power', units)} are to be shed.`;
  return (
    <figure>
      <Chart
        label={label}
        x={{
          kind: series.kind,
          from: 0,
          to: Math.max(...series.points.map((p) => p.flow)),
          of,
        }}
        y={{ kind: 'power', from: 0, to: most }}
      >
        {(place) => (
          <>
            <Line
              x1={place.left}
              x2={place.right}
              y1={place.y(curves.heat_kw)}
              y2={place.y(curves.heat_kw)}
              stroke="ink"
              strokeWidth="1.5"
              strokeDasharray="5 4"
            />
            <Line
              x1={place.x(series.now)}
              x2={place.x(series.now)}
              y1={place.bottom}
              y2={place.y(sheds)}
              stroke="accent"
              strokeWidth="1.5"
            />
            <Curve
              main
              place={place}
              points={series.points.map((p) => ({ x: p.flow, y: p.heat }))}
            />
            <Circle cx={place.x(series.now)} cy={place.y(sheds)} r="5" fill="accent" />
            <Labels
              place={place}
              labels={[
                {
                  text: `gets ${formatQuantity(series.now, series.kind, units)}`,
                  x: place.x(series.now) + 9,
                  y: place.bottom - 8,
                  strong: true,
                },
                {
                  text: `${formatQuantity(curves.heat_kw, 'power', units)} to shed`,
                  x: place.right + 8,
                  y: place.y(curves.heat_kw) + 4,
                  strong: true,
                },
              ]}
            />
          </>
        )}
      </Chart>
      <Words as="figcaption" size="small" tone="quiet" display="block">
        At {formatQuantity(curves.at_c, 'temperature', units)}, the limit
        {fanned ? ', with the fan on. ' : '. '}
        {of === 'coolant' &&
          'More flow never sheds less: slowing the coolant does not give it time to cool.'}
      </Words>
    </figure>
  );
});
