import type { ComponentType } from 'react';

export type Params = Readonly<Record<string, string | undefined>>;

/** A place of a build: one view with an address of its own. */
export interface Place {
  /** Below the variant, as the router reads it; empty for the loop. */
  readonly path: string;
  /** Of the tab; null where nothing stands at such an address. */
  readonly title: (params: Params) => string | null;
  readonly Page: ComponentType;
  /** What stands around it: the four answers in full, or in brief with the stations, or in brief alone, or nothing. */
  readonly frame: 'full' | 'stations' | 'brief' | 'alone';
  /** Whether it makes sense before there is any answer. */
  readonly early?: boolean;
  readonly command?: { readonly name: string; readonly keys: string };
  /** Its stop on the job line: a word, and what waits there. */
  readonly job?: { readonly word: string; readonly useWaiting: () => string };
}

/** Where a place is reached, without what may follow. */
export const addressIn = (place: Place) => place.path.split('/:')[0] ?? '';
