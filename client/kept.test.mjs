// What a device keeps, in a database like the browser's.
import 'fake-indexeddb/auto'
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { atHome, Kept, stays, sweep, waiting } from './kept.js'
import { numberOf } from './later.js'

// plain stands for the browser's plain storage.
const plain = (start = {}, room = Infinity) =>
  Object.defineProperties(start, {
    room: { value: room, writable: true },
    getItem: { value: (k) => start[k] ?? null },
    removeItem: { value: (k) => delete start[k] },
    setItem: {
      value: (k, v) => {
        if (v.length > start.room) throw new Error('QuotaExceededError')
        start[k] = v
      },
    },
  })
globalThis.localStorage = plain()
const written = (kept) => kept.writing ?? Promise.resolve()
const ends = Date.UTC(2026, 10, 24, 19, 30)

test('each session of each member keeps its own, in order, and the newest state of an item', async () => {
  const tuesday = new Kept('ines', 'tuesday', ends),
    thursday = new Kept('ines', 'thursday', ends)
  await tuesday.put({ kind: 'tally', id: 'a', revision: 1 }, { kind: 'mark', id: 'b', points: [true, false] })
  await tuesday.put({ kind: 'tally', id: 'a', revision: 2 })
  await thursday.put({ kind: 'tally', id: 'c', revision: 1 })
  await Promise.all([written(tuesday), written(thursday)])
  await tuesday.keep('state', { now: 7 })
  const again = new Kept('ines', 'tuesday', ends)
  assert.deepEqual(await again.items(), [
    { kind: 'mark', id: 'b', points: [true, false] },
    { kind: 'tally', id: 'a', revision: 2 },
  ])
  assert.deepEqual(await again.value('state'), { now: 7 })
  assert.equal(await thursday.value('state'), undefined)
  assert.equal(await waiting(), 3)
  await again.drop({ kind: 'tally', id: 'a' })
  assert.deepEqual(await tuesday.items(), [{ kind: 'mark', id: 'b', points: [true, false] }])
  await tuesday.forget()
  assert.equal(await tuesday.value('state'), undefined)
  assert.equal(await waiting(), 2, 'what waits is still to be told, after access has ended too')
})

test('it goes 48 hours after the end, when somebody else signs in, and on signing out', async () => {
  const tuesday = new Kept('ines', 'tuesday', ends)
  const left = async () => [(await tuesday.items()).length, await tuesday.value('state')]
  const fill = async () => {
    await tuesday.put({ kind: 'mark', id: 'b' })
    await written(tuesday)
    await tuesday.keep('state', 1)
  }
  await fill()
  await sweep('ines', ends + stays - 1)
  assert.deepEqual(await left(), [1, 1])
  await sweep('ines', ends + stays + 1)
  assert.deepEqual(await left(), [0, undefined])
  await fill()
  await sweep('tomasz', ends)
  assert.deepEqual(await left(), [0, undefined])
  await fill()
  await sweep('', ends)
  assert.deepEqual(await left(), [0, undefined])
})

test('what a guardian’s page keeps stays when a coach signs in and out on the same phone, and is not counted as theirs', async () => {
  const home = new Kept(atHome, 'page', ends)
  await home.put({ kind: 'day', id: 'd' })
  await written(home)
  await sweep('ines', ends)
  await sweep('', ends)
  assert.equal((await home.items()).length, 1)
  assert.equal(await waiting(), 0)
  await sweep('', ends + stays + 1)
  assert.equal((await home.items()).length, 0)
})

test('who signs out is told of what waits, also of what was tapped in the same moment, and not of what has arrived', async () => {
  const phone = new Kept('ines', 'leaving', ends)
  await phone.put({ kind: 'mark', id: 'a', landed: true }, { kind: 'mark', id: 'b' })
  await written(phone)
  assert.equal(await waiting(), 1)
  localStorage.setItem(
    phone.box,
    '[{"kind":"mark","id":"b","landed":true},{"kind":"mark","id":"c"},{"kind":"mark","id":"d"}]',
  )
  assert.equal(await waiting(), 2)
  await sweep('')
  assert.equal(await waiting(), 0)
})

test('a figure is a number as it is typed, nothing, or no figure', () => {
  assert.deepEqual(
    ['', ' 12 ', '3,5', '0', '-1', 'many', '1e9'].map((t) => numberOf(t)),
    [null, 12, 3.5, 0, false, false, false],
  )
})

test('a phone whose date is wrong by days keeps what waits: what is old is told by the clock that the devices agree on', async () => {
  const ahead = new Kept('ines', 'ahead', ends)
  await ahead.put({ kind: 'mark', id: 'b' })
  await written(ahead)
  localStorage.setItem('gruppo-offset', String(ends - Date.now() - 1000)) // its own date is whatever today is
  await sweep('ines')
  assert.equal((await ahead.items()).length, 1)
  localStorage.removeItem('gruppo-offset')
  await sweep('')
})

test('a tap is kept at once: a page that is closed in the same moment has it when it is opened again', async () => {
  const storage = plain()
  const first = new Kept('ines', 'closed', ends, storage)
  for (let n = 0; n < 100; n++) first.put({ kind: 'mark', id: 'm' + n }) // nothing was awaited
  first.put({ kind: 'mark', id: 'm7', figure: 8 })
  const again = new Kept('ines', 'closed', ends, plain({ ...storage }))
  const items = await again.items()
  assert.equal(items.length, 100)
  assert.equal(items.at(-1).figure, 8)
  await written(first)
  assert.deepEqual(Object.keys(storage), [], 'once it is in the database the box is empty')
  assert.equal((await first.items()).length, 100)
  await first.drop(...items)
  assert.equal((await first.items()).length, 0)
})

test('in a browser without a database the box is enough', async () => {
  const storage = plain()
  const kept = () =>
    Object.assign(new Kept('ines', 'private', ends, storage), { db: Promise.reject(new Error('InvalidStateError')) })
  const first = kept()
  first.db.catch(() => {})
  await first.put({ kind: 'mark', id: 'a' })
  await first.put({ kind: 'mark', id: 'b' })
  const again = kept()
  again.db.catch(() => {})
  assert.deepEqual(await again.items(), [
    { kind: 'mark', id: 'a' },
    { kind: 'mark', id: 'b' },
  ])
})

test('without room in the box the database is waited for', async () => {
  const kept = new Kept('ines', 'narrow', ends, plain({}, 10))
  await kept.put({ kind: 'mark', id: 'a' })
  assert.deepEqual(await new Kept('ines', 'narrow', ends, plain()).items(), [{ kind: 'mark', id: 'a' }])
})

test('what waits since a version before this one is taken over, and its other keys go', async () => {
  const storage = plain({
    'gruppo-outbox-wednesday-ines': '[{"kind":"mark","id":"a"}]',
    'gruppo-outbox-wednesday-kofi': '[{"kind":"mark","id":"b"}]',
    'gruppo-state-/x': '{}',
    'gruppo-signal': '{}',
  })
  assert.deepEqual(await new Kept('ines', 'wednesday', ends, storage).items(), [{ kind: 'mark', id: 'a' }])
  await sweep('ines', ends, storage)
  assert.deepEqual(Object.keys(storage).sort(), ['gruppo-outbox-wednesday-ines', 'gruppo-signal'])
  await sweep('', ends, storage)
  assert.deepEqual(Object.keys(storage), ['gruppo-signal'])
})
