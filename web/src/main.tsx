import '@fontsource-variable/archivo';
import createCache from '@emotion/cache';
import { QueryClient } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { bringBuilds } from './app/App';
import { Page } from './app/Page';
import { askAhead } from './model/api/ahead';

// What the first address shows is on its way before anything is drawn.
const ahead = askAhead(location.pathname) ? bringBuilds() : null;

const nonce = document.querySelector<HTMLMetaElement>('meta[name="ebbrin-nonce"]')?.content;
const styles = createCache({ key: 'eb', nonce });
const queries = new QueryClient({
  defaultOptions: { queries: { networkMode: 'always' }, mutations: { networkMode: 'always' } },
});

// The page's own files are kept in the browser: it opens without the server, too.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  navigator.serviceWorker.register('/shell.js').catch(() => undefined);

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root');
const drawn = createRoot(root);
const draw = () =>
  drawn.render(
    <StrictMode>
      <Page styles={styles} queries={queries} />
    </StrictMode>,
  );
// What cannot be brought is asked for again when it is to be shown, and its failure said there.
if (ahead) ahead.then(draw, draw);
else draw();
