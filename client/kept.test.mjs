// What a device keeps, in a database like the browser's.
import 'fake-indexeddb/auto'
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { Kept, older, stays, sweep, waiting } from './kept.js'

const ends = Date.UTC(2026, 10, 24, 19, 30)

test('each session of each member keeps its own, in order, and the newest state of an item', async () => {
  const tuesday = new Kept('ines', 'tuesday', ends),
    thursday = new Kept('ines', 'thursday', ends)
  await tuesday.put({ kind: 'tally', id: 'a', revision: 1 }, { kind: 'mark', id: 'b', points: [true, false] })
  await tuesday.put({ kind: 'tally', id: 'a', revision: 2 })
  await thursday.put({ kind: 'tally', id: 'c', revision: 1 })
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
  assert.equal(await waiting(), 1, 'the other session stays')
  assert.equal(await tuesday.value('state'), undefined)
})

test('it goes 48 hours after the end, when somebody else signs in, and on signing out', async () => {
  const tuesday = new Kept('ines', 'tuesday', ends)
  const left = async () => [(await tuesday.items()).length, await tuesday.value('state')]
  const fill = async () => {
    await tuesday.put({ kind: 'mark', id: 'b' })
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

test('what waits since a version before this one is taken over, once', () => {
  const storage = { 'gruppo-outbox-tuesday-ines': '[{"id":"a"}]', 'gruppo-state-/x': '{}', 'gruppo-signal': '{}' }
  Object.defineProperties(storage, {
    getItem: { value: (k) => storage[k] ?? null },
    removeItem: { value: (k) => delete storage[k] },
  })
  assert.deepEqual(older('tuesday', 'ines', storage), [{ id: 'a' }])
  assert.deepEqual(older('tuesday', 'ines', storage), [])
  assert.deepEqual(Object.keys(storage), ['gruppo-signal'])
})
