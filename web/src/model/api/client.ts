/** What is asked about builds: kept, judged, sized, driven, and the shelf. */

import { client, gone, patience, settle } from './transport';
import type {
  AirLines,
  Build,
  BuildSummary,
  Conditions,
  Coolants,
  Drive,
  DriveCourse,
  Evaluation,
  FaultOutcome,
  FlowLines,
  Health,
  HeatCurves,
  RecordingImport,
  RevisionHeading,
  Shelf,
  ShelfImport,
  SizingRun,
  StoredBuild,
  Uncertainty,
  Wishes,
  WorkshopSettings,
} from './types';

export function listBuilds(signal: AbortSignal): Promise<BuildSummary[]> {
  return settle(client.GET('/api/v1/builds', { signal }));
}

export function openBuild(id: string): Promise<StoredBuild> {
  return settle(client.GET('/api/v1/builds/{build_id}', { params: { path: { build_id: id } } }));
}

/** Put a build away, or bring it back. */
export function archiveBuild(id: string, archived: boolean): Promise<unknown> {
  const params = { path: { build_id: id } };
  return settle(client.PUT('/api/v1/builds/{build_id}/archived', { params, body: { archived } }));
}

/** A new build with what another one holds. `key` is made by who asks: asked twice it is made once. */
export function copyBuild(id: string, key: string): Promise<StoredBuild> {
  const params = { path: { build_id: id }, header: { 'Idempotency-Key': key } };
  return settle(client.POST('/api/v1/builds/{build_id}/copy', { params }));
}

export function readSettings(signal: AbortSignal): Promise<WorkshopSettings> {
  return settle(client.GET('/api/v1/settings', { signal }));
}

export function saveSettings(settings: WorkshopSettings): Promise<WorkshopSettings> {
  return settle(client.PUT('/api/v1/settings', { body: settings }));
}

/** Store a new build. `key` is made by who asks: the same asked twice is stored once. */
export function createBuild(build: Build, key: string): Promise<StoredBuild> {
  return settle(
    client.POST('/api/v1/builds', { params: { header: { 'Idempotency-Key': key } }, body: build }),
  );
}

/** Save on top of a revision. `key` is made by who saves: the same sent twice is stored once. */
export function saveBuild(
  id: string,
  basedOn: number,
  build: Build,
  key: string,
): Promise<StoredBuild> {
  return settle(
    client.PUT('/api/v1/builds/{build_id}', {
      signal: patience(),
      params: {
        path: { build_id: id },
        header: { 'if-match': `"${basedOn}"`, 'Idempotency-Key': key },
      },
      body: build,
    }),
  );
}

export function evaluate(
  build: Build,
  variant: string,
  signal: AbortSignal,
  levers = false,
): Promise<Evaluation> {
  return settle(
    client.POST('/api/v1/evaluate', {
      params: { query: { variant, levers } },
      body: build,
      signal,
    }),
  );
}

/** How sure the verdict on a variant is; hanging up stops it. */
export function howSure(build: Build, variant: string, signal: AbortSignal): Promise<Uncertainty> {
  return settle(
    client.POST('/api/v1/uncertainty', { params: { query: { variant } }, body: build, signal }),
  );
}

/** The build with one more variant, in which a lever has been pulled. */
export function pullLever(build: Build, variant: string, lever: string): Promise<Build> {
  return settle(
    client.POST('/api/v1/levers/{lever}', {
      params: { path: { lever }, query: { variant } },
      body: build,
    }),
  );
}

/** Revisions of a build without their documents, the newest first, some at a time. */
export function listRevisions(id: string, before?: number): Promise<RevisionHeading[]> {
  return settle(
    client.GET('/api/v1/builds/{build_id}/revisions', {
      params: { path: { build_id: id }, query: { before } },
    }),
  );
}

/** One revision of a build, whole. */
export function openRevision(id: string, number: number): Promise<StoredBuild> {
  return settle(
    client.GET('/api/v1/builds/{build_id}/revisions/{number}', {
      params: { path: { build_id: id, number } },
    }),
  );
}

/** How the server is, and how old the newest backup. */
export function readHealth(signal: AbortSignal): Promise<Health> {
  return settle(client.GET('/api/v1/health', { signal }));
}

/** What stands beside the fields of each station, by its route. */
export interface CurvesByName {
  heat: HeatCurves;
  condition: Conditions;
  air: AirLines;
  flow: FlowLines;
  coolants: Coolants;
}

/** Curves of one case, for the document as it stands. */
export function readCurves<Name extends keyof CurvesByName>(
  name: Name,
  build: Build,
  variant: string,
  caseId: string,
  signal: AbortSignal,
): Promise<CurvesByName[Name]> {
  const query = { variant, case: caseId };
  // All five routes ask alike; only their answers differ.
  const path = `/api/v1/curves/${name}` as '/api/v1/curves/heat';
  const asked = client.POST(path, { params: { query }, body: build, signal });
  return settle(asked as Promise<{ data?: unknown; response: Response }>) as Promise<
    CurvesByName[Name]
  >;
}

/** Call a revision something; an empty name takes it away. */
export function nameRevision(id: string, number: number, name: string): Promise<RevisionHeading> {
  return settle(
    client.PUT('/api/v1/builds/{build_id}/revisions/{number}/name', {
      params: { path: { build_id: id, number } },
      body: { name },
    }),
  );
}

export function readShelf(signal: AbortSignal): Promise<Shelf> {
  return settle(client.GET('/api/v1/shelf', { signal }));
}

export type ShelfForm = 'csv' | 'json';

/** Every row of a file that fits; what does not is named in the answer. */
export function importShelf(text: string, form: ShelfForm): Promise<ShelfImport> {
  return settle(
    client.POST('/api/v1/shelf/import', {
      params: { query: { form } },
      body: text,
      bodySerializer: (body: string) => body,
      headers: { 'Content-Type': form === 'csv' ? 'text/csv' : 'application/json' },
    } as never) as Promise<{ data?: ShelfImport; response: Response }>,
  );
}

/** Take an own part off the shelf, or put it back. */
export async function removeFromShelf(id: string, removed: boolean): Promise<void> {
  await settle(
    client
      .PUT('/api/v1/shelf/{part_id}/removed', {
        params: { path: { part_id: id }, query: { removed } },
      })
      .then((answer) => ({ ...answer, data: answer.response.ok ? true : undefined })),
  );
}

/** Where the shelf is written as a file. */
export function shelfAddress(form: ShelfForm, own: boolean): string {
  return `/api/v1/shelf/export?form=${form}&own=${own}`;
}

/** Ask for a sizing of a build as it stands on the page; one that is under way is stopped. */
export function startSizing(
  id: string,
  build: Build,
  variant: string,
  wishes: Wishes,
): Promise<SizingRun> {
  return settle(
    client.POST('/api/v1/builds/{build_id}/sizings', {
      params: { path: { build_id: id } },
      body: { build, variant, wishes },
    }),
  );
}

/** The newest sizing of a build as it stands, or null. */
export async function newestSizing(id: string): Promise<SizingRun | null> {
  const path = { build_id: id };
  const asked = client.GET('/api/v1/builds/{build_id}/sizings/newest', { params: { path } });
  // An answer of null is an answer, too.
  const found = await settle(
    asked.then((answer) => ({ ...answer, data: answer.response.ok ? [answer.data] : undefined })),
  );
  return found[0] ?? null;
}

/** Let go of a sizing and what it found. */
export function removeSizing(run: string): Promise<true> {
  return gone(client.DELETE('/api/v1/sizings/{run_id}', { params: { path: { run_id: run } } }));
}

/** Let go of a recording. */
export function removeRecording(id: string): Promise<true> {
  const params = { path: { recording_id: id } };
  return gone(client.DELETE('/api/v1/recordings/{recording_id}', { params }));
}

export function stopSizing(run: string): Promise<SizingRun> {
  return settle(
    client.POST('/api/v1/sizings/{run_id}/cancel', { params: { path: { run_id: run } } }),
  );
}

/** A drive of one variant over time. */
export function driveBuild(
  build: Build,
  variant: string,
  drive: Drive,
  signal: AbortSignal,
): Promise<DriveCourse> {
  return settle(client.POST('/api/v1/drive', { body: { build, variant, drive }, signal }));
}

/** The same drive with every single fault on top, the hottest first. */
export function driveEachFault(
  build: Build,
  variant: string,
  drive: Drive,
  signal: AbortSignal,
): Promise<FaultOutcome[]> {
  return settle(client.POST('/api/v1/drive/faults', { body: { build, variant, drive }, signal }));
}

/** Every step of a drive as CSV. */
export function driveFile(build: Build, variant: string, drive: Drive): Promise<string> {
  return settle(
    client.POST('/api/v1/drive/csv', { body: { build, variant, drive }, parseAs: 'text' }),
  );
}

/** A recorded drive from CSV; what cannot be read is named in the answer, and nothing is kept then. */
export function importRecording(text: string, name: string): Promise<RecordingImport> {
  return settle(
    client.POST('/api/v1/recordings', {
      params: { query: { name } },
      body: text,
      bodySerializer: (body: string) => body,
      headers: { 'Content-Type': 'text/csv' },
    } as never) as Promise<{ data?: RecordingImport; response: Response }>,
  );
}
