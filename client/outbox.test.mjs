// The outbox by itself, against a made-up server that loses answers: exactly once, in order, newest revision.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { Outbox, newID } from './outbox.js'
import { runs } from './pads.js'

// memory stands for the device's own database.
const memory = (room = Infinity) => {
  const m = new Map()
  return {
    room,
    items: async () => [...m.values()],
    async put(...items) {
      if (m.size + items.length > this.room) throw new Error('QuotaExceededError')
      for (const i of items) m.set(i.kind + i.id, i)
    },
    drop: async (...items) => items.forEach((i) => m.delete(i.kind + i.id)),
  }
}
const refusal = (status) => Object.assign(new Error('That cannot be taken.'), { status })

test('what has arrived stays on the device until it is let go, and what grew meanwhile is not', async () => {
  const disk = memory(),
    landed = []
  const phone = new Outbox(
    disk,
    async (items) => items.map((i) => ({ id: i.id, kept: true })),
    (items) => landed.push(...items),
  )
  phone.add({ kind: 'tally', id: 'a', revision: 1 })
  phone.add({ kind: 'mark', id: 'b' })
  assert.deepEqual(await phone.flush(), { sent: true, refused: [] })
  assert.equal(phone.waiting, 0)
  assert.equal((await disk.items()).length, 2, 'the page that shows them may not be kept yet')
  await phone.land(landed)
  const again = new Outbox(disk, () => assert.fail('sent again'))
  assert.deepEqual(
    (await again.load()).map((i) => i.id),
    ['a', 'b'],
  )
  assert.deepEqual([again.waiting, (await again.flush()).sent], [0, true])
  phone.add({ kind: 'tally', id: 'a', revision: 2 })
  await phone.letGo(landed)
  assert.deepEqual(await disk.items(), [{ kind: 'tally', id: 'a', revision: 2 }])
})

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
  const disk = memory()
  const phone = new Outbox(disk, send)
  for (let revision = 1; revision <= 5; revision++) phone.add({ kind: 'tally', id: 'a', revision })
  phone.add({ kind: 'mark', id: 'b', revision: 0 })
  assert.equal(phone.waiting, 2, 'a growing series waits as one item')
  assert.equal((await phone.flush()).sent, false)
  const reloaded = new Outbox(disk, send)
  await reloaded.load()
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
  box = new Outbox(memory(), send)
  box.add({ kind: 'tally', id: 'a', revision: 1 })
  await box.flush()
  assert.equal(box.waiting, 1)
  const again = new Outbox(box.kept, send)
  await again.load()
  assert.equal(again.items[0].revision, 2, 'the newer one is kept')
  await box.flush()
  assert.deepEqual(seen, [1, 2])
})

test('a refused item says why and does not come again', async () => {
  const box = new Outbox(memory(), async (items) => items.map((i) => ({ id: i.id, kept: false, why: 'gone' })))
  box.add({ kind: 'mark', id: 'a' })
  assert.equal((await box.flush()).refused[0].why, 'gone')
  assert.equal(box.waiting, 0)
})

test('what was refused has not arrived: it is let go, and is not shown again as if it were with the server', async () => {
  const kept = memory(),
    shown = []
  const box = new Outbox(
    kept,
    async (items) => items.map((i) => ({ id: i.id, kept: i.id !== 'bad', why: 'gone' })),
    (items) => (shown.push(...items.map((i) => i.id)), box.land(items)),
  )
  for (const id of ['good', 'bad']) await box.add({ kind: 'note', id })
  await box.flush()
  assert.deepEqual(shown, ['good'])
  assert.deepEqual(
    (await box.load()).map((i) => i.id),
    ['good'],
  )
})

test('one item that makes the server refuse a whole load holds up none of those behind it', async () => {
  const taken = []
  let asked = 0
  const box = new Outbox(memory(), async (items) => {
    asked++
    if (items.some((i) => i.id === 'bad')) throw refusal(413)
    taken.push(...items.map((i) => i.id))
    return items.map((i) => ({ id: i.id, kept: true }))
  })
  for (let n = 0; n < 150; n++) box.add({ kind: 'mark', id: n === 70 ? 'bad' : 'm' + n })
  const { sent, refused } = await box.flush()
  for (let n = 0; n < 10 && box.waiting; n++) await box.flush()
  assert.equal(sent, true)
  assert.deepEqual(refused, [{ id: 'bad', kept: false, why: 'That cannot be taken.' }])
  assert.equal(taken.length, 149)
  assert.equal(new Set(taken).size, 149)
  assert.ok(asked < 40, asked + ' loads')
})

test('signed out or away, nothing is given up', async () => {
  for (const status of [401, 403, 429, 500, undefined]) {
    const box = new Outbox(memory(), () => Promise.reject(refusal(status)))
    box.add({ kind: 'mark', id: 'a' })
    assert.deepEqual(await box.flush(), { sent: false, refused: [] }, String(status))
    assert.equal(box.waiting, 1)
  }
})

test('a device without room says so and loses no tap; what waits is kept once there is room', async () => {
  const disk = memory(1),
    sent = []
  let up = false
  const box = new Outbox(disk, async (items) => {
    if (!up) throw refusal()
    sent.push(...items.map((i) => i.id))
    return items.map((i) => ({ id: i.id, kept: true }))
  })
  await box.add({ kind: 'mark', id: 'a' })
  assert.equal(box.full, false)
  await box.add({ kind: 'mark', id: 'b' })
  assert.equal(box.full, true)
  disk.room = 9
  await box.add({ kind: 'mark', id: 'c' })
  assert.equal(box.full, false)
  assert.equal((await disk.items()).length, 3)
  up = true
  await box.flush()
  assert.deepEqual(sent, ['a', 'b', 'c'])
  assert.equal((await disk.items()).length, 0)
})

test('ids are UUIDs of version 7 that sort by time (RFC 9562)', () => {
  assert.match(newID(), /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
  assert.ok(newID(1000) < newID(2000))
})

test('runs counts goods, the run now and the best', () => {
  assert.deepEqual(runs('1101110'), { good: 5, best: 3, run: 0, tried: 7 })
  assert.deepEqual(runs(''), { good: 0, best: 0, run: 0, tried: 0 })
})
