import { memo, type ReactNode } from 'react';
import { atEnd, Chart, Curve, Labels, Level, type Place, type Point } from '../../kit/chart/Chart';
import { Mark, Rect } from '../../kit/shapes';
import type { DriveCourse } from '../../model/api/types';
import { clock } from '../../model/document/drives';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { fanStretches, lastOf, type Points } from './course';

/** Room on the right of the charts for the names of their lines, px. */
export const ROOM = 104;

function line(points: Points, values: readonly number[]): Point[] {
  return points.time_s.map((time, i) => ({ x: time, y: values[i] ?? 0 }));
}

/** Temperatures over time with the ladder's marks, the fan beneath; then flow and pressure on the same time. */
export const CourseChart = memo(function CourseChart({
  course,
  sound,
  opens,
}: {
  readonly course: DriveCourse;
  /** The same drive without its faults. */
  readonly sound: DriveCourse | null;
  /** Where the thermostat opens, °C. */
  readonly opens: number;
}) {
  const units = useUnits((u) => u.units);
  const { points } = course;
  const end = lastOf(course, sound);
  const time = { kind: 'leg_duration', from: 0, to: end } as const;
  const all = [points.engine_out_c, points.bottom_hose_c, sound?.points.engine_out_c ?? []].flat();
  const [low, high] = ends(all, 20, course.limit_c);
  const label = `Coolant leaving the engine over time: hottest ${formatQuantity(course.hottest_c, 'temperature', units)}, limit ${formatQuantity(course.limit_c, 'temperature', units)}, ${course.time_to_limit_s === null ? 'never passed' : `passed at ${clock(course.time_to_limit_s)}`}.`;
  return (
    <>
      <Chart
        label={label}
        height={214}
        room={ROOM}
        foot={false}
        x={time}
        y={{ kind: 'temperature', from: low - 8, to: high + 6 }}
      >
        {(place) => (
          <>
            <Shades course={course} place={place} end={end} />
            {fanStretches(points).map(([from, to]) => (
              <Rect
                key={from}
                x={place.x(from)}
                y={place.bottom - 6}
                width={Math.max(place.x(to) - place.x(from), 1)}
                height={6}
                fill="air"
              />
            ))}
            {sound && (
              <Curve dashed place={place} points={line(sound.points, sound.points.engine_out_c)} />
            )}
            <Curve place={place} points={line(points, points.bottom_hose_c)} />
            <Curve main place={place} points={line(points, points.engine_out_c)} />
            <Level place={place} value={course.limit_c} />
            <Level place={place} value={opens} />
            <Labels
              place={place}
              labels={[
                { text: 'engine out', at: points.engine_out_c.at(-1) ?? 0, main: true },
                { text: 'bottom hose', at: points.bottom_hose_c.at(-1) ?? 0 },
                { text: 'limit', at: course.limit_c },
                { text: 'starts to open', at: opens },
                ...(sound
                  ? [{ text: 'without fault', at: sound.points.engine_out_c.at(-1) ?? 0 }]
                  : []),
              ].map(({ at, ...label }) => ({ ...label, x: place.right + 8, y: place.y(at) + 4 }))}
            />
            <Mark x={place.left + 4} y={place.bottom - 10}>
              fan
            </Mark>
          </>
        )}
      </Chart>
      <Strip
        course={course}
        end={end}
        kind="coolant_flow"
        values={points.coolant_flow_l_per_min}
        name="through core"
        label="Coolant through the core over time"
      />
      <Strip
        course={course}
        end={end}
        kind="pressure"
        values={points.pressure_kpa}
        name="pressure"
        label="Pressure in the system over time"
        foot
      />
    </>
  );
});

/** Least and greatest of many values and two more; spreading thousands of arguments would be slow. */
function ends(values: readonly number[], ...more: readonly number[]): [number, number] {
  let [low, high] = [Math.min(...more), Math.max(...more)];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return [low, high];
}

function Strip({
  course,
  end,
  kind,
  values,
  name,
  label,
  foot = false,
}: {
  readonly course: DriveCourse;
  readonly end: number;
  readonly kind: string;
  readonly values: readonly number[];
  readonly name: string;
  readonly label: string;
  readonly foot?: boolean;
}) {
  const [low, high] = ends(values, 0, 1);
  return (
    <Chart
      label={label}
      height={foot ? 94 : 78}
      room={ROOM}
      foot={foot}
      x={{ kind: 'leg_duration', from: 0, to: end }}
      y={{ kind, from: low, to: high * 1.08 }}
    >
      {(place) => (
        <>
          <Shades course={course} place={place} end={end} />
          <Curve place={place} points={line(course.points, values)} />
          <Labels place={place} labels={atEnd(place, line(course.points, values), name)} />
        </>
      )}
    </Chart>
  );
}

/** Every second leg on a darker ground. */
function Shades({
  course,
  place,
  end,
}: {
  readonly course: DriveCourse;
  readonly place: Place;
  readonly end: number;
}): ReactNode {
  return course.legs.map((leg, i) => {
    const next = course.legs[i + 1]?.from_s ?? end;
    return i % 2 === 1 ? (
      <Rect
        key={`${leg.from_s} ${leg.name}`}
        x={place.x(leg.from_s)}
        y={place.top}
        width={place.x(Math.min(next, end)) - place.x(leg.from_s)}
        height={place.bottom - place.top}
        fill="sunken"
      />
    ) : null;
  });
}
