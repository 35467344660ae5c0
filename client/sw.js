// The hall without network: the pages of the hall, their drawings and everything they are made of are kept on the device while they are used, and
// answered from there when the server does not. Nothing else passes through. Signing out empties the store.
import { clientsClaim } from 'workbox-core'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'

const cacheName = 'gruppo-hall'
const whole = { cacheWillUpdate: async ({ response }) => (response.ok && !response.redirected ? response : null) }

const own = (url) => url.origin === location.origin
const isPage = ({ url }) => own(url) && /^\/courtside\/[0-9a-f-]{36}(\/hall|\/drawing\/\d+)?$/.test(url.pathname)
const isAsset = ({ url }) => own(url) && url.pathname.startsWith('/assets/') // a new version has a new address

self.skipWaiting()
clientsClaim()
registerRoute(isAsset, new CacheFirst({ cacheName, plugins: [whole] }))
registerRoute(isPage, new NetworkFirst({ cacheName, plugins: [whole], networkTimeoutSeconds: 4 })) // a hall's network may hang rather than fail

// The page that is open was there before this worker: it says what it is made of.
self.addEventListener('message', (e) => {
  const keep = async (address) => {
    const url = new URL(address)
    if (!isPage({ url }) && !isAsset({ url })) return
    const response = await fetch(address, { credentials: 'same-origin' }).catch(() => null)
    if (response && (await whole.cacheWillUpdate({ response })))
      await (await caches.open(cacheName)).put(address, response)
  }
  e.waitUntil(Promise.all((e.data.keep || []).map(keep)))
})
