// What a device keeps of a session for its member: what the server has still to be told, and what is needed to go on without network. It is in the
// browser's own database, and goes 48 hours after the session's end, on signing out, when access has ended, and as soon as somebody else signs in.
import { openDB } from 'idb'

const name = 'gruppo'
export const stays = 48 * 3600_000 // milliseconds after the session's end

const database = () =>
  openDB(name, 1, {
    upgrade(db) {
      db.createObjectStore('items', { keyPath: ['member', 'session', 'key'] }) // to be told
      db.createObjectStore('values', { keyPath: ['member', 'session', 'name'] }) // to go on with
    },
    blocking: (_now, _next, e) => e.target.close(), // a newer program in another tab goes first
  })

const all = (member, session) => IDBKeyRange.bound([member, session], [member, session, []]) // an array is after any text
const plain = (value) => JSON.parse(JSON.stringify(value)) // a page's values may be watched, and such a thing cannot be kept
const keyOf = (item) => item.kind + ' ' + item.id

// What is not in the database yet stands in the browser's plain storage, which is written at once: a tap is kept before the finger is up, also when the
// page is closed in the same moment. An older version of the program kept everything there, under the same name.
const boxOf = (member, session) => `gruppo-outbox-${session}-${member}`

// agreed is the clock that the devices of a hall agree on: a phone whose date is wrong would take what it keeps for old.
export const agreed = (storage = localStorage) => Date.now() + Number(storage.getItem('gruppo-offset') || 0)

// What a guardian's page keeps is of no member: a coach who signs in on the same phone does not take it away.
export const atHome = 'home'

// sweep forgets what is not the member's, and what is old. Without a member everything goes but what stands on guardians' pages.
export async function sweep(member, now = agreed(), storage = localStorage) {
  for (const k of Object.keys(storage))
    if (
      /^gruppo-(state|series)-/.test(k) ||
      (k.startsWith('gruppo-outbox-') && !(member && k.endsWith('-' + member)) && !k.endsWith('-' + atHome))
    )
      storage.removeItem(k)
  const db = await database()
  const tx = db.transaction(['items', 'values'], 'readwrite')
  for (const store of [tx.objectStore('items'), tx.objectStore('values')])
    for (let c = await store.openCursor(); c; c = await c.continue())
      if ((c.value.member !== member && c.value.member !== atHome) || c.value.ends + stays < now) await c.delete()
  await tx.done
  db.close()
}

// waiting counts what has still to be told, of all sessions: what is in the database, and what is on its way there.
export async function waiting(storage = localStorage) {
  const found = new Map()
  const db = await database()
  for (const i of await db.getAll('items')) found.set(boxOf(i.member, i.session) + ' ' + i.key, i.item)
  db.close()
  for (const box of Object.keys(storage).filter((k) => k.startsWith('gruppo-outbox-')))
    for (const i of JSON.parse(storage.getItem(box))) found.set(box + ' ' + keyOf(i), i)
  return [...found].filter(([key, i]) => !i.landed && !key.split(' ')[0].endsWith('-' + atHome)).length
}

export class Kept {
  // ends is when the session ends, in milliseconds since 1970.
  constructor(member, session, ends, storage = localStorage) {
    Object.assign(this, { member, session, ends, storage, db: database(), order: Date.now(), latest: new Map() })
    this.db.catch(() => {}) // a browser without a database: the box is all there is
    this.box = boxOf(member, session)
    this.__v_skip = true // Alpine leaves it as it is: the database takes no watched things
    this.pending = new Map(JSON.parse(storage.getItem(this.box) || '[]').map((i) => [keyOf(i), i]))
  }

  async items() {
    const found = await this.db.then((db) => db.getAll('items', all(this.member, this.session))).catch(() => [])
    const older = found.sort((a, b) => a.order - b.order).map((f) => f.item)
    return [...older.filter((i) => !this.pending.has(keyOf(i))), ...this.pending.values()]
  }

  // put keeps items, each in the place of an earlier state of itself: at once in the box, and soon in the database, where all that came meanwhile
  // goes in one step.
  put(...items) {
    for (const item of items) {
      this.pending.delete(keyOf(item))
      this.pending.set(keyOf(item), plain(item))
    }
    const boxed = this.fillBox()
    this.writing ??= this.write().finally(() => {
      this.writing = null
    })
    this.writing.catch(() => {}) // what is in the box is kept all the same
    return boxed ? Promise.resolve() : this.writing
  }

  async write() {
    const db = await this.db
    while (this.pending.size) {
      const batch = [...this.pending]
      const tx = db.transaction('items', 'readwrite', { durability: 'relaxed' })
      for (const [key, item] of batch) tx.store.put({ ...this.own, key, order: this.order++, item })
      await tx.done
      for (const [key, item] of batch) if (this.pending.get(key) === item) this.pending.delete(key)
      this.fillBox()
    }
  }

  // fillBox answers whether there was room.
  fillBox() {
    try {
      if (this.pending.size) this.storage.setItem(this.box, JSON.stringify([...this.pending.values()]))
      else this.storage.removeItem(this.box)
      return true
    } catch {
      return false
    }
  }

  async drop(...items) {
    for (const item of items) this.pending.delete(keyOf(item))
    this.fillBox()
    const tx = (await this.db).transaction('items', 'readwrite')
    for (const item of items) tx.store.delete([this.member, this.session, keyOf(item)])
    await tx.done
  }

  async value(name) {
    return (await (await this.db).get('values', [this.member, this.session, name]))?.value
  }

  // keep keeps a value, the latest where several come while one is written.
  keep(name, value) {
    this.latest.set(name, value)
    this.keeping ??= this.keepAll().finally(() => {
      this.keeping = null
    })
    return this.keeping
  }

  async keepAll() {
    const db = await this.db
    while (this.latest.size) {
      const [name, value] = this.latest.entries().next().value
      this.latest.delete(name)
      await db.put('values', { ...this.own, name, value: plain(value) })
    }
  }

  // forget is for when access has ended: nothing of the session stays, but what has still to be told: the server takes it for a while, and then it is old.
  async forget() {
    await (await this.db).delete('values', all(this.member, this.session))
  }

  get own() {
    return { member: this.member, session: this.session, ends: this.ends }
  }
}
