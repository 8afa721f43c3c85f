/** One document for all test files of a worker, as empty for each as it was for the first. */

// @ts-expect-error it comes without types, of which one is needed here
import { JSDOM } from 'jsdom';
import * as React from 'react';
import { afterAll } from 'vitest';
import { populateGlobal } from 'vitest/runtime';

const AT = 'http://localhost:3000/';

// What one tab tells the others goes to all threads of Node's process: tests of other files, which have the same builds.
Reflect.deleteProperty(globalThis, 'BroadcastChannel');

if (!('document' in globalThis)) {
  const { window } = new JSDOM('<!doctype html>', { pretendToBeVisual: true, url: AT });
  populateGlobal(globalThis, window, { bindFunctions: true });
  // Nothing is drawn here, so that what is hidden is so by its attribute or by its own style: to match it against every
  // rule of a style sheet takes a tenth of the time.
  const own = (at: HTMLElement) => {
    if (!at.hidden) return at.style;
    const none = at.cloneNode(false) as HTMLElement;
    none.style.display = 'none';
    return none.style;
  };
  Object.assign(globalThis, { getComputedStyle: own });
  Object.assign(window, { getComputedStyle: own });
}

// React keeps a stack of calls for each element that is made, for its warnings. That takes another tenth.
const inside = Reflect.get(
  React,
  '__CLIENT_INTERNALS_DO_NOT_USE_OR_WARN_USERS_THEY_CANNOT_UPGRADE',
);
Object.defineProperty(inside, 'recentlyCreatedOwnerStacks', {
  get: () => Number.POSITIVE_INFINITY,
  set: () => undefined,
});

// What stands in the head are styles, which those who put them there keep count of.
afterAll(() => {
  document.body.replaceChildren();
  for (const kept of [document.documentElement, document.body])
    for (const { name } of [...kept.attributes]) kept.removeAttribute(name);
  localStorage.clear();
  sessionStorage.clear();
  history.replaceState(null, '', AT);
});
