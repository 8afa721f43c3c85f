/** What is asked while a build is fitted, filled and proved, and what is kept of its jobs. */

import { client, gone, settle } from './transport';
import type {
  CapQuestion,
  CapResult,
  Filling,
  FillQuestion,
  FitPlan,
  FitQuestion,
  GaugeQuestion,
  HoldQuestion,
  HoldResult,
  JobBody,
  JobEntry,
  Mix,
  MixQuestion,
  PartsFileQuestion,
  PartsList,
  Refractometer,
  RefractometerQuestion,
  SimulatedReading,
  TenYears,
  WaterLeft,
  WaterQuestion,
  YearsQuestion,
} from './types';

/** The work plan to a variant, by a school; what stands in the car the build says. */
export function readPlan(question: FitQuestion, signal: AbortSignal): Promise<FitPlan> {
  return settle(client.POST('/api/v1/fit/plan', { body: question, signal }));
}

export function readParts(question: FitQuestion, signal: AbortSignal): Promise<PartsList> {
  return settle(client.POST('/api/v1/fit/parts', { body: question, signal }));
}

export function partsFile(question: PartsFileQuestion, currency: string): Promise<string> {
  const params = { query: { currency } };
  return settle(client.POST('/api/v1/fit/parts/csv', { params, body: question, parseAs: 'text' }));
}

/** What the first runs of a build should look like. */
export function readFilling(question: FillQuestion, signal: AbortSignal): Promise<Filling> {
  return settle(client.POST('/api/v1/fit/filling', { body: question, signal }));
}

export function whatToPour(question: MixQuestion, signal: AbortSignal): Promise<Mix> {
  return settle(client.POST('/api/v1/fit/mix', { body: question, signal }));
}

export function waterLeft(question: WaterQuestion, signal: AbortSignal): Promise<WaterLeft> {
  return settle(client.POST('/api/v1/fit/water-left', { body: question, signal }));
}

export function readRefractometer(
  question: RefractometerQuestion,
  signal: AbortSignal,
): Promise<Refractometer> {
  return settle(client.POST('/api/v1/fit/refractometer', { body: question, signal }));
}

export function readHold(question: HoldQuestion, signal: AbortSignal): Promise<HoldResult> {
  return settle(client.POST('/api/v1/fit/hold', { body: question, signal }));
}

export function readCap(question: CapQuestion, signal: AbortSignal): Promise<CapResult> {
  return settle(client.POST('/api/v1/fit/cap', { body: question, signal }));
}

/** What the simulated gauge shows over a hold. */
export function simulatedHold(question: GaugeQuestion): Promise<SimulatedReading[]> {
  return settle(client.POST('/api/v1/fit/gauge', { body: question }));
}

export function tenYears(question: YearsQuestion, signal: AbortSignal): Promise<TenYears[]> {
  return settle(client.POST('/api/v1/fit/ten-years', { body: question, signal }));
}

/** The jobs of a build, the newest first. */
export function listJobs(build: string, signal: AbortSignal): Promise<JobBody[]> {
  const params = { path: { build_id: build } };
  return settle(client.GET('/api/v1/builds/{build_id}/jobs', { params, signal }));
}

/** Begin a job under an id of ours: begun twice it is begun once. */
export function beginJob(id: string, build: string): Promise<JobBody> {
  const params = { path: { build_id: build } };
  return settle(client.POST('/api/v1/builds/{build_id}/jobs', { params, body: { id } }));
}

/** Add to a job; what is there already is left as it is. */
export function sendEntries(id: string, entries: JobEntry[]): Promise<JobBody> {
  const params = { path: { job_id: id } };
  return settle(client.POST('/api/v1/jobs/{job_id}/entries', { params, body: { entries } }));
}

/** Keep a photo under an id of ours: sent twice it is kept once. */
export function sendPhoto(id: string, build: string, picture: Blob): Promise<true> {
  const address = `/api/v1/builds/${build}/photos/${id}`;
  return gone(
    fetch(address, {
      method: 'PUT',
      body: picture,
      headers: { 'Content-Type': picture.type },
    }).then(async (response) => ({
      response,
      error: response.ok ? undefined : await response.json().catch(() => undefined),
    })),
  );
}

export const photoAddress = (id: string) => `/api/v1/photos/${id}`;

/** Where a build's jobs tell that something was added. */
export const jobsNews = (build: string) => `/api/v1/builds/${encodeURIComponent(build)}/jobs/news`;
