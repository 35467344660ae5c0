// The pads' arithmetic, against the rules of the targets.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { circuit, degrees, pairs, race, rungs, runs, team, teach } from './pads.js'

test('a streak starts again at a miss, its best stays', () =>
  assert.deepEqual(runs('1101110'), { good: 5, best: 3, run: 0, tried: 7 }))

test('taps come to what the desk and the record make of them', () => {
  const cases = JSON.parse(readFileSync(new URL('../internal/coach/marking/testdata/taps.json', import.meta.url)))
  for (const c of cases) {
    const { good, best } = runs(c.taps)
    assert.deepEqual({ good, best }, { good: c.good, best: c.best }, c.taps)
  }
})

test('a set of streaks: where a miss sends the player', () => {
  const tries = '111' + '11' + '0' // two skills of three in a row, a miss in the second
  assert.deepEqual(circuit(tries, 3, 3, 'again'), { skill: 2, run: 0, done: false })
  assert.deepEqual(circuit(tries, 3, 3, 'one back'), { skill: 1, run: 0, done: false })
  assert.deepEqual(circuit('111' + '111' + '0', 3, 3, 'one back'), { skill: 2, run: 0, done: false })
  assert.deepEqual(circuit('111' + '111' + '0', 3, 3, 'all over'), { skill: 1, run: 0, done: false })
  assert.equal(circuit('111111111', 3, 3, 'all over').done, true)
  assert.equal(circuit('1111111110', 3, 3, 'all over').done, true) // done is done
})

test('a rally ladder asks for j in a row on rung j, and a new pair carries the higher score on', () => {
  assert.deepEqual(rungs('1' + '11' + '110'), { rung: 3, run: 0, done: false })
  assert.deepEqual(rungs('111', 3), { rung: 4, run: 0, done: false })
  assert.deepEqual(rungs('1' + '11' + '111', 1, 3), { rung: 3, run: 0, done: true })
})

test('a team streak goes in turn, and a miss by anyone costs all', () => {
  const order = ['a', 'b', 'c']
  assert.deepEqual(
    team(order, [
      ['a', true],
      ['b', true],
      ['c', false],
      ['a', true],
    ]),
    { run: 1, best: 2, tried: 4, next: 'b' },
  )
  assert.equal(team(order, []).next, 'a')
})

test('a race to seven against eleven', () => {
  assert.deepEqual(race('1111110000', 7, 11), { first: 6, other: 4, winner: 0 })
  assert.equal(race('1111110000' + '1', 7, 11).winner, 1)
  assert.equal(race('0'.repeat(11), 7, 11).winner, 2)
  assert.equal(race('0'.repeat(7), 7, 0).winner, 2) // the same for both
})

test('nine move on by one: everybody meets everybody and rests once', () => {
  const nine = [...'123456789'],
    met = new Set(),
    rested = new Set()
  for (let turn = 0; turn < 9; turn++) {
    const p = pairs(nine, turn)
    for (const [a, b] of p.pairs) met.add([a, b].sort().join(''))
    rested.add(p.rests)
  }
  assert.equal(met.size, 36)
  assert.equal(rested.size, 9)
})

test('the key to teach is the first that fewer than seven in ten have', () => {
  const has = { a: ['k1', 'k2'], b: ['k1'], c: ['k1', 'k2'], d: ['k1', 'k2', 'k3'] }
  const of = (p, k) => has[p].includes(k)
  assert.deepEqual(teach(['k1', 'k2', 'k3'], ['a', 'b', 'c', 'd'], of), { at: 2, lack: 3 }) // three in four have the second
  assert.deepEqual(teach(['k1', 'k2', 'k3'], ['a', 'b'], of), { at: 1, lack: 1 })
  assert.deepEqual(teach(['k1'], ['a', 'b'], of), { at: -1, lack: 0 })
})

test('an angle by where the arm points', () => {
  for (const [dx, dy, want] of [
    [1, 0, 0],
    [1, -1, 45],
    [0, -1, 90],
    [-1, -1, 135],
    [-1, 0, 180],
    [1, 1, 0],
    [-1, 1, 180],
  ])
    assert.equal(degrees(dx, dy), want)
})
