// The phone's clock against the server's rule, and against clocks that are wrong.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { fold, index, interval, Offset, roundShown } from './run.js'

const file = JSON.parse(readFileSync(new URL('../internal/coach/plan/run/testdata/run.json', import.meta.url)))
const segments = file.segments.map((s) => ({ ...s, seconds: s.minutes * 60 }))
const start = Date.UTC(2026, 10, 24, 18)

const turns = file.turns.map((s) => ({ ...s, seconds: s.minutes * 60, turns: s.turns?.map((m) => m * 60) }))
for (const c of [...file.cases, ...file.ofTurns]) {
  test('the clock: ' + c.name, () => {
    const t = fold(
      c.steps ? turns : segments,
      c.events.map(([what, at, id]) => ({ id, do: what, at: start + at * 60000 })),
    )
    if (c.steps)
      assert.deepEqual(
        t.steps.map((b) => (b - start) / 60000),
        c.steps,
      )
    assert.deepEqual(
      t.bounds.map((b) => (b - start) / 60000),
      c.bounds,
    )
    assert.equal(t.ended, Boolean(c.ended))
    assert.equal(t.pausedAt, c.paused ? start + c.paused * 60000 : 0)
  })
}

test('which segment runs, before, in between and after', () => {
  const { bounds } = fold(segments, [{ do: 'start', at: start }])
  assert.deepEqual(
    [-1, 0, 10, 16.2, 27, 99].map((m) => index(bounds, start + m * 60000)),
    [0, 0, 1, 2, 4, 5],
  )
})

test('two phones with wrong clocks on a slow network agree within a fifth of a second', () => {
  let seed = 7
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 // the minimal standard generator (S. K. Park, K. W. Miller 1988)
  for (const wrong of [-3600e3, 417, 86400e3]) {
    const o = new Offset()
    let server = start
    for (let i = 0; i < 6; i++) {
      const there = 20 + random() * 300,
        back = 20 + random() * 300 // milliseconds each way
      const sent = server - wrong
      o.add(sent, server + there, sent + there + back)
      server += 30e3
    }
    assert.ok(
      Math.abs(o.ms - wrong) <= o.within + 1e-9,
      `off by ${Math.abs(o.ms - wrong)}, said to be within ${o.within}`,
    )
    assert.ok(Math.abs(o.ms - wrong) < 100, `off by ${Math.abs(o.ms - wrong)}`)
  }
})

test('ten seconds all-out, sixty rest', () => {
  assert.deepEqual(interval(10, 60, 4), { work: true, left: 6, turn: 1 })
  assert.deepEqual(interval(10, 60, 12), { work: false, left: 58, turn: 1 })
  assert.deepEqual(interval(10, 60, 70), { work: true, left: 10, turn: 2 })
  assert.equal(interval(0, 60, 4), null)
})

test('the groups that are shown: of the round that runs, at a change of the next, before them of the first, after them of the last', () => {
  const plan = [
    ['block', 0],
    ['work', 1],
    ['change', 1],
    ['work', 2],
    ['block', 0],
  ].map(([kind, round]) => ({ kind, round }))
  assert.deepEqual(
    plan.map((_, i) => roundShown(plan, i)),
    [1, 1, 2, 2, 2],
  )
  assert.equal(roundShown([], 0), 1)
})
