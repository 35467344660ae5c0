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
// with the page as it is when nothing waits any more. What the page says of being offline or of what was refused stands in [data-offline] and [data-refused].
export function later({ member, key, days, to, sent }) {
  const kept = new Kept(member, key, Date.now() + days * 24 * 3600_000)
  const timeOf = (answer) => Date.parse(answer.headers.get('Date')) // by the server's clock
  let landed = [], // what has arrived, and is kept until the page that shows it is
    taken = 0, // when the server took the last of it
    asks = 0, // for the page as it is by now
    newest = 0 // that was answered
  const post = async (items) => {
    const answer = await fetch(to, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify({ items }),
    })
    if (!answer.ok) throw Object.assign(new Error(), { status: answer.status })
    taken = timeOf(answer)
    return (await answer.json()).answers
  }
  const outbox = new Outbox(kept, post, (items) => {
    landed = [...landed, ...items] // what arrives while a page is on its way is not in it
    return outbox.land(items, taken)
  })

  // renew asks for the page as it is by now, which the service worker keeps. One out of its store is from before.
  async function renew() {
    const gone = landed,
      no = ++asks
    const page = await fetch(location.href).catch(() => null)
    const text = page?.ok && (await page.text())
    if (!text || timeOf(page) < taken || no < newest) return
    newest = no
    landed = landed.filter((i) => !gone.includes(i))
    await outbox.letGo(gone).catch(() => {}) // a browser without a database keeps nothing
    if (!landed.length && !outbox.waiting) sent(new DOMParser().parseFromString(text, 'text/html'))
  }

  const offline = document.querySelector('[data-offline]')
  const refused = document.querySelector('[data-refused]')

  async function flush() {
    const waited = outbox.waiting
    const done = await outbox.flush()
    offline.hidden = done.sent || navigator.onLine
    if (done.refused.length) refused.textContent = done.refused.map((r) => r.why).join(' ')
    if (waited) refused.hidden = !done.refused.length
    if (done.sent && landed.length && !outbox.waiting && navigator.onLine) await renew()
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
    // restore shows what waits from before, or has just arrived.
    async restore(show) {
      landed = await outbox.load()
      taken = Math.max(taken, ...landed.map((i) => i.landed))
      for (const i of [...landed, ...outbox.items]) show(i)
      offline.hidden = navigator.onLine
      return flush()
    },
  }
}
