/** Kinds of duty case that fill sensible values; every field stays open. */

import type { Build, Case } from '../api/types';

export interface CaseKind {
  readonly name: string;
  readonly hint: string;
  readonly values: (build: Build, variant: number) => Partial<Case>;
}

export const caseKinds: readonly CaseKind[] = [
  {
    name: 'Traffic, idle',
    hint: 'standing on the hottest day, air conditioning on where there is one',
    values: () => ({ speed_km_h: 0, engine_rpm: 850, air_conditioning: true }),
  },
  {
    name: 'Crawl',
    hint: 'walking pace in a queue',
    values: () => ({ speed_km_h: 6, engine_rpm: 1100 }),
  },
  {
    name: 'Loaded climb',
    hint: 'a long grade with all that it carries and tows',
    values: () => ({ speed_km_h: 60, engine_rpm: 3200, gradient_share: 0.07, tows: true }),
  },
  {
    name: 'Motorway',
    hint: 'for hours at speed',
    values: () => ({ speed_km_h: 120, engine_rpm: 2900 }),
  },
  {
    name: 'Flat-out run',
    hint: 'rated power for a minute, from warm',
    values: (build, variant) => {
      const engine = build.variants[variant]?.engine;
      return {
        kind: 'timed',
        duration_s: 60,
        load: 'power',
        brake_power_kw: engine?.rated_power_kw ?? null,
        speed_km_h: 120,
        engine_rpm: engine?.rated_rpm ?? 5500,
      };
    },
  },
  {
    name: 'Stationary work',
    hint: 'a pump or winch driven while it stands',
    values: () => ({ speed_km_h: 0, engine_rpm: 1800, shaft_work_kw: 15 }),
  },
  {
    name: 'Cold morning',
    hint: 'does it get warm, and does the coolant freeze?',
    values: () => ({ speed_km_h: 50, engine_rpm: 1800, ambient_c: -15, heater: true }),
  },
];
