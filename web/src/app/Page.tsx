import { ChakraProvider } from '@chakra-ui/react';
import type { EmotionCache } from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { type QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { system } from '../kit/theme/system';
import { App } from './App';

/** The whole page: what is shown at an address, with the looks and the answers that all of it shares. */
export function Page({
  styles,
  queries,
}: {
  readonly styles: EmotionCache;
  readonly queries: QueryClient;
}) {
  return (
    <CacheProvider value={styles}>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <App />
        </QueryClientProvider>
      </ChakraProvider>
    </CacheProvider>
  );
}
