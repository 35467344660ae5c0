// What a device has to tell the server, kept until it has arrived. Every item has an id of its own, so the server
// keeps it once however often it is sent; of a growing series only the newest revision waits.

const most = 200 // items sent at once
const same = (a, b) => a.kind === b.kind && a.id === b.id
const final = (status) => [400, 413, 422].includes(status) // sending it again would be refused again

export class Outbox {
  // kept is where the items are kept (see kept.js); send takes a list of items and resolves to a list of {id, kept, why}, or throws an error with
  // the answer's status; arrived hears which items are with the server: they are let go at once, unless it does so later.
  constructor(kept, send, arrived = (items) => this.letGo(items)) {
    Object.assign(this, { kept, send, arrived, items: [], sending: false, size: most, full: false })
  }

  // letGo keeps items no longer, unless they grew and wait again.
  letGo(items) {
    return this.kept.drop(...items.filter((i) => !this.items.some((o) => same(o, i))))
  }

  // land keeps items as what has arrived, and when if that is known: they are shown again, and neither wait nor are sent.
  land(items, when = true) {
    const landed = items.filter((i) => !this.items.some((o) => same(o, i))).map((i) => ({ ...i, landed: when }))
    return this.kept.put(...landed)
  }

  // load takes over what was kept before, and resolves to what of it has arrived; what was added meanwhile is newer.
  async load() {
    const before = await this.kept.items().catch(() => [])
    const waits = before.filter((b) => !b.landed && !this.items.some((i) => same(i, b)))
    this.items = [...waits, ...this.items]
    return before.filter((b) => b.landed)
  }

  get waiting() {
    return this.items.length
  }

  // add takes an item in at once; where the device cannot keep it too, it waits in the open page, and full says so.
  add(item) {
    this.items = this.items.filter((i) => !same(i, item))
    this.items.push(item)
    return this.kept.put(item).then(
      () => this.more(),
      () => {
        this.full = true
      },
    )
  }

  // more keeps what could not be kept before, now that there is room.
  async more() {
    if (!this.full) return
    try {
      await this.kept.put(...this.items)
      this.full = false
    } catch {
      /* still full */
    }
  }

  // flush sends what waits. It resolves to {sent, refused}; sent is false when the server could not be reached. Where it refuses a whole load, less and
  // less is sent, until the one item that it does not take stands alone and is given up; it holds up no other.
  async flush() {
    if (this.sending || this.items.length === 0) return { sent: this.items.length === 0, refused: [] }
    this.sending = true
    const refused = []
    try {
      for (let all = false; !all && this.items.length;) {
        const batch = this.items.slice(0, this.size)
        const answers = await this.send(batch).catch((e) => {
          if (!final(e.status)) throw e
          if (batch.length === 1) return [{ id: batch[0].id, kept: false, why: e.message }]
          this.size = Math.ceil(batch.length / 2)
        })
        if (!answers) continue
        all = this.size === most
        this.size = Math.min(most, this.size * 2)
        refused.push(...answers.filter((a) => !a.kept))
        const kept = new Map(answers.map((a) => [a.id, a.kept]))
        // An item that grew while it was under way stays: its newer revision has not been sent.
        const gone = batch.filter((i) => kept.has(i.id))
        this.items = this.items.filter((i) => !gone.includes(i))
        const landed = gone.filter((i) => kept.get(i.id))
        if (landed.length) await Promise.resolve(this.arrived(landed)).catch(() => {})
        if (landed.length < gone.length) await this.letGo(gone.filter((i) => !kept.get(i.id))).catch(() => {})
        await this.more()
      }
      return { sent: true, refused }
    } catch {
      return { sent: false, refused }
    } finally {
      this.sending = false
    }
  }
}

// newID is a UUIDv7: it sorts by the time it was made.
export function newID(now = Date.now(), random = (n) => crypto.getRandomValues(new Uint8Array(n))) {
  const b = random(16)
  for (let i = 0; i < 6; i++) b[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 255
  b[6] = (b[6] & 15) | 0x70
  b[8] = (b[8] & 63) | 0x80
  const hex = [...b].map((x) => x.toString(16).padStart(2, '0')).join('')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}

// sameID is a UUID made of words (cyrb53 four times over): whoever makes it of the same words makes the same one.
export function sameID(words) {
  const hex = [1, 2, 3, 4].map((seed) => {
    let h = 0xdeadbeef ^ seed
    for (let i = 0; i < words.length; i++)
      h = Math.imul((h ^ words.charCodeAt(i)) >>> 0, 2654435761 + 2 * seed) ^ (h >>> 13)
    return ((h ^ (h >>> 16)) >>> 0).toString(16).padStart(8, '0')
  })
  const all = hex.join('')
  return [all.slice(0, 8), all.slice(8, 12), '8' + all.slice(13, 16), 'a' + all.slice(17, 20), all.slice(20)].join('-')
}
