/** For tests of components: draws them in the page's looks. */

import { ChakraProvider } from '@chakra-ui/react';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { vi } from 'vitest';
import { system } from '../kit/theme/system';

/** What a browser has and the document of these tests has not. */
export function browserParts() {
  class Watched {
    observe() {}
    unobserve() {}
    disconnect() {}
  }
  vi.stubGlobal('ResizeObserver', Watched);
  vi.stubGlobal('IntersectionObserver', Watched);
  vi.stubGlobal('CSS', { escape: (text: string) => text.replace(/[^\w-]/g, (c) => `\\${c}`) });
  HTMLDialogElement.prototype.showModal = function () {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function () {
    this.open = false;
    this.dispatchEvent(new Event('close'));
  };
  Element.prototype.scrollIntoView = () => undefined;
  Element.prototype.scrollTo = () => undefined;
}

export function drawn(what: ReactNode) {
  browserParts();
  return render(what, {
    wrapper: ({ children }) => <ChakraProvider value={system}>{children}</ChakraProvider>,
  });
}
