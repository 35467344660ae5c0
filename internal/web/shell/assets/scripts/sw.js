// The hall without network: the pages of the hall, their drawings and everything they are made of are kept on the device while they are used, and
// answered from there when the server does not. Nothing else passes through. Signing out empties the store.
const store = 'gruppo-hall'
const ours = (url) =>
  url.origin === location.origin &&
  (/^\/courtside\/[0-9a-f-]{36}(\/hall|\/drawing\/\d+)?$/.test(url.pathname) || url.pathname.startsWith('/assets/'))
const fixed = (url) =>
  url.pathname.startsWith('/assets/') && (url.searchParams.has('v') || url.pathname.endsWith('.woff2')) // a new version has a new address

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (e) => e.waitUntil(self.clients.claim()))

const keep = async (request, response) => {
  if (response.ok && !response.redirected) await (await caches.open(store)).put(request, response.clone())
  return response
}

self.addEventListener('fetch', (e) => {
  const url = new URL(e.request.url)
  if (e.request.method !== 'GET' || !ours(url)) return
  e.respondWith(
    (async () => {
      const kept = await caches.match(e.request, { cacheName: store })
      if (kept && fixed(url)) return kept
      const asked = fetch(e.request).then((r) => keep(e.request, r))
      if (!kept) return asked
      const slow = new Promise((done) => setTimeout(() => done(kept), 4000)) // a hall's network may hang rather than fail
      return Promise.race([asked.catch(() => kept), slow])
    })(),
  )
})

// The page that is open was there before this worker: it says what it is made of.
self.addEventListener('message', (e) => {
  e.waitUntil(
    Promise.all(
      (e.data.keep || [])
        .filter((u) => ours(new URL(u)))
        .map((u) =>
          fetch(u, { credentials: 'same-origin' })
            .then((r) => keep(u, r))
            .catch(() => {}),
        ),
    ),
  )
})
