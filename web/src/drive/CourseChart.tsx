import { memo } from 'react';
import type { DriveCourse } from '../api/types';
import { Chart, Curve, type Place, type Point } from '../curves/Chart';
import { Line, Mark, Rect } from '../theme/primitives';
import { formatQuantity } from '../units/format';
import { useUnits } from '../units/store';
import { clock } from './script';

type Points = DriveCourse['points'];

function line(points: Points, values: readonly number[]): Point[] {
  return points.time_s.map((time, i) => ({ x: time / 60, y: values[i] ?? 0 }));
}

/** Temperatures over time with the ladder's marks, the fan beneath, and the play head. */
export const CourseChart = memo(function CourseChart({
  course,
  sound,
  opens,
  at,
}: {
  readonly course: DriveCourse;
  /** The same drive without its faults. */
  readonly sound: DriveCourse | null;
  /** Where the thermostat opens, °C. */
  readonly opens: number;
  /** Where the play head stands, s. */
  readonly at: number;
}) {
  const units = useUnits((u) => u.units);
  const { points } = course;
  const end = (points.time_s.at(-1) ?? 60) / 60;
  const all = [...points.top_hose_c, ...points.bottom_hose_c, ...(sound?.points.top_hose_c ?? [])];
  const low = Math.min(...all, 20);
  const high = Math.max(...all, course.limit_c) + 6;
  const label = `Top hose over time: hottest ${formatQuantity(course.hottest_c, 'temperature', units)}, limit ${formatQuantity(course.limit_c, 'temperature', units)}, ${course.time_to_limit_s === null ? 'never passed' : `passed at ${clock(course.time_to_limit_s)}`}.`;
  const mark = (place: Place, value: number, text: string) => (
    <>
      <Line
        x1={place.left}
        x2={place.right}
        y1={place.y(value)}
        y2={place.y(value)}
        stroke="ink"
        strokeWidth="1.2"
        strokeDasharray="5 4"
      />
      <Mark x={place.left + 6} y={place.y(value) - 5}>
        {text}
      </Mark>
    </>
  );
  return (
    <Chart
      label={label}
      height={250}
      room={104}
      x={{ kind: 'minutes', from: 0, to: end }}
      y={{ kind: 'temperature', from: low, to: high }}
    >
      {(place) => (
        <>
          {course.legs.map((leg, i) => (
            <g key={`${leg.from_s} ${leg.name}`}>
              {i % 2 === 1 && (
                <Rect
                  x={place.x(leg.from_s / 60)}
                  y={place.top}
                  width={
                    place.x(Math.min((course.legs[i + 1]?.from_s ?? end * 60) / 60, end)) -
                    place.x(leg.from_s / 60)
                  }
                  height={place.bottom - place.top}
                  fill="sunken"
                />
              )}
            </g>
          ))}
          {fanStretches(points).map(([from, to]) => (
            <Rect
              key={from}
              x={place.x(from / 60)}
              y={place.bottom - 5}
              width={Math.max(place.x(to / 60) - place.x(from / 60), 1)}
              height={5}
              fill="air"
            />
          ))}
          {mark(place, course.limit_c, 'limit')}
          {mark(place, opens, 'starts to open')}
          {sound && (
            <Curve
              dashed
              place={place}
              points={line(sound.points, sound.points.top_hose_c)}
              name="without fault"
            />
          )}
          <Curve place={place} points={line(points, points.bottom_hose_c)} name="bottom hose" />
          <Curve main place={place} points={line(points, points.top_hose_c)} name="top hose" />
          <Line
            x1={place.x(at / 60)}
            x2={place.x(at / 60)}
            y1={place.top}
            y2={place.bottom}
            stroke="accent"
            strokeWidth="1.5"
          />
          <Mark x={place.left + 4} y={place.bottom - 9}>
            fan
          </Mark>
        </>
      )}
    </Chart>
  );
});

/** Beginnings and ends [s] of the stretches in which the fan runs. */
export function fanStretches(points: Points): [number, number][] {
  const found: [number, number][] = [];
  let since: number | null = null;
  points.fan_stage.forEach((stage, i) => {
    const time = points.time_s[i] ?? 0;
    if (stage > 0 && since === null) since = time;
    if (stage === 0 && since !== null) {
      found.push([since, time]);
      since = null;
    }
  });
  if (since !== null) found.push([since, points.time_s.at(-1) ?? 0]);
  return found;
}
