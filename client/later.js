// What a page says with or without network: it waits on this device until it has arrived, and arrives once.
import { Kept } from './kept.js'
import { Outbox } from './outbox.js'

// numberOf reads a figure as it is typed; nothing is none, and false is what cannot be one.
export function numberOf(text, low = 0, high = 100000) {
  const t = text.trim().replace(',', '.')
  if (!t) return null
  const x = Number(t)
  return x >= low && x <= high ? x : false
}

// later keeps items for a place and posts them there. Member, key and days say whose they are, of which page, and for how long they are kept; sent is called
// when nothing waits any more. What the page says of being offline or of what was refused stands in [data-offline] and [data-refused].
export function later({ member, key, days, to, sent = () => {} }) {
  const kept = new Kept(member, key, Date.now() + days * 24 * 3600_000)
  const outbox = new Outbox(kept, async (items) => {
    const answer = await fetch(to, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify({ items }),
    })
    if (!answer.ok) throw Object.assign(new Error(), { status: answer.status })
    return (await answer.json()).answers
  })
  const offline = document.querySelector('[data-offline]')
  const refused = document.querySelector('[data-refused]')

  async function flush() {
    const waited = outbox.waiting
    const done = await outbox.flush()
    offline.hidden = done.sent || navigator.onLine
    if (done.refused.length) refused.textContent = done.refused.map((r) => r.why).join(' ')
    if (waited) refused.hidden = !done.refused.length
    if (done.sent && waited && !outbox.waiting) await sent()
  }

  addEventListener('online', flush)
  addEventListener('offline', () => {
    offline.hidden = false
  })
  setInterval(flush, 5000)
  navigator.serviceWorker?.register('/sw.js').catch(() => {}) // the open page goes on without
  navigator.serviceWorker?.ready.then((r) =>
    r.active?.postMessage({ keep: [location.href, ...performance.getEntriesByType('resource').map((e) => e.name)] }),
  )
  return {
    outbox,
    add(item) {
      outbox.add(item)
      return flush()
    },
    // restore shows what waits from before.
    async restore(show) {
      await outbox.load()
      outbox.items.forEach(show)
      offline.hidden = navigator.onLine
      return flush()
    },
  }
}
