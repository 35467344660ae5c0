// The hall without network: the pages of the hall, their drawings and everything they are made of are kept on the device while they are used, and
// answered from there when the server does not. So are guardians' pages. Nothing else passes through. Signing out empties the store.
import { clientsClaim } from 'workbox-core'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'

const cacheName = 'gruppo-hall'
const whole = { cacheWillUpdate: async ({ response }) => (response.ok && !response.redirected ? response : null) }

const own = (url) => url.origin === location.origin
const pages = /^\/courtside\/[0-9a-f-]{36}(\/hall|\/drawing\/\d+)?$|^\/season\/tests\/[0-9a-f-]{36}\/pad$/
const isPage = ({ url }) => own(url) && pages.test(url.pathname)
const isAsset = ({ url }) => own(url) && url.pathname.startsWith('/assets/') // a new version has a new address

// A guardian's page is kept too, under a name that does not tell its address; when its link has ended, it goes.
const isLink = ({ url }) => own(url) && /^\/for\/[0-9a-f]+$/.test(url.pathname)
const nameless = {
  cacheKeyWillBeUsed: async ({ request }) => {
    const hash = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(new URL(request.url).pathname))
    return location.origin + '/for/' + [...new Uint8Array(hash)].map((b) => b.toString(16).padStart(2, '0')).join('')
  },
  fetchDidSucceed: async ({ request, response }) => {
    if (response.status === 404)
      await (await caches.open(cacheName)).delete(await nameless.cacheKeyWillBeUsed({ request }))
    return response
  },
}

// keepParts keeps what a page or script says it is made of, and what that is made of. It throws where something does not come.
const named = /(?:src|href|from|import) ?=? ?"(\/assets\/[^"]+|\.\/[\w.-]+\.js)"/g
async function keepParts(text, address) {
  const cache = await caches.open(cacheName)
  const part = async ([, name]) => {
    const url = new URL(name, address)
    const kept = await cache.match(url),
      response = kept || (await fetch(url))
    if (!response.ok) throw new Error(url + ' did not come')
    if (url.pathname.endsWith('.js')) await keepParts(await response.clone().text(), url)
    if (!kept) await cache.put(url, response)
  }
  await Promise.all([...text.matchAll(named)].map(part))
}

// A page is no use without its parts: where another version's do not come, the page that is kept is shown, with the parts that are kept.
const complete = {
  fetchDidSucceed: async ({ request, response }) => {
    if (!(await whole.cacheWillUpdate({ response })) || !/html/.test(response.headers.get('Content-Type')))
      return response
    try {
      await keepParts(await response.clone().text(), request.url)
    } catch (e) {
      const key = isLink({ url: new URL(request.url) }) ? await nameless.cacheKeyWillBeUsed({ request }) : request
      if (await (await caches.open(cacheName)).match(key)) throw e
    }
    return response
  },
}
const link = new NetworkFirst({ cacheName, plugins: [whole, complete, nameless], networkTimeoutSeconds: 4 })

self.skipWaiting()
clientsClaim()
registerRoute(isAsset, new CacheFirst({ cacheName, plugins: [whole] }))
registerRoute(isLink, link)
registerRoute(isPage, new NetworkFirst({ cacheName, plugins: [whole, complete], networkTimeoutSeconds: 4 })) // a hall's network may hang rather than fail

// The page that is open was there before this worker: it says what it is made of.
self.addEventListener('message', (e) => {
  const keep = async (address) => {
    const url = new URL(address)
    if (isLink({ url })) return link.handleAll({ event: e, request: new Request(address) })[1]
    if (!isPage({ url }) && !isAsset({ url })) return
    const request = new Request(address, { credentials: 'same-origin' })
    const response = await fetch(request)
      .then((response) => complete.fetchDidSucceed({ request, response }))
      .catch(() => null)
    if (response && (await whole.cacheWillUpdate({ response })))
      await (await caches.open(cacheName)).put(address, response)
  }
  e.waitUntil(Promise.all((e.data.keep || []).map(keep)))
})
