// What a device has to tell the server, kept until it has arrived. Every item has an id of its own, so the server
// keeps it once however often it is sent; of a growing series only the newest revision waits.

export class Outbox {
  // storage is like localStorage; send takes a list of items and resolves to a list of {id, kept, why}, or throws.
  constructor(storage, key, send) {
    this.storage = storage
    this.key = key
    this.send = send
    this.items = JSON.parse(storage.getItem(key) || '[]')
    this.sending = false
  }

  get waiting() {
    return this.items.length
  }

  add(item) {
    this.items = this.items.filter((i) => !(i.kind === item.kind && i.id === item.id))
    this.items.push(item)
    this.save()
  }

  save() {
    this.storage.setItem(this.key, JSON.stringify(this.items))
  }

  // flush sends what waits. It resolves to {sent, refused}; sent is false when the server could not be reached.
  async flush() {
    if (this.sending || this.items.length === 0) return { sent: this.items.length === 0, refused: [] }
    this.sending = true
    const batch = this.items.slice(0, 200)
    try {
      const answers = await this.send(batch)
      const answered = new Map(answers.map((a) => [a.id, a]))
      // An item that grew while it was under way stays: its newer revision has not been sent.
      this.items = this.items.filter((i) => !batch.includes(i) || !answered.has(i.id))
      this.save()
      return { sent: true, refused: answers.filter((a) => !a.kept) }
    } catch {
      return { sent: false, refused: [] }
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
