/** A drive of a build: what it begins with, and where it is kept in this browser. */

import type { Build, LegFault, Script } from '../api/types';

/** The build's own cases one after another, and a stop at the end. */
export function firstScript(build: Build): Script {
  const legs = build.cases.map((entry) => ({
    case_id: entry.id,
    case: null,
    duration_s: entry.kind === 'timed' ? (entry.duration_s ?? 60) : 900,
    engine_runs: true,
  }));
  const last = legs.at(-1);
  const soak = last ? [{ ...last, duration_s: 900, engine_runs: false }] : [];
  return {
    format: 'ebbrin-drive',
    version: 1,
    name: 'A drive',
    start_c: null,
    legs: [...legs, ...soak],
    faults: [],
  };
}

/** The script without legs of cases that the build no longer has; the first one if none is left. */
export function fitting(script: Script, build: Build): Script {
  const ids = new Set(build.cases.map((entry) => entry.id));
  const legs = script.legs.filter((leg) => leg.case_id === null || ids.has(leg.case_id ?? ''));
  return legs.length === 0 ? firstScript(build) : { ...script, legs };
}

/** The script with a fault switched on or off. */
export function switched(script: Script, fault: LegFault['fault'], on: boolean): Script {
  const others = (script.faults ?? []).filter((entry) => entry.fault !== fault);
  const added: LegFault[] = on ? [{ fault, severity_share: 1, from_s: 0, until_s: null }] : [];
  return { ...script, faults: [...others, ...added] };
}

const key = (id: string) => `ebbrin-drive-${id}`;

export function keptScript(id: string, build: Build): Script {
  try {
    const kept = localStorage.getItem(key(id));
    if (kept) return fitting(JSON.parse(kept) as Script, build);
  } catch {
    // Without storage each visit begins afresh.
  }
  return firstScript(build);
}

export function keepScript(id: string, script: Script): void {
  try {
    localStorage.setItem(key(id), JSON.stringify(script));
  } catch {
    // As above.
  }
}

/** Minutes and seconds. */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}
