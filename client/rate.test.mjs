// How it goes at a station, held to the cases of the rule in Go.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { whatNow } from './court/next.js'
import { rate, rateSays, reaches } from './court/rate.js'

const cases = JSON.parse(readFileSync(new URL('../internal/coach/target/testdata/rate.json', import.meta.url)))

test('the chance to get there is that of every way in which the tries to come can go', () => {
  for (const c of cases) {
    const got = reaches(c.kind, c.N, { good: c.Good, tries: c.Tries, run: c.Run }, c.Left)
    assert.ok(Math.abs(got - c.is) < 5e-5, JSON.stringify(c) + ' ' + got)
  }
  assert.equal(reaches('race', 3, { good: 3, tries: 3, run: 3 }, 9), 0)
})

test('a target that sticks is said with one that would not; one that all reached with the next; else nothing', () => {
  const minute = 60_000
  const hard = ['10100100', '0110010', '10010', '1101001010']
  const stuck = rate({ kind: 'streak', n: 8 }, hard, 3 * minute, 3 * minute)
  assert.ok(stuck.hard && stuck.other > 0 && stuck.other < 8 && stuck.otherShare >= 0.7)
  assert.match(
    rateSays('streak', stuck),
    /^At this rate [0-3] in 10 get there before the signal\. \d in a row: ([78]|9|10) in 10\.$/,
  )
  const easy = rate({ kind: 'total', n: 4 }, ['111101', '1111', '11111'], 2 * minute, 4 * minute)
  assert.ok(easy.easy && easy.other > 4)
  assert.match(rateSays('total', easy), /^All counted got there\. \d+ good ones: ([78]|9|10) in 10\.$/)
  assert.equal(
    rateSays('total', rate({ kind: 'total', n: 10 }, ['111101', '1110', '11011'], 2 * minute, 4 * minute)),
    '',
  )
  assert.equal(rate({ kind: 'streak', n: 8 }, ['10', ''], minute, minute), null) // too little is known
  assert.equal(rateSays('own', rate({ kind: 'own' }, hard, minute, minute)), '') // about half are good
  const drops = rate({ kind: 'ladder', n: 7 }, ['00100100', '0100010'], minute, minute)
  assert.deepEqual([drops.hard, rateSays('ladder', drops)], [true, 'Only 3 in 10 are good.'])
})

test('what now is what the rule says at every moment of the recorded evenings', () => {
  const evenings = JSON.parse(readFileSync(new URL('../internal/coach/plan/run/testdata/next.json', import.meta.url)))
  for (const { evening, moments } of evenings)
    for (const { at, says, label, does, ...moment } of moments) {
      const got = whatNow(moment)
      assert.deepEqual(got, says ? { says, label, does } : null, evening + ', ' + at)
    }
})
