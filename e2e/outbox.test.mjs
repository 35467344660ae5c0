// The outbox by itself, against a made-up server that loses answers: exactly once, in order, newest revision.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { Outbox, newID } from '../internal/web/shell/assets/scripts/outbox.js'
import { runs } from '../internal/web/shell/assets/scripts/pads.js'

const storage = () => {
  const m = new Map()
  return { getItem: (k) => m.get(k) ?? null, setItem: (k, v) => m.set(k, v) }
}

test('what waits survives a reload and arrives once when the server is back', async () => {
  const kept = new Map()
  let up = false,
    loseAnswer = true
  const send = async (items) => {
    if (!up) throw new Error('away')
    for (const i of items) if (!(kept.get(i.id)?.revision >= i.revision)) kept.set(i.id, i)
    if (loseAnswer) {
      loseAnswer = false
      throw new Error('answer lost')
    }
    return items.map((i) => ({ id: i.id, kept: true }))
  }
  const disk = storage()
  const phone = new Outbox(disk, 'k', send)
  for (let revision = 1; revision <= 5; revision++) phone.add({ kind: 'tally', id: 'a', revision })
  phone.add({ kind: 'mark', id: 'b', revision: 0 })
  assert.equal(phone.waiting, 2, 'a growing series waits as one item')
  assert.equal((await phone.flush()).sent, false)
  const reloaded = new Outbox(disk, 'k', send)
  assert.equal(reloaded.waiting, 2)
  up = true
  assert.equal((await reloaded.flush()).sent, false, 'the answer was lost, so it still waits')
  assert.equal((await reloaded.flush()).sent, true)
  assert.equal(reloaded.waiting, 0)
  assert.deepEqual(
    [...kept.values()].map((i) => [i.id, i.revision]),
    [
      ['a', 5],
      ['b', 0],
    ],
  )
})

test('a tap made while sending is not lost', async () => {
  let box
  const seen = []
  const send = async (items) => {
    seen.push(...items.map((i) => i.revision))
    if (items[0].revision === 1) box.add({ kind: 'tally', id: 'a', revision: 2 })
    return items.map((i) => ({ id: i.id, kept: true }))
  }
  box = new Outbox(storage(), 'k', send)
  box.add({ kind: 'tally', id: 'a', revision: 1 })
  await box.flush()
  assert.equal(box.waiting, 1)
  await box.flush()
  assert.deepEqual(seen, [1, 2])
})

test('a refused item says why and does not come again', async () => {
  const box = new Outbox(storage(), 'k', async (items) => items.map((i) => ({ id: i.id, kept: false, why: 'gone' })))
  box.add({ kind: 'mark', id: 'a' })
  assert.equal((await box.flush()).refused[0].why, 'gone')
  assert.equal(box.waiting, 0)
})

test('ids are UUIDs of version 7 that sort by time (RFC 9562)', () => {
  assert.match(newID(), /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
  assert.ok(newID(1000) < newID(2000))
})

test('runs counts goods, the run now and the best', () => {
  assert.deepEqual(runs('1101110'), { good: 5, best: 3, run: 0, tried: 7 })
  assert.deepEqual(runs(''), { good: 0, best: 0, run: 0, tried: 0 })
})
