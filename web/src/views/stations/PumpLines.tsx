import { memo } from 'react';
import { atEnd, Chart, Curve, Labels } from '../../kit/chart/Chart';
import { Figure } from '../../kit/chart/Figure';
import { Words } from '../../kit/primitives';
import { Circle } from '../../kit/shapes';
import type { FlowLines } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { useCurves } from './useCurves';

const points = (line: FlowLines['pump']) =>
  line.map((p) => ({ x: p.flow_l_per_min, y: p.pressure_kpa }));

/** Pump, or what hot coolant lifts by itself, against resistances, the thermostat open and shut, and where the pump's
 *  inlet begins to boil. */
export function PumpLines() {
  const found = useCurves('flow');
  return (
    <Figure found={found} height={236}>
      {(lines) => <Drawn lines={lines} />}
    </Figure>
  );
}

const Drawn = memo(function Drawn({ lines }: { readonly lines: FlowLines }) {
  const units = useUnits((u) => u.units);
  const { now, cavitates, pumped } = lines;
  const most = Math.max(...lines.pump.map((p) => p.flow_l_per_min));
  const top = Math.max(...lines.pump.map((p) => p.pressure_kpa)) * 1.15;
  // Without a pump both resistances end under the same ceiling, where their names would lie on each other.
  const beside = pumped ? undefined : lines.shut.find((p) => p.pressure_kpa > 0.3 * top);
  const near = cavitates && cavitates.flow_l_per_min < most && cavitates.pressure_kpa < top;
  const at = `${formatQuantity(now.flow_l_per_min, 'coolant_flow', units)} at ${formatQuantity(now.pressure_kpa, 'pressure', units)}`;
  const boils = !pumped
    ? 'the hotter the coolant leaves the engine over what comes back, the more it lifts'
    : cavitates
      ? `with the coolant as hot as it is here, the inlet begins to boil at ${formatQuantity(cavitates.rpm, 'rotation', units)}, ${formatQuantity(cavitates.flow_l_per_min, 'coolant_flow', units)}`
      : 'no engine speed makes the inlet boil at this temperature';
  return (
    <figure>
      <Chart
        label={`${pumped ? 'Pump' : 'Rise of hot coolant'} and resistances: ${at} through the engine; ${boils}.`}
        height={206}
        room={118}
        x={{ kind: 'coolant_flow', from: 0, to: most, of: 'in all' }}
        y={{ kind: 'pressure', from: 0, to: top }}
      >
        {(place) => (
          <>
            <Curve main place={place} points={points(lines.pump)} />
            <Curve place={place} points={points(lines.wide_open)} />
            <Curve dashed place={place} points={points(lines.shut)} />
            <Circle
              cx={place.x(now.flow_l_per_min)}
              cy={place.y(now.pressure_kpa)}
              r="5"
              fill="accent"
            />
            {near && (
              <Circle
                cx={place.x(cavitates.flow_l_per_min)}
                cy={place.y(cavitates.pressure_kpa)}
                r="5"
                fill="ground"
                stroke="fails"
                strokeWidth="2.5"
              />
            )}
            <Labels
              place={place}
              labels={[
                {
                  text: formatQuantity(now.flow_l_per_min, 'coolant_flow', units),
                  x: place.x(now.flow_l_per_min) + 10,
                  y: place.y(now.pressure_kpa) - 7,
                  strong: true,
                  over: true,
                },
                {
                  text: pumped
                    ? `pump at ${formatQuantity(now.rpm, 'rotation', units)}`
                    : 'hot coolant lifts',
                  x: place.left + 6,
                  y: place.y(lines.pump[0]?.pressure_kpa ?? 0) - 7,
                  main: true,
                },
                ...atEnd(place, points(lines.wide_open), 'thermostat open'),
                ...(beside
                  ? [
                      {
                        text: 'shut',
                        x: place.x(beside.flow_l_per_min) + 8,
                        y: place.y(beside.pressure_kpa) + 4,
                      },
                    ]
                  : atEnd(place, points(lines.shut), 'shut')),
                ...(near
                  ? [
                      {
                        text: 'inlet boils',
                        x: place.x(cavitates.flow_l_per_min) + 10,
                        y: place.y(cavitates.pressure_kpa) + 4,
                        fails: true,
                      },
                    ]
                  : []),
              ]}
            />
          </>
        )}
      </Chart>
      <Words as="figcaption" size="small" tone="quiet" display="block">
        {pumped ? 'Through pump and engine' : 'Through the engine, without a pump'}: {at}; {boils}.
      </Words>
    </figure>
  );
});
