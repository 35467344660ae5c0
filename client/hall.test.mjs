// What phone and big screen share, without a page: what the state takes in, what the clock says, who goes where, what is heard.
import assert from 'node:assert/strict'
import { readdirSync } from 'node:fs'
import { test } from 'node:test'

globalThis.window = { Alpine: { raw: (x) => x } }
let shaken = 0
globalThis.navigator = { vibrate: () => shaken++ }
const { found, hall, mix, steady, take } = await import('./hall.js')
const { merged, sending } = await import('./court/sending.js')
const { tapping } = await import('./court/tapping.js')
const { Outbox } = await import('./outbox.js')
const { names, Signal } = await import('./sound.js')

const empty = () => ({
  players: [{ id: 'p', said: '', minute: 0, no: '' }],
  marks: [],
  tallies: [],
  events: [],
  keys: [],
  notes: [],
  climbs: [],
  looked: [],
})

test('what the server alone changes is read as it is: no part of the page can write on it', () => {
  const s = steady({ ...empty(), stations: [{ name: 'Wall', visits: [0, 1] }], groups: [{ players: ['p'] }] })
  assert.throws(() => (s.stations[0].name = 'Hoops'), TypeError)
  assert.throws(() => s.groups[0].players.push('q'), TypeError)
  take(s, { said: [{ player: 'p', state: 'late', minute: 7, no: '' }] }) // the register is the hall's
  assert.equal(s.players[0].said, 'late')
})

test('what is told twice, or late, is in the state once, as it was last', () => {
  const s = empty()
  take(s, { tallies: [{ id: 't', revision: 2, tries: '110' }], keys: [{ player: 'p', key: 'k', has: true }] })
  take(s, { tallies: [{ id: 't', revision: 1, tries: '11' }] }) // an older one that was overtaken
  take(s, { keys: [{ player: 'p', key: 'k', has: false }], said: [{ player: 'p', state: 'late', minute: 7, no: '' }] })
  assert.deepEqual(s.tallies, [{ id: 't', revision: 2, tries: '110' }])
  assert.deepEqual(s.keys, [{ player: 'p', key: 'k', has: false }])
  assert.deepEqual(s.players, [{ id: 'p', said: 'late', minute: 7, no: '' }])
  take(s, { said: [{ player: 'somebody else', state: 'late' }] }) // of another class
  assert.equal(s.players.length, 1)
})

test('a long list is looked up again only when it changed', () => {
  let asked = 0
  const list = [{ of: 'a' }, { of: 'b' }, { of: 'a' }]
  const by = (beat) => found('test', list, beat, (x) => (asked++, x.of))
  assert.equal(by(1).get('a').length, 2)
  by(1)
  assert.equal(asked, 3)
  list.push({ of: 'a' })
  assert.equal(by(1).get('a').length, 3)
  by(2) // one of them is another now
  assert.equal(asked, 11)
})

const start = Date.UTC(2026, 10, 24, 18)
const segments = [
  { kind: 'block', what: 'together', label: 'Warm-up', round: 0, seconds: 600 },
  { kind: 'brief', what: 'stations', label: 'Explain the stations', round: 0, seconds: 60 },
  { kind: 'work', what: 'stations', label: 'Round 1', round: 1, seconds: 360 },
  { kind: 'change', what: 'stations', label: 'Change', round: 1, seconds: 30 },
  { kind: 'work', what: 'stations', label: 'Round 2', round: 2, seconds: 360 },
  { kind: 'block', what: 'break', label: 'Drink break', round: 0, seconds: 120 },
]
// one plays the page: the clock is at so many minutes, with what the leader did
const at = (minutes, ...events) => {
  const page = mix(hall, {})
  page.heardSignals = []
  Object.assign(page, {
    offset: { ms: start + minutes * 60000 - Date.now() },
    signal: { give: (change) => page.heardSignals.push(change), tick() {} },
    state: {
      ...empty(),
      segments,
      zone: 'Europe/Lisbon',
      events: events.map(([what, m]) => ({ id: what + m, do: what, at: start + m * 60000 })),
      stations: [{ name: 'Wall' }, { name: 'Hoops' }],
      groups: [
        { name: 'Circles', shape: 'circle', path: 'M0 0', route: [0, 1] },
        { name: 'Stars', shape: 'star', path: 'M1 1', route: [-1, 0] },
        { name: 'Elsewhere', shape: 'cross', path: '', route: [-2, -2] },
      ],
    },
  })
  page.tick()
  return page
}

// A server whose answers are as old as the asking: whatever happens meanwhile is not in them.
test('whatever is heard, or arrives from here, while a whole state is on its way is in it all the same', async () => {
  const p = mix(at(4, ['start', 0]), sending, { keepState() {}, keepSeries() {} })
  const kept = { put: async () => {}, drop: async () => {} }
  p.outbox = new Outbox(kept, (items) => p.send(items))
  p.state.me = { id: 'me' }
  const old = structuredClone(p.state)
  let asked = 0
  globalThis.fetch = async (url) => {
    if (url.endsWith('inbox'))
      return {
        ok: true,
        json: async () => ({
          answers: [
            { id: 'pause', kept: true },
            { id: 'odd', kept: false },
          ],
        }),
      }
    const no = ++asked
    await p.outbox.add({ kind: 'clock', id: 'pause', do: 'pause', at: new Date(start + 240000).toISOString() })
    await p.outbox.add({ kind: 'clock', id: 'odd', do: 'change', at: new Date(start + 240000).toISOString() })
    await p.flush()
    p.hear({ said: [{ player: 'p', state: 'late', minute: no, no: '' }], marks: [{ id: 'm' + no }] })
    return { ok: true, json: async () => structuredClone(old) }
  }
  await p.refresh()
  p.tick()
  assert.equal(p.paused, true)
  assert.deepEqual(
    p.state.marks.map((m) => m.id),
    ['m1'],
  )
  assert.equal(p.state.players[0].said, 'late')
  assert.equal(
    p.state.events.some((e) => e.id === 'odd'),
    false,
  ) // it was refused
  assert.equal(asked, 1)

  // of two that are on their way, the one that was asked for last stands, whichever arrives first
  const answers = []
  globalThis.fetch = () =>
    new Promise((answer) => answers.push((state) => answer({ ok: true, json: async () => state })))
  const both = [p.refresh(), p.refresh()]
  answers[1]({ ...structuredClone(old), key: 'newer' })
  answers[0]({ ...structuredClone(old), key: 'older' })
  await Promise.all(both)
  assert.equal(p.state.key, 'newer')
  assert.deepEqual(p.reads, {})
})

// The service worker asks for the page by itself: what it keeps may be from after the page that is open, and from before a tap.
test('a page that is opened again without network shows what was kept last, however old or new the page is', async () => {
  globalThis.localStorage = { getItem: () => '1' }
  const values = {}
  const kept = {
    keep: async (name, value) => (values[name] = structuredClone(value)),
    value: async (name) => values[name],
  }
  const open = (now) => {
    const p = mix(at(4, ['start', 0]), { kept, landed: [] })
    p.state.now = start + now
    return p
  }
  const p = open(60_000)
  p.state.key = 'Knees'
  p.keepState()
  await new Promise((done) => setTimeout(done, 1100))
  for (const [now, key] of [
    [0, 'Knees'],
    [120_000, 'Knees'], // at 18:02, and it was kept at 18:04
    [600_000, ''],
  ]) {
    const again = open(now)
    again.state.key = ''
    await again.restore()
    assert.equal(again.state.key, key)
  }

  // What was asked for is kept at once: who opens the phone again within the second would be shown less than before.
  const soon = open(0)
  globalThis.fetch = async () => ({ ok: true, json: async () => ({ ...soon.state, key: 'Hips' }) })
  await soon.refresh()
  assert.equal(values.state.key, 'Hips')
  delete globalThis.localStorage
})

test('next is the next turn; the exercise is skipped by another button, and ↶ takes the clock back too', async () => {
  const { clock } = await import('./court/clock.js')
  const { back } = await import('./court/back.js')
  const { fold, index } = await import('./run.js')
  const sent = []
  const slots = [0, 30, 60].map((from, i) => ({ from, to: from + 20, time: 1, up: [i], feed: [] }))
  const phone = mix(hall, clock, back, {
    keep: (i) => sent.push(i),
    keepState() {},
    closeRound() {},
    at: null,
    now: 0,
    series: {},
  })
  const began = Date.now() - 5000
  phone.state = {
    mayRun: true,
    marks: [],
    players: [],
    segments: [{ seconds: 90, block: 0, kind: 'turns', what: 'run', turns: [30, 30, 30] }],
    cycles: [{ block: 0, names: ['Ana', 'Bea', 'Cem'], slots, times: 1 }],
    events: [{ id: 'a', do: 'start', at: began }],
  }
  phone.moment = () => Date.now()
  phone.stamp = () => new Date().toISOString()
  phone.tick = () => {
    const t = fold(phone.state.segments, phone.state.events)
    phone.now = Date.now()
    phone.at = { ...t, segment: index(t.bounds, phone.now), round: 1 }
  }
  phone.tick()
  assert.equal(phone.turnUp, 'Ana')
  assert.equal(phone.changeWord, 'Bea now')
  phone.goOn()
  assert.equal(sent.at(-1).do, 'next')
  assert.deepEqual([phone.turnUp, phone.changeWord, phone.backWord], ['Bea', 'Cem now', 'Turn before again'])
  assert.equal(phone.takeBackLabel, 'Take the last tap back: the next turn')
  phone.takeBack()
  assert.equal(sent.at(-1).do, 'undo ' + sent.at(-2).id)
  assert.deepEqual([phone.turnUp, phone.news, phone.canTakeBack], ['Ana', 'Taken back: the next turn.', false])
})

test('when one side is whole the other is next by itself', () => {
  const phone = mix(tapping, {
    keep() {},
    keepState() {},
    keepSeries() {},
    remember() {},
    mine: () => null,
    formCounted: () => '',
    roundHere: 1,
  })
  Object.assign(phone, {
    series: {},
    sides: {},
    station: { drill: 'd' },
    stamp: () => '2026-11-24T18:00:00Z',
    moment: () => 0,
    marksOf: () => [],
  })
  phone.state = { ...empty(), me: { id: 'me' }, criteria: [] }
  const row = {
    player: { id: 'p' },
    side: 'left',
    sides: true,
    key: 'p',
    criterion: { id: 'c', measure: 'makes', of: 1 },
  }
  phone.tap(row, true)
  assert.equal(phone.sides.p, 'right')
  phone.tap({ ...row, criterion: { ...row.criterion, of: 10 }, side: 'right' }, true)
  assert.equal(phone.sides.p, 'right') // not whole yet
})

test('the chip and the line say the same of who was seen, at any time', async () => {
  const { seen } = await import('./court/seen.js')
  const phone = mix(seen, { series: {}, beat: 0, started: true, settled: true })
  phone.state = { ...empty(), session: 's', mayRun: true, me: { id: 'me' } }
  phone.state.players = ['Ada', 'Ben', 'Cem'].map((name) => ({
    id: name,
    name,
    said: name === 'Cem' ? 'left' : 'present',
  }))
  phone.state.points = [{ place: 0, whose: 'Ada Ben', by: 'me' }]
  phone.countSeen()
  assert.deepEqual([phone.seenCount, phone.classText], ['2 of 3', '']) // who has left is not to be looked at
  phone.state.points[0].undone = true
  phone.countSeen()
  assert.deepEqual([phone.seenCount, phone.classText], ['0 of 3', 'Not seen by you: Ada, Ben'])
})

test('a series that was finished is not begun again by an older word of it', () => {
  const phone = Object.assign(mix(tapping, { keep() {}, keepState() {}, keepSeries() {} }), {
    state: { ...empty(), me: { id: 'me' }, criteria: [], tallies: [{ id: 'a', by: 'me', tries: '1', revision: 2 }] },
    stamp: () => '2026-11-24T18:00:00Z',
    moment: () => 0,
    marksOf: () => [],
  })
  phone.series = { a: { ...phone.state.tallies[0] } }
  phone.change('a', '10', true)
  assert.equal(phone.state.marks.length, 1)
  assert.deepEqual(merged(phone.series, phone.state.tallies, [], 'me'), {}) // what was kept by itself may be let go
})

// A phone is looked at again and again: each time it asks for the whole state.
test('what is as it was is not drawn again; what was done or heard here, or has changed there, is', async () => {
  const p = mix(at(4, ['start', 0]), sending, { keepState() {}, keepSeries() {} })
  p.outbox = new Outbox({ put: async () => {}, drop: async () => {} }, async () => [])
  p.state.me = { id: 'me' }
  let there = structuredClone({ ...p.state, now: 1 })
  globalThis.fetch = async () => ({ ok: true, json: async () => structuredClone(there) })
  const again = async () => {
    const was = p.state
    await p.refresh()
    return p.state !== was
  }
  assert.equal(await again(), false)
  there.now = 2
  assert.equal(await again(), false)
  assert.equal(p.state.now, 2)
  p.hear({ notes: [{ id: 'n' }] })
  assert.equal(await again(), true) // what was heard is there, or was taken back since
  p.lay({ kind: 'said', player: 'p', state: 'late' })
  assert.equal(await again(), true)
  assert.equal(p.state.players[0].said, '')
  there = { ...there, key: 'Knees' }
  assert.equal(await again(), true)
  assert.equal(await again(), false)
})

test('before, during and after: the word over the clock, what comes then, and how much is left', () => {
  const words = (p) => [p.phaseWord, p.left, p.thenText]
  assert.deepEqual(words(at(0)), ['Ready', '10:00', 'first: Warm-up'])
  assert.deepEqual(words(at(4, ['start', 0])), ['Warm-up', '6:00', 'then Explain the stations, 1:00'])
  assert.deepEqual(words(at(12, ['start', 0])), ['Work', '5:00', 'then 0:30 to change'])
  assert.deepEqual(words(at(17.25, ['start', 0])), ['Change', '0:15', 'then Round 2, 6:00'])
  assert.deepEqual(words(at(13, ['start', 0], ['pause', 12])), ['Paused', '5:00', 'then 0:30 to change'])
  assert.deepEqual(words(at(24, ['start', 0])), ['Drink', '1:30', 'then the end'])
  assert.deepEqual(words(at(30, ['start', 0])), ['Time is up', '0:00', ''])
  assert.deepEqual(words(at(30, ['start', 0], ['end', 29])), ['Ended', '0:00', ''])
})

test('who goes where, in a change already for the round to come; who is dealt for other stations is not shown', () => {
  const where = (p) => p.moves.map((m) => [m.name, m.to, m.then])
  assert.deepEqual(where(at(12, ['start', 0])), [
    ['Circles', '1 Wall', 'then Hoops'],
    ['Stars', 'rests', 'then Wall'],
  ])
  assert.deepEqual(where(at(17.25, ['start', 0])), [
    ['Circles', '2 Hoops', ''],
    ['Stars', '1 Wall', ''],
  ])
  const none = at(0)
  none.state.stations = []
  for (const g of none.state.groups) g.route = []
  assert.deepEqual(where(none), []) // a plan without stations
})

test('what is shown moves with the seconds of the round, and a tap is at its own moment', () => {
  const p = at(12.001, ['start', 0]),
    shown = p.now,
    start = p.moment()
  let moves = 0
  Object.defineProperty(p, 'now', {
    get: () => shown,
    set() {
      moves++
    },
  })
  for (let ms = 0; ms < 3000; ms += 200) {
    p.offset.ms += 200
    p.tick()
  }
  assert.equal(moves, 3) // of fifteen looks at the clock
  assert.ok(Date.parse(p.stamp()) - start >= 2999)
})

test('what begins is heard once, and flashes as large as its longest word allows', () => {
  const p = at(10.99, ['start', 0])
  assert.deepEqual(p.heardSignals, []) // it came by the door in the middle
  p.offset.ms += 1000
  p.tick()
  p.tick()
  assert.deepEqual([p.flash, p.flashClass, p.heardSignals], ['GO', 'court-flash at-work', [false]])
  p.offset.ms += 360000
  p.tick()
  assert.deepEqual([p.flash, p.heardSignals], ['CHANGE', [false, true]])
  assert.equal(p.flashClass, 'court-flash at-change is-long')
  p.offset.ms += 5000
  p.tick()
  assert.equal(p.flash, '')
})

test('a signal: kept on this phone, a change twice, and a browser without sound is no reason to stop', () => {
  const kept = { 'gruppo-signal': '{"name":"a drum that was taken out","volume":0.5}' }
  const storage = { getItem: (k) => kept[k] ?? null, setItem: (k, v) => (kept[k] = v) }
  const s = new Signal(storage)
  assert.deepEqual([s.name, s.volume, s.buzz], ['whistle', 0.5, true])
  s.give(true) // no AudioContext here
  assert.equal(shaken, 1)
  let tones = 0
  const part = () => ({ connect: (x) => x, start: () => tones++, stop() {}, gain: ramp(), frequency: ramp() })
  const ramp = () => ({ setValueAtTime() {}, linearRampToValueAtTime() {}, exponentialRampToValueAtTime() {} })
  globalThis.AudioContext = class {
    currentTime = 0
    createOscillator = part
    createGain = part
  }
  for (const [name, each] of [
    ['bell', 2],
    ['whistle', 2],
    ['horn', 2],
    ['beeps', 3],
  ]) {
    assert.ok(names.includes(name))
    s.name = name
    tones = 0
    s.give(false)
    assert.equal(tones, each, name)
    s.give(true)
    assert.equal(tones, 3 * each, name + ' twice')
  }
  s.volume = 0
  tones = 0
  s.give(true)
  s.tick()
  assert.equal(tones, 0)
  s.keep()
  assert.deepEqual(JSON.parse(kept['gruppo-signal']), { name: 'beeps', volume: 0, buzz: true, speaks: false })
})

test('no part of a page has a thing of the name of another: the later would take its place', async () => {
  const dir = new URL('./court/', import.meta.url)
  const owner = new Map()
  const { hall } = await import('./hall.js')
  const parts = [['hall.js', hall]]
  for (const file of readdirSync(dir)) {
    if (['games.js', 'gates.js', 'pairs.js', 'turns.js'].includes(file)) continue // they are in hall
    for (const part of Object.values(await import(new URL(file, dir))))
      if (part && typeof part === 'object' && !Array.isArray(part)) parts.push([file, part])
  }
  const meant = ['segmentOver', 'follow', 'merge'] // a page's own, in the place of one that does nothing
  const twice = []
  for (const [file, part] of parts)
    for (const name of Object.keys(Object.getOwnPropertyDescriptors(part))) {
      if (owner.has(name) && !meant.includes(name)) twice.push(name + ': ' + owner.get(name) + ' and ' + file)
      owner.set(name, file)
    }
  assert.deepEqual(twice, [])
})
