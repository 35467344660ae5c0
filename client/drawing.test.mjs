// A drill's drawing as the board changes it.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import * as D from './drawing.js'

const empty = { floor: 'handball', x: 20, y: 0, l: 20, w: 20, things: [] }

test('players are numbered on, and what they begin comes along when they are moved', () => {
  let d = D.add(D.add(D.add(empty, 'player', [24, 10]), 'cone', [26, 10]), 'player', [30, 10])
  assert.deepEqual(
    d.things.map((t) => t.no),
    [1, undefined, 2],
  )
  d = D.draw(d, 0, 'run', [
    [24, 10],
    [28, 6],
  ])
  d = D.move(d, 0, [23, 9])
  assert.deepEqual(d.steps[0].traces[0].points, [
    [23, 9],
    [28, 6],
  ])
  assert.deepEqual(
    D.draw(d, 0, 'distance', [
      [24, 12],
      [30, 12],
    ]).marks[0].kind,
    'distance',
  ) // belongs to the drawing, not to a step
  assert.equal(D.turn(D.turn(d, 1), 1).things[1].turn, 90)
})

test('points snap to people, to court lines and to half metres, and stay on what is shown', () => {
  assert.deepEqual(D.snap(empty, [24.3, 9.8], { people: [[24, 10]] }), [24, 10])
  assert.deepEqual(D.snap(empty, [33.8, 7.74], { xs: [34], ys: [] }), [34, 7.5])
  assert.deepEqual(D.snap(empty, [55, -3]), [40, 0])
})

test('at most six steps, and every change can be taken back and done again', () => {
  let d = empty
  for (let i = 0; i < 9; i++) d = D.addStep(d)
  assert.equal(d.steps.length, D.mostSteps)
  const h = new D.History(empty)
  assert.equal(h.keep(d), true)
  assert.equal(h.keep(structuredClone(d)), false) // the same again is no change
  assert.deepEqual(h.undo(), empty)
  assert.deepEqual(h.redo(), d)
  h.undo()
  h.keep(D.add(empty, 'ball', [25, 5]))
  assert.equal(h.redo().things.length, 1) // a new branch forgets the old one
})
