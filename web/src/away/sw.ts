/// <reference lib="webworker" />
import { ExpirationPlugin } from 'workbox-expiration';
import { precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { keptAt, seen } from './kept';

/**
 * Keeps the application, and what was seen of the shop, for where there is no signal. The network always comes first:
 * what was kept is shown only where it cannot be reached, and is marked as such.
 */
declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

precacheAndRoute(self.__WB_MANIFEST);

// Every address is the same page, which carries a nonce of its own while the server is there.
registerRoute(
  new NavigationRoute(
    new NetworkFirst({ cacheName: 'page', plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/') }] }),
    { denylist: [/^\/(api|trust|authority\.crt)/] },
  ),
);

// What reads letters in photos is large: it is kept once it was asked for.
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/assets/letters/'),
  new CacheFirst({ cacheName: 'letters', plugins: [new ExpirationPlugin({ maxEntries: 6 })] }),
);

/** What is asked for and not kept: what streams, who is there, and what is simulated in time. */
const passing = /^\/api\/(events|me|bench|login|logout)/;

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/api/') && !passing.test(url.pathname),
  new NetworkFirst({
    cacheName: seen,
    plugins: [
      new ExpirationPlugin({ maxEntries: 600, purgeOnQuotaError: true }),
      {
        cacheWillUpdate: ({ response }) => {
          if (response.status !== 200) return Promise.resolve(null);
          const headers = new Headers(response.headers);
          headers.set(keptAt, String(Date.now()));
          return response.blob().then(body => new Response(body, { status: 200, headers }));
        },
      },
    ],
  }),
);

self.addEventListener('install', event => {
  // The page itself, for whoever loses the signal before they have gone anywhere else.
  event.waitUntil(caches.open('page').then(page => page.add('/')));
  void self.skipWaiting();
});
self.addEventListener('activate', event => event.waitUntil(self.clients.claim()));
