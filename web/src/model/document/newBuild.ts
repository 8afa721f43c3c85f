/** What a new build and a new case start with. All else is "don't know" until it is typed. */

import type { Build, Case } from '../api/types';

type CaseStart = Pick<Case, 'id' | 'name'> & Partial<Case>;

const starts: readonly CaseStart[] = [
  { id: 'traffic', name: 'Traffic, idle', speed_km_h: 0, engine_rpm: 850 },
  { id: 'climb', name: 'Loaded climb', speed_km_h: 60, engine_rpm: 3200, gradient_share: 0.07 },
  { id: 'motorway', name: 'Motorway', speed_km_h: 120, engine_rpm: 2900 },
];

export function newBuild(name: string, workshop: string): Build {
  return {
    name,
    workshop,
    cases: starts.map((start) => ({ ...start })),
    variants: [{ id: 'as-found', name: 'As found' }],
  } as unknown as Build;
}

export function newCase(cases: readonly Case[], name = '', values: Partial<Case> = {}): Case {
  const taken = new Set(cases.map((entry) => entry.id));
  let number = cases.length + 1;
  while (taken.has(`case-${number}`)) number += 1;
  return {
    id: `case-${number}`,
    name: name || `Case ${number}`,
    kind: 'steady',
    duration_s: null,
    start_c: null,
    speed_km_h: 50,
    engine_speed_by: 'stated',
    engine_rpm: 2000,
    overall_ratio: null,
    load: 'road',
    gradient_share: 0,
    acceleration_m_per_s2: 0,
    headwind_km_h: 0,
    brake_power_kw: null,
    shaft_work_kw: 0,
    tows: false,
    heater: false,
    air_conditioning: false,
    ambient_c: null,
    altitude_m: null,
    ...values,
  };
}
