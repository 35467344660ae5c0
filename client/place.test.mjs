// A station's place as the pointer and the keys change it.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { figure, metres, parse, sized, snapped, stepOf, turned, unit, words } from './place.js'

test('as words and back', () => {
  for (const w of ['0 0 0 8 6', '12.5 3 270 1 40', '30.1 2 90 6 8']) assert.equal(words(parse(w)), w)
  assert.equal(words({ x: 1.23456, y: 0.04, turn: 90, l: 7.96, w: 6 }), '1.23 0.04 90 7.96 6')
})

test('four quarters are a whole turn about the middle', () => {
  const start = parse('10 4 0 8 6')
  let p = start
  for (const turn of [90, 180, 270, 0]) {
    p = turned(p)
    assert.equal(p.turn, turn)
    assert.deepEqual([p.x + p.l / 2, p.y + p.w / 2], [14, 7])
  }
  assert.deepEqual(p, start)
  assert.deepEqual([turned(start).l, turned(start).w], [6, 8])
})

test('a dragged station goes to half metres, or to a line that is near', () => {
  const lines = [
    [0, 6, 20, 40],
    [0, 20],
  ]
  assert.deepEqual(snapped(parse('3.3 7.7 0 8 6'), ...lines), parse('3.5 7.5 0 8 6'))
  assert.deepEqual(snapped(parse('5.7 0.3 0 8 6'), ...lines), parse('6 0 0 8 6')) // its left edge on the line at 6 m
  assert.deepEqual(snapped(parse('12.2 13.7 0 8 6'), ...lines), parse('12 14 0 8 6')) // its right edge on the middle line, its lower on the side
  assert.deepEqual(snapped(parse('12.2 13.7 0 8 6'), [], []), parse('12 13.5 0 8 6'))
})

test('a station is never smaller than a metre', () => {
  assert.deepEqual(sized(parse('2 2 0 0.2 -5')), parse('2 2 0 1 1'))
  assert.deepEqual(sized(parse('2 2 0 7.3 5.8')), parse('2 2 0 7.5 6'))
})

test('where the club reads feet, the grid is a foot, and thirty feet are thirty', () => {
  stepOf(0.3048)
  const p = snapped(parse('3.3 7.7 0 9.144 6.096'), [], [])
  for (const m of [p.x, p.y]) assert.ok(Math.abs(m / 0.3048 - Math.round(m / 0.3048)) < 1e-9)
  assert.equal(Math.round((Number(words(sized(p)).split(' ')[3]) / 0.3048) * 2) / 2, 30)
  assert.ok(sized(parse('0 0 0 0.2 0.2')).l >= 1)
  stepOf(0.5)
})

test('a length is typed and read as the club does, and as the program does', () => {
  const cases = JSON.parse(readFileSync(new URL('../internal/coach/testdata/lengths.json', import.meta.url)))
  for (const c of cases.read) {
    stepOf(c.units === 'imperial' ? 0.3048 : 0.5)
    assert.equal(unit(), c.units === 'imperial' ? 'ft' : 'm')
    assert.ok(Math.abs(metres(c.text) - c.metres) < 1e-9, c.text)
    assert.equal(figure(metres(c.text)), c.figure, c.text)
  }
  for (const none of cases.not) assert.ok(Number.isNaN(metres(none)), none)
  stepOf(0.5)
})
