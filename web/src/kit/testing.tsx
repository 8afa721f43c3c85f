/** For tests of components: draws them into a document, as the page does. */

import { ChakraProvider } from '@chakra-ui/react';
import { act, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { system } from './theme/system';

export interface Drawn {
  readonly at: HTMLElement;
  readonly again: (what: ReactNode) => Promise<void>;
  readonly gone: () => Promise<void>;
}

/** Draws something; what it does by itself is done when this comes back. */
export async function drawn(what: ReactNode): Promise<Drawn> {
  Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
  const at = document.body.appendChild(document.createElement('div'));
  const root = createRoot(at);
  const again = (next: ReactNode) =>
    act(async () => {
      root.render(<ChakraProvider value={system}>{next}</ChakraProvider>);
      // Some parts look at what was drawn before they say what it is.
      await new Promise((done) => setTimeout(done));
    });
  await again(what);
  return {
    at,
    again,
    gone: () =>
      act(async () => {
        root.unmount();
        at.remove();
      }),
  };
}

/** Types a text into a field, as React hears it. */
export async function typed(field: Element | null, text: string): Promise<void> {
  const input = field as HTMLInputElement;
  await act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(input, text);
    input.dispatchEvent(new Event('input', { bubbles: true }));
  });
}

export async function pressed(target: Element | null, key: string): Promise<void> {
  await act(async () => {
    target?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  });
}

export async function clicked(target: Element | null): Promise<void> {
  await act(async () => {
    (target as HTMLElement | null)?.click();
  });
}
