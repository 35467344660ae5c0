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

// sweep forgets what is not the member's, and what is old. Without a member everything goes.
export async function sweep(member, now = Date.now()) {
  const db = await database()
  const tx = db.transaction(['items', 'values'], 'readwrite')
  for (const store of [tx.objectStore('items'), tx.objectStore('values')])
    for (let c = await store.openCursor(); c; c = await c.continue())
      if (c.value.member !== member || c.value.ends + stays < now) await c.delete()
  await tx.done
  db.close()
}

// waiting counts what has still to be told, of all sessions.
export async function waiting() {
  const db = await database()
  const n = await db.count('items')
  db.close()
  return n
}

// older takes out what a version of the program before this one kept in another place: a session may go on over a new version.
export function older(session, member, storage = localStorage) {
  const box = `gruppo-outbox-${session}-${member}`
  const items = JSON.parse(storage.getItem(box) || '[]')
  for (const k of Object.keys(storage)) if (k === box || /^gruppo-(state|series)-/.test(k)) storage.removeItem(k)
  return items
}

export class Kept {
  // ends is when the session ends, in milliseconds since 1970.
  constructor(member, session, ends) {
    Object.assign(this, { member, session, ends, db: database(), order: Date.now() })
  }

  async items() {
    const found = await (await this.db).getAll('items', all(this.member, this.session))
    return found.sort((a, b) => a.order - b.order).map((f) => f.item)
  }

  // put keeps items, each in the place of an earlier state of itself.
  async put(...items) {
    const tx = (await this.db).transaction('items', 'readwrite', { durability: 'relaxed' })
    for (const item of items) tx.store.put({ ...this.own, key: keyOf(item), order: this.order++, item: plain(item) })
    await tx.done
  }

  async drop(...items) {
    const tx = (await this.db).transaction('items', 'readwrite')
    for (const item of items) tx.store.delete([this.member, this.session, keyOf(item)])
    await tx.done
  }

  async value(name) {
    return (await (await this.db).get('values', [this.member, this.session, name]))?.value
  }

  async keep(name, value) {
    await (await this.db).put('values', { ...this.own, name, value: plain(value) })
  }

  // forget is for when access has ended: nothing of the session stays.
  async forget() {
    const db = await this.db
    await db.delete('items', all(this.member, this.session))
    await db.delete('values', all(this.member, this.session))
  }

  get own() {
    return { member: this.member, session: this.session, ends: this.ends }
  }
}
