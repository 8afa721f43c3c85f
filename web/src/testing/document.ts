/** One document for all test files of a worker, as empty for each as it was for the first. */

// @ts-expect-error it comes without types, of which one is needed here
import { JSDOM } from 'jsdom';
import { afterAll } from 'vitest';
import { populateGlobal } from 'vitest/environments';

const AT = 'http://localhost:3000/';

// What one tab tells the others goes to all threads of Node's process: tests of other files, which have the same builds.
Reflect.deleteProperty(globalThis, 'BroadcastChannel');

if (!('document' in globalThis)) {
  const { window } = new JSDOM('<!doctype html>', { pretendToBeVisual: true, url: AT });
  populateGlobal(globalThis, window, { bindFunctions: true });
}

// What stands in the head are styles, which those who put them there keep count of.
afterAll(() => {
  document.body.replaceChildren();
  for (const kept of [document.documentElement, document.body])
    for (const { name } of [...kept.attributes]) kept.removeAttribute(name);
  localStorage.clear();
  sessionStorage.clear();
  history.replaceState(null, '', AT);
});
