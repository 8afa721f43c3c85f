import { memo } from 'react';
import { atEnd, Chart, Curve, Labels } from '../../kit/chart/Chart';
import { Figure } from '../../kit/chart/Figure';
import { Words } from '../../kit/primitives';
import { Circle } from '../../kit/shapes';
import type { AirLines, Zone } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { useCurves } from './useCurves';

const NAMES: Record<Zone['name'], string> = {
  fan: 'the fan',
  first_fan: 'first fan',
  second_fan: 'second fan',
  open_face: 'open face',
};

/** Zones worth drawing: of two fans that do the same, one. */
export function drawnZones(zones: readonly Zone[]): { zones: Zone[]; alike: boolean } {
  const [first, second] = zones;
  const alike =
    first?.name === 'first_fan' &&
    second?.name === 'second_fan' &&
    Math.abs(first.flow_m3_per_s - second.flow_m3_per_s) < 1e-6;
  return { zones: zones.filter((zone) => !(alike && zone.name === 'second_fan')), alike };
}

/** What a zone is called; the parts of one fan's face that the condenser divides are counted. */
export function zoneName(zones: readonly Zone[], at: number): string {
  const zone = zones[at] as Zone;
  const same = zones.filter((other) => other.name === zone.name);
  const part = same.length > 1 ? `, part ${same.indexOf(zone) + 1} of ${same.length}` : '';
  return NAMES[zone.name] + part;
}

const points = (line: Zone['fan']) => line.map((p) => ({ x: p.flow_m3_per_s, y: p.pressure_pa }));

/** The fan's curve against what it works against, zone by zone, and where they meet. */
export function FanLines() {
  const found = useCurves('air');
  return (
    <Figure found={found} height={236}>
      {(lines) => <Drawn lines={lines} />}
    </Figure>
  );
}

const Drawn = memo(function Drawn({ lines }: { readonly lines: AirLines }) {
  const units = useUnits((u) => u.units);
  const { zones, alike } = drawnZones(lines.zones);
  const said = (zone: Zone, at: number) =>
    `${zoneName(zones, at)} passes ${formatQuantity(zone.flow_m3_per_s, 'airflow', units)} through ${formatQuantity(zone.face_share, 'share', units)} of the face${zone.fan.length > 0 ? ` at ${formatQuantity(zone.pressure_pa, 'air_pressure', units)}` : ''}`;
  const blown = zones.filter((zone) => zone.fan.length > 0);
  const fans = zones.flatMap((zone) => zone.fan);
  const most = Math.max(
    30,
    ...zones.map((z) => z.pressure_pa * 1.6),
    ...fans.map((p) => p.pressure_pa),
  );
  const least = Math.min(
    0,
    ...zones.flatMap((zone) => [...zone.resistance, ...zone.fan].map((p) => p.pressure_pa)),
  );
  const label = `${blown.length > 0 ? 'Fan and resistance' : 'Resistance'}: ${zones.map(said).join('; ')}.`;
  return (
    <figure>
      <Chart
        label={label}
        height={206}
        room={118}
        x={{
          kind: 'airflow',
          from: 0,
          to: Math.max(...zones.flatMap((zone) => zone.resistance.map((p) => p.flow_m3_per_s))),
          of: 'in the zone',
        }}
        y={{
          kind: 'air_pressure',
          from: Math.min(Math.max(least, -most), -0.14 * most),
          to: most * 1.12,
        }}
      >
        {(place) => (
          <>
            {zones.map((zone, at) => (
              <g key={zoneName(zones, at)}>
                {zone.fan.length > 0 && <Curve main place={place} points={points(zone.fan)} />}
                <Curve
                  dashed={zone.fan.length === 0}
                  place={place}
                  points={points(zone.resistance)}
                />
                <Circle
                  cx={place.x(zone.flow_m3_per_s)}
                  cy={place.y(zone.pressure_pa)}
                  r="5"
                  fill={zone.fan.length > 0 ? 'accent' : 'ink'}
                />
              </g>
            ))}
            <Labels
              place={place}
              labels={[
                ...blown.map((zone) => ({
                  text: formatQuantity(zone.flow_m3_per_s, 'airflow', units),
                  x: place.x(zone.flow_m3_per_s) + 11,
                  y: place.y(zone.pressure_pa) - 7,
                  strong: true,
                  over: true,
                })),
                ...blown.map((zone) => ({
                  text: alike ? 'each fan' : zoneName(zones, zones.indexOf(zone)),
                  x: place.x(zone.fan[0]?.flow_m3_per_s ?? 0) + 6,
                  y: place.y(Math.max(...zone.fan.map((p) => p.pressure_pa))) - 8,
                  main: true,
                })),
                ...blown.flatMap((zone) => atEnd(place, points(zone.resistance), 'works against')),
                ...zones
                  .filter((zone) => zone.fan.length === 0)
                  .map((zone) => ({
                    text: 'open face',
                    x: place.x(zone.flow_m3_per_s) + 9,
                    y: place.y(0) + 16,
                  })),
              ]}
            />
          </>
        )}
      </Chart>
      <Words as="figcaption" size="small" tone="quiet" display="block">
        Grille, core and exit, less what driving and warm air give
        {blown.length > 0 && ', the fan at full'}: {zones.map(said).join('; ')}
        {alike && '; the second does the same'}.
      </Words>
    </figure>
  );
});
