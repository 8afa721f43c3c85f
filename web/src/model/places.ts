/** Addresses of the page: a build, its variant and the place within as path, the shown case as query. */

import { useMemo, useRef } from 'react';
import { useNavigate } from 'react-router';

export interface Where {
  readonly id: string;
  readonly variant: string;
  /** Below the variant, such as "stations/engine"; empty for the loop. */
  readonly place: string;
  /** The case that is shown; null for the worst. */
  readonly caseId: string | null;
}

export function addressOf({ id, variant, place, caseId }: Where): string {
  const path = ['builds', id, variant].map(encodeURIComponent).join('/');
  const query = caseId ? `?case=${encodeURIComponent(caseId)}` : '';
  return `/${path}${place ? `/${place}` : ''}${query}`;
}

/** What an address shows of a build; null for one of another kind. */
export function whereAt(pathname: string, search: string): Where | null {
  const [, builds, id, variant, ...rest] = pathname.split('/');
  if (builds !== 'builds' || !id || !variant) return null;
  return {
    id: decodeURIComponent(id),
    variant: decodeURIComponent(variant),
    place: rest.join('/'),
    caseId: new URLSearchParams(search).get('case'),
  };
}

/** Where an address of before leads, when places stood in the query. */
export function placeOfBefore(query: URLSearchParams): string {
  const station = query.get('station');
  if (station) return `stations/${encodeURIComponent(station)}`;
  const edited = query.get('edit');
  if (edited) return `cases/${encodeURIComponent(edited)}`;
  const drive = query.get('drive');
  if (drive) return drive === '1' ? 'drive' : `drive/${encodeURIComponent(drive)}`;
  if (query.has('rows')) return 'cases';
  for (const name of ['size', 'history', 'compare']) if (query.has(name)) return name;
  return '';
}

export interface Places {
  /** Go to a place of the shown variant; a case too if one is named. */
  readonly to: (place: string, caseId?: string) => void;
  /** ``instead`` takes the place of this address, for steps that nobody wants to go back through. */
  readonly showCase: (caseId: string, instead?: boolean) => void;
  readonly showVariant: (variant: string, place?: string, instead?: boolean) => void;
}

/** Going about within a build: the same functions at each drawing. */
export function usePlaces(): Places {
  const navigate = useRef(useNavigate());
  navigate.current = useNavigate();
  return useMemo(() => {
    const move = (changes: Partial<Where>, replace: boolean) => {
      // From the address itself: two steps in one breath must not undo each other.
      const now = whereAt(window.location.pathname, window.location.search);
      if (!now) return;
      const next = addressOf({ ...now, ...changes });
      // To where one is already is no step.
      if (next !== addressOf(now)) navigate.current(next, { replace });
    };
    return {
      to: (place, caseId) => move({ place, ...(caseId ? { caseId } : {}) }, false),
      showCase: (caseId, instead = false) => move({ caseId }, instead),
      showVariant: (variant, place, instead = false) =>
        move({ variant, ...(place === undefined ? {} : { place }) }, instead),
    };
  }, []);
}
