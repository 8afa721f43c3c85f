// The page's service worker: its files are kept in the browser, so that the page and the card for the road are there
// without the server. What the server says itself is never kept. Written out because it is shorter than what a library
// for it needs; the build puts name and files in.
const NAME = 'ebbrin-__NAME__';
const FILES = ['__FILES__'];

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(NAME)
      .then((cache) => cache.addAll(FILES.map((file) => new Request(file, { cache: 'reload' }))))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener('activate', (event) => {
  const others = (names) => names.filter((name) => name.startsWith('ebbrin-') && name !== NAME);
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => self.clients.claim()),
  );
});

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const address = new URL(request.url);
  if (request.method !== 'GET' || address.origin !== self.location.origin) return;
  if (address.pathname.startsWith('/api/')) return;
  const kept = (what) => caches.open(NAME).then((cache) => cache.match(what));
  if (request.mode === 'navigate') {
    // The server first, for its newest page; the kept one where it does not answer.
    event.respondWith(fetch(request).catch(() => kept('/')));
    return;
  }
  event.respondWith(kept(request).then((found) => found ?? fetch(request)));
});
