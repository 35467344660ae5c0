// The rules of the phone in the hall, each by itself: nothing here knows a page.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { holds, mostLack, toShow } from './court/keys.js'
import { expected, help, stands, stepOf } from './court/ladders.js'
import { summary } from './court/ending.js'
import { mixOf, slips } from './court/feedback.js'
import { figures, meets, routine } from './court/figures.js'
import { boardsOf } from './court/games.js'
import { pads } from './court/pads.js'
import { inForm } from './court/place.js'
import { moved, said, strays, under, words } from './court/register.js'
import { notSeen, saw } from './court/seen.js'
import { merged, put } from './court/sending.js'
import { begins } from './court/together.js'
import { swiped } from './court/touch.js'
import { sameID } from './outbox.js'

const players = (...words) =>
  words.map((said, i) => ({ id: 'p' + i, name: 'Abcdefgh'[i] + ' Last', said, minute: 0, no: '' }))

test('the register counts who is here, missing, late, left, and of whom nothing was said', () => {
  assert.equal(words(players('present', 'late', 'absent', 'left')), '2 here · 1 missing · 1 late · 1 left')
  assert.equal(words(players('present', '', '', 'hurt', 'away')), '2 here · 1 missing · 2 not said yet')
  assert.equal(words([]), '0 here')
})

test('a swipe is far enough and along the row; a held or a rolling thumb is none', () => {
  assert.deepEqual(
    [swiped(60, 8), swiped(-70, 20), swiped(40, 0), swiped(70, 50), swiped(0, -200)],
    ['right', 'left', '', '', ''],
  )
})

test('the same word again takes it back; left again is at another minute', () => {
  const [p] = players('')
  assert.deepEqual(said(said(p, 'late', 12), 'late', 13), p)
  assert.equal(said(said(p, 'left', 12), 'left', 20).minute, 20)
  assert.deepEqual(said(said(p, 'hurt', 0, 'running'), 'hurt', 0, 'jumping'), { ...p, said: 'hurt', no: 'jumping' })
})

test('under a name stands when they came or left, and what they must not do', () => {
  const clock = (minute) => '18:' + String(minute).padStart(2, '0')
  assert.equal(under({ said: 'late', minute: 7 }, clock), 'came 18:07')
  assert.equal(under({ said: 'late', minute: 0, guest: true }, clock), 'guest')
  assert.equal(under({ said: 'left', minute: 40 }, clock), 'left 18:40')
  assert.equal(under({ said: 'hurt', no: 'overhead' }, clock), 'hurt: no overhead')
  assert.equal(under({ said: 'hurt', no: '' }, clock), 'hurt: sits out')
})

test('who is dealt and away, or here and not dealt, is a stray; whoever nothing was said of is not', () => {
  const all = players('present', 'absent', 'present', '', 'hurt')
  const groups = [{ name: 'Circles', players: ['p0', 'p1', 'p4'] }]
  assert.deepEqual(
    strays(all, groups).map((p) => p.id),
    ['p1', 'p2', 'p4'],
  )
  all[4].no = 'jumping' // hurt, and goes on without it
  assert.ok(!strays(all, groups).some((p) => p.id === 'p4'))
  const after = [
    { name: 'Circles', players: ['p0', 'p4'] },
    { name: 'Squares', players: ['p2'] },
  ]
  assert.equal(moved(groups, after, all), 'Moved: c to Squares.')
  assert.equal(moved(after, after, all), 'Nobody has to move.')
})

test('what meets a standard is what the record says', () => {
  const cases = JSON.parse(readFileSync(new URL('../internal/coach/evidence/testdata/meets.json', import.meta.url)))
  for (const k of cases) {
    const c = { measure: k.measure, want: k.want, of: k.of ?? 0, tolerance: k.tolerance, points: k.asked ?? [] }
    assert.equal(meets(c, { figure: k.figure, tries: k.tries ?? 0, points: k.points ?? [] }), k.meets, k.name)
  }
})

test('each pad shows what was tapped so far', () => {
  const shown = (c, taps) => {
    const f = figures({ points: [], ...c }, taps)
    return f.pad + ': ' + f.figure + ' ' + f.figureUnder
  }
  assert.equal(shown({ measure: 'makes', of: 10 }, { tries: '1101' }), 'tries: 3 of 4 (10)')
  assert.equal(shown({ measure: 'makes', want: 12 }, {}), 'tries: 0 of 0, to 12')
  assert.equal(shown({ measure: 'streak' }, { tries: '11011' }), 'tries: 2 best 2 · 5 tries')
  assert.equal(shown({ measure: 'streak' }, { tries: '0' }), 'tries: 0 best 0 · 1 try')
  const target = { n: 2, of: 3, back: 'again' }
  assert.equal(shown({ measure: 'set', target }, { tries: '1110' }), 'tries: 0 skill 2 of 3')
  assert.equal(shown({ measure: 'count', of: 30 }, {}), 'count: 0 in 30 s')
  assert.equal(shown({ measure: 'count', of: 30 }, { value: 7, end: 9000, now: 1500 }), 'count: 7 8 s left')
  assert.equal(shown({ measure: 'count', of: 30 }, { value: 7, end: 9000, now: 9000 }), 'count: 7 time is up')
  assert.equal(shown({ measure: 'hold' }, { value: 4.2, timing: true }), 'watch: 4.2 stop')
  assert.equal(shown({ measure: 'distance', want: 6 }, { value: 6.05 }), 'distance: 6.05 metres')
  assert.equal(shown({ measure: 'distance', want: 6, feet: true }, { value: 3.048 }), 'distance: 10.0 feet')
  assert.equal(shown({ measure: 'angle', want: 90, tolerance: 10 }, {}), 'angle: – 90° ± 10') // untouched it is no mark
  assert.ok(figures({ measure: 'angle', want: 90, tolerance: 5 }, {}).untouched)
  assert.ok(!figures({ measure: 'angle', want: 90, tolerance: 5 }, { value: 90 }).untouched)
  assert.equal(shown({ measure: 'faults' }, { value: 3, falls: 1 }), 'faults: 3 faults, 1 falls')
  assert.deepEqual(
    figures({ measure: 'grade', points: ['looks down', 'looks up'] }, {}).grades.map((g) => g.text),
    ['1 looks down', '2 looks up'],
  )
})

test('the key of the day is shown until seven in ten have it, then the next they lack', () => {
  const list = ['Step in', 'Elbow up', 'Follow through'],
    group = [...'abcdefghij']
  const has = (n) => (p, k) => k === 'Elbow up' && group.indexOf(p) < n
  assert.equal(toShow(list, 'elbow UP', group, has(6)), 1)
  assert.equal(holds('Elbow up', group, has(6)), false)
  assert.equal(toShow(list, 'Elbow up', group, has(7)), 0)
  assert.equal(
    toShow(list, '', group, () => true),
    2,
    'the last, when they have all',
  )
})

test('after a first look the key counts that most lack, of those of whom it was said', () => {
  const saidOf = (p, k) => ({ low: { a: false, b: false, c: true }, high: { a: false } })[k]?.[p]
  const said = (p, k) => (saidOf(p, k) === undefined ? null : { has: saidOf(p, k) })
  assert.deepEqual(mostLack(['none said', 'low', 'high'], ['a', 'b', 'c'], said), { key: 'low', lack: 2, of: 3 })
  assert.equal(mostLack(['none said'], ['a'], said), null)
})

test('a step holds by the newest word, and who is fast or slow is told what to do', () => {
  const climbs = [
    { block: 1, unit: 0, step: 2, at: '2026-11-24T18:20:00Z' },
    { block: 1, unit: 0, step: 1, at: '2026-11-24T18:10:00Z' }, // from a phone that was away
    { block: 1, unit: 1, step: 1, at: '2026-11-24T18:30:00Z' },
  ]
  assert.equal(stepOf(climbs, 1, 0), 2)
  assert.equal(stepOf(climbs, 2, 0), 0)
  assert.equal(stepOf([...climbs, { block: 1, unit: 0, player: 'p1', step: 5, at: 9 }], 1, 0), 2) // a player's own step is not the group's
  assert.equal(stepOf([{ block: 1, unit: 0, player: 'p1', step: 5, at: 9 }], 1, 0, 'p1'), 5)
  const steps = [{ key: 'Wrist', bridge: 'Roll it first' }, { key: '' }]
  assert.equal(help(steps, 0, 0.4), '')
  assert.equal(help(steps, 0, 0.6), 'Slow: take the bridge, Roll it first')
  assert.equal(help(steps, 1, 0.6), '')
  assert.equal(help(steps, 2, 0.6), 'Fast: help another group')
})

test('who was seen is what the server says of the same evenings', () => {
  const cases = JSON.parse(readFileSync(new URL('../internal/coach/seen/testdata/seen.json', import.meta.url)))
  for (const c of cases) {
    const by = Object.fromEntries([...saw(c.evening)].map(([player, who]) => [player, [...who].sort()]))
    assert.deepEqual(by, c.seen, c.name)
  }
  assert.equal(notSeen(players('', '', '', '')), 'Not seen by you: A, b, c and 1 more')
})

test('a series of one’s other device is taken over where it is newer, and not when it is done here', () => {
  const here = { a: { id: 'a', revision: 3 }, b: { id: 'b', revision: 1 }, c: { id: 'c', revision: 9 } }
  const tallies = [
    { id: 'a', by: 'me', revision: 2 },
    { id: 'b', by: 'me', revision: 4 },
    { id: 'c', by: 'me', revision: 9, done: true },
    { id: 'd', by: 'me', revision: 1 },
    { id: 'e', by: 'her', revision: 1 },
  ]
  const waits = [
    { kind: 'tally', id: 'd', revision: 2, done: true },
    { kind: 'tally', id: 'f', revision: 5 }, // of a page that was closed
  ]
  const out = merged(here, tallies, waits, 'me')
  assert.deepEqual(Object.keys(out), ['a', 'b', 'f'])
  assert.deepEqual([out.a.revision, out.b.revision], [3, 4])
})

test('what waits here is shown once, however often the state comes', () => {
  const state = { me: { id: 'me' }, players: players(''), events: [], looked: [], climbs: [], notes: [], marks: [] }
  const waiting = [
    { kind: 'said', id: '1', player: 'p0', state: 'late', minute: 5 },
    { kind: 'clock', id: '2', do: 'start', at: '2026-11-24T18:00:00Z' },
    { kind: 'looked', id: '3', player: 'p0', by: 'me' },
    { kind: 'climb', id: '4', block: 1, unit: 0, step: 1 },
    { kind: 'note', id: '5', player: 'p0', what: 'cue', note: 'Soft hands', at: '2026-11-24T18:01:00Z' },
    { kind: 'mark', id: '6', player: 'p0', criterion: 'c', says: '7 of 10', meets: true, at: '2026-11-24T18:02:00Z' },
    { kind: 'mark', id: '7', player: 'p0', criterion: 'c', says: '3 of 10', meets: false, at: '2026-11-24T18:03:00Z' },
    { kind: 'strike', id: '7' },
    { kind: 'guest', id: 'g', name: 'Kim Guest' },
    { kind: 'said', id: '8', player: 'g', state: 'left', minute: 20 },
    { kind: 'guest', id: 'g', name: 'Kim Guest' },
  ]
  for (let again = 0; again < 2; again++) for (const i of waiting) put(state, i)
  assert.deepEqual(
    state.notes.map((n) => [n.kind, n.says, n.by]),
    [['cue', 'Soft hands', 'me']],
  )
  assert.deepEqual(
    state.marks.map((m) => [m.said, m.meets, m.struck, m.at]),
    [
      ['7 of 10', true, false, Date.UTC(2026, 10, 24, 18, 2)],
      ['3 of 10', false, true, Date.UTC(2026, 10, 24, 18, 3)],
    ],
  )
  assert.equal(state.players[0].said, 'late')
  assert.deepEqual(
    state.players.slice(1).map((p) => [p.name, p.guest, p.said]),
    [['Kim Guest', true, 'left']],
  )
  assert.deepEqual([state.events.length, state.looked.length, state.climbs.length], [1, 1, 1])
})

test('a routine is judged skill by skill, and says which ones they fell at', () => {
  const c = { points: ['mount', 'turn', 'dismount'] }
  const r = routine(c, [0, 2, 1])
  assert.deepEqual([r.figure, r.figureUnder, r.note], ['1 of 3', '1 fall', '1 fall: turn'])
  assert.deepEqual(r.clean, [true, false, false])
  assert.deepEqual([routine(c, []).figure, routine(c, []).figureUnder, routine(c, []).note], ['3 of 3', 'clean', ''])
})

test('on a ladder counts decide what holds, and where they should be by now is what the plan thought', () => {
  const steps = [
    { kind: 'streak', n: 3, takes: 120, next: 'further away' },
    { kind: 'total', n: 4, takes: 180, bridge: 'own toss' },
    { kind: 'time', n: 5, takes: 60 },
  ]
  assert.deepEqual(
    ['11011', '110111'].map((tries) => stands(steps[0], tries).holds),
    [false, true],
  )
  assert.deepEqual(stands(steps[1], '10101'), { figure: 3, says: 'of 5, to 4', holds: false })
  // every kind of target of which tries tell: what stands there, and when it holds
  const holds = (step, tries) => [stands(step, tries.slice(0, -1)).holds, stands(step, tries).holds]
  for (const [step, tries] of [
    [{ kind: 'team', n: 3 }, '10111'],
    [{ kind: 'score', n: 3, minus: 1 }, '0111'],
    [{ kind: 'ladder', n: 3 }, '110' + '11' + '111'],
    [{ kind: 'set', n: 2, of: 2, back: 'again' }, '1101' + '011'],
    [{ kind: 'faults', n: 1, of: 4 }, '00111'],
  ])
    assert.deepEqual(holds(step, tries), [false, true], step.kind)
  assert.equal(stands(steps[2], '111111'), null)
  assert.deepEqual(
    [0, 119, 120, 300, 9999].map((s) => expected(steps, s)),
    [0, 0, 1, 2, 3],
  )
  assert.equal(expected([{ takes: 0 }], 60), -1)
  assert.match(help(steps, 1, 0.9, 2), /own toss/)
  assert.match(help(steps, 0, 0.3, 1), /Slow/)
  assert.equal(help([{ ...steps[0], takes: 1 }, steps[1], { ...steps[2], next: 'harder' }], 2, 0.1, 0), 'Fast: harder')
})

test('what is said is mixed, and a key slips when somebody was said to lack it', () => {
  const f = (...hows) => hows.map((how, i) => ({ how, at: i, unit: 1, key: 'k', said: '' }))
  const hows = ['told', 'asked', 'before'].map((how) => ({ how, words: how === 'before' ? 'said before' : how }))
  assert.equal(mixOf([], hows), '')
  assert.equal(mixOf(f('asked', 'told', 'asked'), hows), 'asked 2, told 1; never said before')
  const said = { a: { k1: true, k2: true }, b: { k1: false, k2: true }, c: {} }
  const of = (p, k) => (k in said[p] ? { has: said[p][k] } : undefined)
  assert.equal(slips(['k1', 'k2'], 1, ['a', 'b', 'c'], of, 0.7), 0)
  assert.equal(slips(['k2', 'k1'], 1, ['a', 'b', 'c'], of, 0.7), -1) // of nobody it was said that they lack it
  assert.equal(slips(['k1'], 0, ['a', 'b'], of, 0.7), -1)
})

test('the end says who was looked at, what was shown, who is one mark short, and whose guardian to talk to', () => {
  const [a, b, c, d] = players('present', 'late', 'absent', '')
  Object.assign(a, { short: ['k1'] })
  Object.assign(b, { short: ['k2'] })
  const s = summary({
    players: [a, b, c, d],
    criteria: [
      { id: 'k1', wording: 'passes' },
      { id: 'k2', wording: 'lands' },
    ],
    marks: [
      { player: 'p0', criterion: 'k1', meets: true },
      { player: 'p1', criterion: 'k1', meets: true, struck: true },
      { player: 'p1', criterion: '', meets: true },
    ],
    notes: [{ player: 'p1', kind: 'talk' }],
    by: new Map([
      ['p0', new Set(['me'])],
      ['p1', new Set(['her'])],
    ]),
    me: 'me',
  })
  assert.equal(s.seen, '2 of 3 seen, 1 by you.')
  assert.deepEqual([s.shown, s.short, s.send, s.clips], ['A (passes)', 'b (lands)', 'b', ''])
  assert.deepEqual(
    s.unseen.map((p) => p.id),
    ['p3'],
  )
})

test('the form in force gives the target and its tries; what was counted in another stays with that', () => {
  const spot = {
    target: '6 good ones',
    n: 6,
    each: 24,
    visits: [1, 0],
    forms: [{ each: 20 }, { target: '10 good ones', n: 10, each: 12 }],
  }
  assert.deepEqual([inForm(spot, 0).n, inForm(spot, 0).each], [6, 20])
  assert.deepEqual([inForm(spot, 1).target, inForm(spot, 1).n, inForm(spot, 1).each], ['10 good ones', 10, 12])
  assert.equal(inForm(spot, -1), spot) // nobody is there

  const was = { player: 'p', criterion: '', drill: 'd', side: '', tries: '111', by: 'me' }
  const phone = { ...pads, state: { me: { id: 'me' } }, series: { t: was }, formName: 'As written' }
  const own = (drill = { id: '', drill: 'd' }) => phone.mine({ id: 'p' }, drill, '')
  assert.equal(own(), was)
  phone.formName = 'To ten'
  assert.equal(own(), undefined)
  phone.series.u = { ...was, form: 'To ten', tries: '1' }
  assert.equal(own().tries, '1')
  assert.equal(phone.formCounted({ id: 'criterion' }), '') // a criterion is the same in every form
})

test('the boards of a game are the sides that play, area by area', () => {
  const side = (no, area) => ({ no, area, name: 'ABCDEF'[no], names: [], path: '-' })
  const match = {
    block: 3,
    sides: [side(0, 1), side(1, 1), side(2, 2), side(3, 2), { no: -1, area: 2, name: 'With both sides' }],
  }
  const taps = (key) => ({ '103 0.0 s0 s1': '11010', '103 0.0 s2': '1110', '103 0.0 s3': '01' })[key] || ''
  const free = boardsOf(match, 103, { kind: '' }, taps)
  assert.deepEqual(
    free.map((b) => [b.name, b.court, b.figure, b.done]),
    [
      ['A and B', 'area 1', '3 : 2', false],
      ['C and D', 'area 2', '0 : 0', false],
    ],
  )
  const [raced] = boardsOf(match, 103, { kind: 'race', n: 3 }, taps)
  assert.deepEqual([raced.done, raced.sub], [true, 'first to 3 · A win'])
  const scored = boardsOf(match, 103, { kind: 'score', n: 3, minus: 1, bonus: 2 }, taps)
  assert.deepEqual(
    scored.map((b) => [b.name, b.figure, b.better]),
    [
      ['A', 0, 3],
      ['B', 0, 3],
      ['C', 2, 3],
      ['D', 1, 3],
    ],
  )
})

test('a pair goes on from the rung that one of the two had reached before', () => {
  const at = (s) => new Date(1e12 + 1000 * s).toISOString()
  const taps = (key, from, tries) => [key, [...tries].map((t, i) => ({ good: t === '1', at: at(from + i) }))]
  const points = new Map([taps('0 1.0 a b', 0, '111'), taps('0 1.1 b c', 10, '1'), taps('1 1.0 a d', 0, '111111')])
  assert.equal(begins(points, '0 1.0 a b', 7), 1)
  assert.equal(begins(points, '0 1.1 b c', 7), 3) // one, then two
  assert.equal(begins(points, '0 1.1 a d', 7), 3) // at another place it counts for nothing
  assert.equal(begins(points, '0 1.2 c e', 7), 3)
  assert.equal(sameID('x 1'), sameID('x 1'))
  assert.notEqual(sameID('x 1'), sameID('x 2'))
  assert.match(sameID('x 1'), /^[0-9a-f]{8}-[0-9a-f]{4}-8[0-9a-f]{3}-a[0-9a-f]{3}-[0-9a-f]{12}$/)
})
