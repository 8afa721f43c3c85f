/** What is asked when a cause is looked for, on a real car or on one to practise on. */

import { client, settle } from './transport';
import type {
  Build,
  CaseBody,
  CaseFinding,
  Diagnosis,
  DiagnosisQuestion,
  PracticeCar,
  PracticeDebrief,
  PracticeFound,
  PracticeOf,
  TestCard,
} from './types';

/** What it may be and what to look at next. */
export function diagnose(question: DiagnosisQuestion, signal: AbortSignal): Promise<Diagnosis> {
  return settle(client.POST('/api/v1/diagnosis', { body: question, signal }));
}

/** How every test is made, with the numbers of a build. */
export function testCards(
  build: Build | null,
  variant: string | null,
  signal: AbortSignal,
): Promise<TestCard[]> {
  return settle(client.POST('/api/v1/diagnosis/cards', { body: { build, variant }, signal }));
}

/** The cases of a build, or those of any car, the newest first. */
export function listCases(build: string | null, signal: AbortSignal): Promise<CaseBody[]> {
  if (build === null) return settle(client.GET('/api/v1/cases', { signal }));
  const params = { path: { build_id: build } };
  return settle(client.GET('/api/v1/builds/{build_id}/cases', { params, signal }));
}

/** Begin a case under an id of ours: begun twice it is begun once. */
export function beginCase(id: string, build: string | null): Promise<CaseBody> {
  if (build === null) return settle(client.POST('/api/v1/cases', { body: { id } }));
  const params = { path: { build_id: build } };
  return settle(client.POST('/api/v1/builds/{build_id}/cases', { params, body: { id } }));
}

/** Add to a case; what is there already is left as it is. */
export function sendFindings(id: string, findings: CaseFinding[]): Promise<CaseBody> {
  const params = { path: { case_id: id } };
  return settle(client.POST('/api/v1/cases/{case_id}/findings', { params, body: { findings } }));
}

/** A demo car with hidden faults; the same number is the same car. */
export function practiceCar(of: PracticeOf): Promise<PracticeCar> {
  return settle(client.POST('/api/v1/practice/car', { body: of }));
}

export function practiceLook(of: PracticeOf & { observation: string }): Promise<PracticeFound> {
  return settle(client.POST('/api/v1/practice/look', { body: of }));
}

export function practiceDebrief(
  of: PracticeOf & { asked: string[]; causes: string[] },
): Promise<PracticeDebrief> {
  return settle(client.POST('/api/v1/practice/debrief', { body: of }));
}
