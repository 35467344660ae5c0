// The mirror's ring of pictures, and its angle.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { Ring, angleAt } from './frames.js'

test('the ring shows what was seen so long ago, steps picture by picture, and forgets what is too old', () => {
  const ring = new Ring(1000)
  assert.equal(ring.at(5), null)
  assert.equal(ring.beside(5, -1), 5)
  for (let t = 0; t <= 2000; t += 40) ring.add(t, 'p' + t)
  assert.equal(ring.from, 1000)
  assert.equal(ring.to, 2000)
  assert.equal(ring.at(1079).picture, 'p1040')
  assert.equal(ring.at(0).picture, 'p1000') // the oldest there is
  assert.equal(ring.at(9999).picture, 'p2000')
  assert.equal(ring.beside(1079, 1), 1080)
  assert.equal(ring.beside(1079, -1), 1000)
  assert.equal(ring.beside(1000, -3), 1000)
  assert.equal(ring.between(1100, 1200).length, 3)
})

test('the angle at a joint is the smaller one, whichever way round it is drawn', () => {
  const p = (x, y) => ({ x, y })
  assert.equal(angleAt([p(1, 0), p(0, 0), p(0, 1)]), 90)
  assert.equal(angleAt([p(0, 1), p(0, 0), p(1, 0)]), 90)
  assert.equal(angleAt([p(-1, 0.01), p(0, 0), p(-1, -0.01)]), 1)
  assert.equal(angleAt([p(-5, 0), p(0, 0), p(5, 0)]), 180)
  assert.equal(angleAt([p(3, 0), p(0, 0), p(3, 3 * Math.sqrt(3))]), 60)
})
