import '@fontsource-variable/archivo';
import { ChakraProvider } from '@chakra-ui/react';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { useAppliedMode } from './kit/theme/mode';
import { system } from './kit/theme/system';
import { Home } from './views/home/Home';

const Workbench = lazy(() => import('./app/Workbench').then((m) => ({ default: m.Workbench })));
const Shelf = lazy(() => import('./views/shelf/Shelf').then((m) => ({ default: m.Shelf })));
const nonce = document.querySelector<HTMLMetaElement>('meta[name="ebbrin-nonce"]')?.content;
const styles = createCache({ key: 'eb', nonce });
const queries = new QueryClient({
  defaultOptions: { queries: { networkMode: 'always' }, mutations: { networkMode: 'always' } },
});

function App() {
  useAppliedMode();
  return (
    <BrowserRouter>
      <Suspense fallback={null}>
        <Routes>
          <Route path="/builds/:id" element={<Workbench />} />
          <Route path="/shelf" element={<Shelf />} />
          <Route path="*" element={<Home />} />
        </Routes>
      </Suspense>
    </BrowserRouter>
  );
}

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <CacheProvider value={styles}>
      <ChakraProvider value={system}>
        <QueryClientProvider client={queries}>
          <App />
        </QueryClientProvider>
      </ChakraProvider>
    </CacheProvider>
  </StrictMode>,
);
