// The pads' arithmetic, against the rules of the targets.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { all } from './court/gates.js'
import { circuit, degrees, letters, pairs, points, race, rungs, runs, team, teach } from './pads.js'

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
  const score = (r) => [r.first, r.other, r.winner]
  assert.deepEqual(score(race('1111110000', 7, 11)), [6, 4, 0])
  assert.equal(race('1111110000' + '1', 7, 11).winner, 1)
  assert.equal(race('0'.repeat(11), 7, 11).winner, 2)
  assert.equal(race('0'.repeat(7), 7, 0).winner, 2) // the same for both
})

test('sides are swapped once at half, or for a second game to what the other played', () => {
  assert.deepEqual(
    ['11', '111', '1110', '1111'].map((p) => race(p, 5, 5, 'half').swap),
    [false, true, false, false],
  )
  const won = race('11', 2, 3, 'end')
  assert.deepEqual([won.winner, won.leg, won.swap], [1, 1, true])
  const second = race('11' + '110', 2, 3, 'end') // now the first plays to three
  assert.deepEqual([second.first, second.other, second.winner, second.leg, second.swap], [2, 1, 0, 2, false])
  assert.equal(race('11' + '11' + '00', 2, 3, 'end').winner, 2)
})

test('letters: whoever has so many is out', () => {
  assert.deepEqual(letters('110', 3), { first: 2, other: 1, winner: 0 })
  assert.equal(letters('1101', 3).winner, 2)
  assert.equal(letters('000', 3).winner, 1)
})

test('points: better ones give more, misses take away, nobody falls under nothing', () => {
  assert.equal(points('0111', '0,0,9,0', 2, 1), 4)
  assert.equal(points('10', '', 3, 0), 0)
  assert.equal(points('1101', '', 1, 5), 2) // no better one was tapped
})

test('a gate adds up what everybody counted, and no steps of groups', () => {
  const taps = [
    { unit: -1, block: 2, step: 5 },
    { unit: -1, block: 2, step: -1 },
    { unit: -1, block: 3, step: 10 },
    { unit: 2, block: 2, step: 7 },
  ]
  assert.equal(all(taps, 2), 4)
  assert.equal(all([{ unit: -1, block: 2, step: -1 }], 2), 0)
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
