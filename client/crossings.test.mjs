// Times from gates.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { odd, timesOf } from './court/crossings.js'

const at = (ms) => new Date(Date.UTC(2026, 10, 24, 18) + ms).toISOString()

test('a start and the finish that follows on its lane are a time; what has no start, or starts again, is none', () => {
  const seen = [
    { id: 'f0', what: 'finish', lane: 1, at: at(0) }, // somebody walks through
    { id: 's1', what: 'start', lane: 1, at: at(1000) },
    { id: 's2', what: 'start', lane: 2, at: at(1200) },
    { id: 'f2', what: 'finish', lane: 2, at: at(6430) },
    { id: 'f1', what: 'finish', lane: 1, at: at(6700) },
    { id: 's3', what: 'start', lane: 1, at: at(9000) }, // a false start
    { id: 's4', what: 'start', lane: 1, at: at(20000) },
    { id: 'f4', what: 'finish', lane: 1, at: at(25500) },
    { id: 'f5', what: 'finish', lane: 1, at: at(25600) }, // the hand behind
  ]
  const want = [
    { id: 'f2', lane: 2, seconds: 5.23 },
    { id: 'f1', lane: 1, seconds: 5.7 },
    { id: 'f4', lane: 1, seconds: 5.5 },
  ]
  assert.deepEqual(timesOf(seen), want)
  assert.deepEqual(timesOf([...seen].reverse()), want) // however late each arrives
})

test('a time out of all reason is asked about, once there are others', () => {
  assert.equal(odd(1.2, [5.5, 5.2]), false)
  assert.equal(odd(1.2, [5.5, 5.2, 5.9]), true)
  assert.equal(odd(11, [5.5, 5.2, 5.9]), true)
  assert.equal(odd(7, [5.5, 5.2, 5.9]), false)
})
