/** The drives of a build: what one begins with, its legs and its faults. */

import type { Build, Case, Drive, Leg, LegFault } from '../api/types';
import { caseKinds } from './kinds';
import { newCase } from './newBuild';

export const MOST_DRIVES = 12;
export const MOST_LEGS = 60;

/** The build's own cases one after another, and a stop at the end. */
export function firstDrive(build: Build): Drive {
  const legs = build.cases.map((entry) =>
    asIn(entry.id, entry.kind === 'timed' ? (entry.duration_s ?? 60) : 900),
  );
  const last = legs.at(-1);
  return {
    id: freshId(build),
    name: 'All cases and a stop',
    start_c: null,
    legs: last ? [...legs, { ...last, duration_s: 900, engine_runs: false }] : legs,
    recording: null,
    faults: [],
  };
}

function asIn(case_id: string, duration_s: number): Leg {
  return { case_id, case: null, duration_s, engine_runs: true };
}

function freshId(build: Build): string {
  const taken = new Set(build.drives?.map((drive) => drive.id));
  let number = (build.drives?.length ?? 0) + 1;
  while (taken.has(`drive-${number}`)) number += 1;
  return `drive-${number}`;
}

/** The same drive once more, under another name. */
export function duplicatedDrive(build: Build, drive: Drive): Drive {
  return { ...drive, id: freshId(build), name: `${drive.name}, again`.slice(0, 120) };
}

/** The drive without legs of cases that the build no longer has; all cases if none is left. */
export function fitting(drive: Drive, build: Build): Drive {
  const ids = new Set(build.cases.map((entry) => entry.id));
  const legs = (drive.legs ?? []).filter((leg) => leg.case || ids.has(leg.case_id ?? ''));
  if (legs.length === drive.legs?.length) return drive;
  if (legs.length > 0 || drive.recording) return { ...drive, legs };
  return { ...drive, legs: firstDrive(build).legs ?? [] };
}

/** The drive with a fault switched on, as bad as it is said to be, or off. */
export function switched(
  drive: Drive,
  fault: LegFault['fault'],
  on: boolean,
  severity_share = 1,
): Drive {
  const others = (drive.faults ?? []).filter((entry) => entry.fault !== fault);
  const added: LegFault[] = on ? [{ fault, severity_share, from_s: 0, until_s: null }] : [];
  return { ...drive, faults: [...others, ...added] };
}

/** How long a drive lasts, s. */
export function lasts(drive: Drive): number {
  if (drive.recording) return drive.recording.lasts_s;
  return (drive.legs ?? []).reduce((sum, leg) => sum + (leg.duration_s ?? 300), 0);
}

export interface Template {
  readonly name: string;
  readonly hint: string;
  readonly legs: (build: Build, variant: number, last: Leg | undefined) => Leg[];
}

const CLIMB = [0.04, 0.06, 0.08, 0.05];

function own(name: string, values: Partial<Case>, duration_s: number): Leg {
  const made = newCase([], name, { ...values, id: 'own', kind: 'steady', duration_s: null });
  return { case_id: null, case: made, duration_s, engine_runs: true };
}

function ofKind(kind: string, duration_s: number): Template['legs'] {
  return (build, variant) => {
    const values = caseKinds.find((entry) => entry.name === kind)?.values(build, variant) ?? {};
    return [own(kind, values, duration_s)];
  };
}

/** Legs to begin with; every field stays open. */
export const templates: readonly Template[] = [
  {
    name: 'Cold start and warm-up',
    hint: 'a frosty morning: a minute at fast idle, then a quarter of an hour of road with the heater on',
    legs: () => [
      own('Cold start', { speed_km_h: 0, engine_rpm: 1200, ambient_c: -10, heater: true }, 60),
      own('Warm-up', { speed_km_h: 50, engine_rpm: 1800, ambient_c: -10, heater: true }, 900),
    ],
  },
  { name: 'Queue', hint: 'standing, engine idling', legs: ofKind('Traffic, idle', 900) },
  { name: 'Crawl', hint: 'walking pace', legs: ofKind('Crawl', 900) },
  { name: 'Road', hint: 'for hours at speed', legs: ofKind('Motorway', 1200) },
  {
    name: 'Climb',
    hint: 'a hill in four stretches of 4, 6, 8 and 5 %',
    legs: () =>
      CLIMB.map((gradient_share) =>
        own(
          `Climb of ${Math.round(gradient_share * 100)} %`,
          { speed_km_h: 60, engine_rpm: 3200, gradient_share },
          240,
        ),
      ),
  },
  { name: 'Flat-out run', hint: 'rated power for a minute', legs: ofKind('Flat-out run', 60) },
  {
    name: 'Stationary work',
    hint: 'a pump or winch for half an hour',
    legs: ofKind('Stationary work', 1800),
  },
  {
    name: 'Stop and soak',
    hint: 'the engine off where the leg before has ended',
    legs: (build, _variant, last) => {
      const before = last ?? asIn(build.cases[0]?.id ?? '', 0);
      return [{ ...before, duration_s: 1200, engine_runs: false }];
    },
  },
];

/** Whether two builds are the same but for their drives. */
export function onlyDrivesDiffer(a: Build, b: Build): boolean {
  const { drives: _, ...one } = a;
  const { drives: __, ...other } = b;
  const keys = Object.keys(one) as (keyof typeof one)[];
  return keys.length === Object.keys(other).length && keys.every((key) => one[key] === other[key]);
}

/** A name that no drive has yet. */
export function freeName(drives: readonly Drive[]): string {
  let number = drives.length + 1;
  while (drives.some(({ name }) => name === `Drive ${number}`)) number += 1;
  return `Drive ${number}`;
}

/** Minutes and seconds. */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}
