import assert from 'node:assert/strict'
import { test } from 'node:test'
import { newest } from './live.js'

test('what was heard while an answer was on its way: the newest, in whatever order; “again” is newer than all', () => {
  const after = (...words) => words.reduce((was, w) => newest(was, ...w.split(' ')), 0)
  assert.equal(after('plan 8', 'plan 7'), 8)
  assert.equal(after('hello 3'), 3)
  assert.equal(after('plan 8', 'again'), Infinity) // some notice was lost, so that no version says enough
  assert.equal(after('again', 'plan 9'), Infinity)
})
