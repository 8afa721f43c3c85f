/** For tests of whole views: the page at an address, before a server that answers what was recorded of a real one. */

import createCache from '@emotion/cache';
import { QueryClient } from '@tanstack/react-query';
import { configure, render, screen } from '@testing-library/react';
import userEvent, { PointerEventsCheckLevel } from '@testing-library/user-event';
import { vi } from 'vitest';
import { Page } from '../app/Page';
import { useCases } from '../model/cases/kept';
import { useChosenCase } from '../model/cases/shown';
import { useJobs } from '../model/jobs/kept';
import { useUnits } from '../model/units/store';
import recorded from './answers.json';
import { browserParts } from './drawn';

// Nothing is drawn here: rules that nobody reads, those for the whole page among them, would take most of the time.
const styles = createCache({ key: 'eb' });
Object.getPrototypeOf(styles.sheet).insert = () => undefined;

export const MULE = '871a87d7-19a2-59ba-b5e1-25e9caff80ba';
/** The job that was recorded of it. */
export const JOB = recorded[`GET /builds/${MULE}/jobs`][0]?.id ?? '';
export const VARIANT = 'as-found';

// A busy machine is slow, not wrong. What is waited for is looked for again and again: all that is there would be written
// out each time that it is not there yet (`screen.debug()` does it where it is wanted).
configure({
  asyncUtilTimeout: 120_000,
  defaultHidden: true,
  getElementError: (message) => new Error(message ?? 'not found'),
});

type Answer = unknown | ((body: unknown) => unknown);

/** What was asked of the server, in order: method and path, and what was sent. */
export interface Asked {
  readonly what: string;
  readonly body: unknown;
}

/** An answer that is no success, in the form of the server's problems. */
export class Refusal {
  readonly problem: object;
  constructor(
    readonly status: number,
    detail: string,
    more: object = {},
  ) {
    this.problem = { type: 'urn:ebbrin:refused', title: 'Refused', status, detail, ...more };
  }
}

/** A server that answers as recorded, but for what a test says otherwise; an answer may be worked out from what was sent. */
export class RecordedServer {
  readonly asked: Asked[] = [];
  constructor(readonly own: Record<string, Answer> = {}) {}

  readonly fetch = async (request: Request): Promise<Response> => {
    const what = `${request.method} ${request.url.replace(/^[a-z]+:\/\/[^/]+/, '').replace('/api/v1', '')}`;
    const text = await request.text();
    const body: unknown =
      text && request.headers.get('content-type')?.includes('json') ? JSON.parse(text) : text;
    this.asked.push({ what, body });
    const kept: Record<string, Answer> = recorded;
    const found = what in this.own ? this.own[what] : kept[what];
    const answer = typeof found === 'function' ? await found(body) : found;
    if (answer === undefined)
      return json(404, {
        type: 'about:blank',
        title: 'Not recorded',
        status: 404,
        detail: `${what} was not recorded`,
      });
    if (answer instanceof Refusal) return json(answer.status, answer.problem);
    return json(200, answer);
  };

  /** What was sent with questions of a kind. */
  sent(what: string): unknown[] {
    return this.asked.filter((one) => one.what === what).map((one) => one.body);
  }
}

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), {
    status,
    headers: {
      'content-type': status < 400 ? 'application/json' : 'application/problem+json',
      etag: '"1"',
    },
  });

/** What an element says, its spaces that do not break as any other. */
export const said = (element: Element | null | undefined) =>
  (element?.textContent ?? '').replaceAll('\u00a0', ' ').replaceAll('\u202f', ' ');

/** Answers of a server that stores what it is sent: the last is what was saved. */
export function saving(): Record<string, Answer> {
  const stored = recorded[`GET /builds/${MULE}`];
  let revision = stored.revision;
  return {
    [`PUT /builds/${MULE}`]: (build: unknown) => {
      revision += 1;
      return { ...stored, revision, build };
    },
  };
}

/** Opens the page at an address, before a server of one's own or the recorded one. */
export async function opened(address: string, server = new RecordedServer()) {
  browserParts();
  localStorage.clear();
  sessionStorage.clear();
  // What another test has written down stays with the page, which they share.
  // Nothing is kept here: what is has been read.
  useCases.setState({ ...useCases.getInitialState(), loaded: true }, true);
  useChosenCase.setState({ of: {} });
  useJobs.setState({ ...useJobs.getInitialState(), loaded: true }, true);
  vi.stubGlobal('fetch', server.fetch);
  useUnits.getState().choose('metric');
  history.pushState(null, '', address);
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(<Page styles={styles} queries={queries} />);
  return {
    server,
    user: userEvent.setup({ pointerEventsCheck: PointerEventsCheckLevel.Never }),
    screen,
  };
}
