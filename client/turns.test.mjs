// Whose turn it is in intervals: the phone and the big screen work it out by themselves, from what the server laid down.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { benchAt } from './court/games.js'
import { resting, turnOf } from './court/pairs.js'
import { turnAt } from './court/turns.js'

// three players, ten seconds of work, no time to change, forty seconds of pause after each time round: internal/coach/load/slots_test.go
const slot = (from, up, time, feed = []) => ({ from, to: from + 10, up: [up], feed, time })
const cycle = {
  names: ['Ana', 'Ben', 'Cem'],
  times: 2,
  slots: [slot(0, 0, 1), slot(10, 1, 1), slot(20, 2, 1), slot(70, 0, 2), slot(80, 1, 2), slot(90, 2, 2)],
}

test('who works, who is next, and in how many seconds the others are up', () => {
  const t = turnAt(cycle, 3)
  assert.deepEqual([t.up, t.next, t.left, t.time], [[0], [1], 7, 1])
  assert.deepEqual(t.later, [
    { player: 2, in: 17 },
    { player: 0, in: 67 },
  ])
})

test('in the pause nobody works, and the next are called to be ready', () => {
  const t = turnAt(cycle, 40)
  assert.deepEqual([t.up, t.next, t.left, t.time], [[], [0], 30, 1])
  assert.deepEqual(
    t.later.map((p) => p.player),
    [1, 2],
  )
})

test('at the end nobody is next, and before the beginning there is nothing', () => {
  assert.deepEqual([turnAt(cycle, 95).next, turnAt(cycle, 95).later], [[], []])
  assert.deepEqual([turnAt(cycle, 139).up, turnAt(cycle, 139).left], [[], 0])
  assert.equal(turnAt(cycle, -1), null)
  assert.equal(turnAt({ names: [], slots: [] }, 5), null)
})

test('in a game: who rests, who rests next, and in how long', () => {
  // four on one side of whom three play, eight minutes: internal/coach/rotate/stints.go
  const side = { stints: [0, 120, 240, 360].map((from, i) => ({ from, rest: [i] })) }
  assert.deepEqual(benchAt(side, 100), { stint: 0, rest: [0], next: [1], in: 20 })
  assert.deepEqual(benchAt(side, 470), { stint: 3, rest: [3], next: [], in: 0 })
  assert.deepEqual(benchAt({ stints: [{ from: 0, rest: [] }] }, 5), { stint: 0, rest: [], next: [], in: 0 })
})

test('partners: which turn is on, and that one waits where nobody has won yet', () => {
  const pairing = { turn: 45, turns: [{}, {}, {}] }
  assert.deepEqual(turnOf(pairing, { n: 1, left: 40 }), { n: 1, left: 40, waits: false })
  assert.deepEqual(turnOf(pairing, { n: 3, left: 40 }), { n: 2, left: 40, waits: true })
  // who rests counts for a pair, each for another, and plays again after so many turns
  const turns = [
    { teams: [[0, 1]], rests: [2, 3] },
    { teams: [[2, 0]], rests: [3, 1] },
    { teams: [[3, 1]], rests: [2, 0] },
  ]
  assert.deepEqual(resting({ turns }, 0), [
    { player: 2, counts: 1, after: 1 },
    { player: 3, counts: 0, after: 2 },
  ])
  assert.deepEqual(resting({ turns: [{ teams: [], rests: [5] }] }, 0), [{ player: 5, counts: 0, after: 0 }])
})
