// What phone and big screen share in the hall: the state from the server and from this device, the clock that every device agrees on, and who is where.
import { Kept, sweep } from './kept.js'
import { Offset, fold, index, interval, roundShown } from './run.js'
import { Signal } from './sound.js'
import { games } from './court/games.js'
import { gates } from './court/gates.js'
import { pairs } from './court/pairs.js'
import { turns } from './court/turns.js'

export const minutes = (ms) => {
  const s = Math.max(0, Math.ceil(ms / 1000))
  return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
}
export const json = { Accept: 'application/json', 'Content-Type': 'application/json' }

// mix makes one component of parts; what they work out stays worked out anew each time.
export const mix = (...parts) =>
  parts.reduce((all, p) => Object.defineProperties(all, Object.getOwnPropertyDescriptors(p)), {})

// timeIn writes the hour and minute of a zone; making such a writer costs as much as a hundred times written.
const writers = new Map()
const timeIn = (timeZone) => {
  if (!writers.has(timeZone))
    writers.set(timeZone, new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }))
  return writers.get(timeZone)
}

const short = 90 // seconds: in what is over so soon a word must not stand over the names
const notIn = -2 // in a group's route: the round's stations are for the groups of another deal

// take puts what changed elsewhere into the state: things with an id once, the newest word about a player last.
export function take(state, d) {
  const put = (list, items, same = (a, b) => a.id === b.id) => {
    for (const n of items || []) {
      const i = window.Alpine.raw(list).findIndex((o) => same(o, n)) // looked through as it is: watching each of thousands takes long
      if (i < 0) list.push(n)
      else if (!(list[i].revision > n.revision)) list[i] = n
    }
  }
  put(state.marks, d.marks)
  put(state.tallies, d.tallies)
  put(state.events, d.events)
  put(state.keys, d.keys, (a, b) => a.player === b.player && a.key === b.key)
  put(state.notes, d.notes)
  put(state.climbs, d.climbs)
  put((state.crossings ||= []), d.crossings)
  put((state.feedback ||= []), d.feedback)
  put((state.points ||= []), d.points)
  put(state.looked, d.looked, (a, b) => a.player === b.player && a.by === b.by)
  for (const s of d.said || []) {
    const p = state.players.find((q) => q.id === s.player)
    if (p) Object.assign(p, { said: s.state, minute: s.minute, no: s.no })
  }
}

// What the server alone changes comes as a whole: it is frozen, and so read as it is instead of being watched thing by
// thing.
const whole = [
  'segments',
  'stations',
  'tasks',
  'groups',
  'criteria',
  'matches',
  'pairings',
  'cycles',
  'ladders',
  'look',
]
const freeze = (v) => {
  if (v && typeof v === 'object') Object.values(Object.freeze(v)).forEach(freeze)
}
export function steady(state) {
  for (const k of whole) freeze(state[k])
  return state
}

// wordsOf is a state in words but for what passes with time, to tell whether one differs from another.
const wordsOf = (state) => JSON.stringify({ ...state, now: 0, over: 0 })

// found looks a long list up by a word of each item, or by several; what it found stays until something changed. Such lists are read as they are, without
// watching each of their thousand items.
const kept = new Map()
export function found(name, list, beat, word) {
  const raw = window.Alpine.raw(list),
    was = kept.get(name)
  if (was && was.raw === raw && was.length === list.length && was.beat === beat) return was.by
  const by = new Map()
  for (const i of raw) {
    for (const w of [].concat(word(i))) {
      if (!by.has(w)) by.set(w, [])
      by.get(w).push(i)
    }
  }
  kept.set(name, { raw, length: raw.length, beat, by })
  return by
}

const clockAndPlaces = {
  state: null,
  now: 0,
  online: true,
  lastSegment: -1,
  flash: '',
  flashUntil: 0,
  spoken: '',
  ticked: 0,
  offset: null,
  signal: null,

  begin() {
    this.online = navigator.onLine
    this.state = steady(JSON.parse(document.getElementById('state').textContent))
    this.kept = new Kept(this.state.me.id, this.state.session, this.state.bookedEnd)
    this.offset = new Offset(Number(localStorage.getItem('gruppo-offset')) || this.state.now - Date.now())
    sweep(this.state.me.id, Date.now() + this.offset.ms).catch(() => {}) // a browser that keeps nothing has nothing to forget
    this.signal = new Signal(localStorage)
    this.tick()
    this.lastSegment = this.segment
    setInterval(() => this.tick(), 200)
    this.setClock()
    setInterval(() => this.setClock(), 30000)
    this.listen()
    addEventListener('online', () => {
      this.online = true
      this.refresh()
    })
    addEventListener('offline', () => {
      this.online = false
    })
    addEventListener('pagehide', () => this.keeping && this.keepNow())
    document.addEventListener('visibilitychange', () => {
      if (!document.hidden) {
        this.refresh()
        this.stayAwake()
      }
    })
    this.stayAwake()
    navigator.serviceWorker?.register('/sw.js').catch(() => {
      /* the open page goes on without */
    })
  },

  // restore takes over what is kept here, where the page itself is an old one out of the store while there is no network.
  async restore() {
    const kept = await this.kept.value(this.keptAs).catch(() => null)
    if (!kept) return
    const { keptAt, ...state } = kept
    if (!(keptAt >= this.state.now)) return // a page out of the store may be newer than what the open one was made of, and lack what was sent since
    if (!localStorage.getItem('gruppo-offset')) this.offset = new Offset(0)
    this.state = steady(state)
    this.tick()
  },
  keptAs: 'state',

  // -- the server

  async setClock() {
    for (let i = 0; i < 4; i++) {
      const sent = Date.now()
      try {
        const r = await fetch('/time', { cache: 'no-store' })
        if (r.ok) this.offset.add(sent, Number(await r.text()), Date.now())
      } catch {
        return
      }
    }
    localStorage.setItem('gruppo-offset', String(this.offset.ms))
  },

  listen() {
    const source = new EventSource('/courtside/' + this.state.session + '/live')
    source.onmessage = (e) => {
      this.online = navigator.onLine // an answer that was under way says nothing of now
      if (e.data[0] === '{') this.hear(JSON.parse(e.data))
      else this.refresh() // also at hello: what changed while the page was loading, or the stream away, was told to nobody
    }
    source.onerror = () => {
      this.online = false
    }
  },

  // hear takes in what changed elsewhere.
  hear(d) {
    for (const read of Object.values(this.reads)) read.heard.push(d)
    take(this.state, d)
    this.took()
  },
  // refresh reads the whole state.
  async refresh() {
    try {
      await this.whole(this.readState())
    } catch {
      this.online = false
    }
  },
  async readState() {
    const r = await fetch('/courtside/' + this.state.session + '/state', { headers: json })
    if (r.ok) return r.json()
    this.says = (await r.json().catch(() => ({}))).says || ''
    if (r.status === 403) await this.forget() // access has ended
  },
  // whole takes over a state that was asked for, when it comes. What arrived from here or was heard meanwhile may not be in it, and is laid over it; of
  // several on their way, the one that was asked for last stands.
  async whole(asking) {
    const no = ++this.asks
    this.reads = { ...this.reads, [no]: { sent: [], heard: [] } }
    try {
      const state = await asking
      if (!state) return
      this.online = navigator.onLine
      if (no < this.newest) return
      this.newest = no
      if (wordsOf(state) === wordsOf(window.Alpine.raw(this.state))) {
        Object.assign(this.state, { now: state.now, over: state.over }) // nothing else differs: nothing is drawn again
        this.keepState()
        return
      }
      this.state = steady(state)
      const { sent, heard } = this.reads[no]
      for (const item of sent) this.lay(item)
      for (const d of heard) take(this.state, d)
      this.took()
      this.keepNow() // it comes seldom, and the phone may be opened again within the second
    } finally {
      const { [no]: _, ...others } = this.reads
      this.reads = others
    }
  },
  took() {
    this.state = this.only(this.state)
    this.beat++
    this.merge()
    this.keepState()
  },
  asks: 0,
  newest: 0,
  reads: {}, // by number: what arrived and what was heard while a state is on its way
  only: (state) => state,
  merge() {},
  landed: [], // what has arrived, and is kept until the state that shows it is: a phone that is opened again without network has one or the other
  arrived(items) {
    this.landed.push(...items)
    this.outbox.land(items).catch(() => {}) // without room it would be sent once more
    this.keepState()
  },
  keepState() {
    // at most once a second: it is large
    this.keeping ||= setTimeout(() => this.keepNow(), 1000)
  },
  keepNow() {
    clearTimeout(this.keeping)
    this.keeping = 0
    const gone = window.Alpine.raw(this.landed).splice(0)
    const letGo = () => gone.length && this.outbox.letGo(gone).catch(() => {}) // a browser without a database keeps nothing
    if (this.ended && !this.state.mayRun && !this.waiting) {
      // a helper's phone forgets the names when it is over and all has arrived
      this.forget()
      letGo()
      return
    }
    this.kept
      .keep(this.keptAs, { ...window.Alpine.raw(this.state), keptAt: this.moment() })
      .catch(() => {
        /* full: the page in the store is older, but there */
      })
      .finally(letGo)
  },
  forget() {
    window.caches?.delete('gruppo-hall')
    return this.kept.forget().catch(() => {})
  },
  keeping: 0,
  beat: 0, // beat counts what changed in lists that are looked up through found()

  async stayAwake() {
    try {
      this.lock = await navigator.wakeLock?.request('screen')
    } catch {
      /* the phone decides */
    }
  },

  // -- the clock

  // turnStep is which turn of the segment is on, and how many seconds it has left; where its turns are not known, each takes so many seconds.
  turnStep(each) {
    const now = this.at.pausedAt || this.now,
      { steps = [], first = [] } = this.at
    const from = first[this.segment],
      to = first[this.segment + 1] ?? steps.length - 1
    if (!this.current.turns?.length) {
      const seconds = Math.max(0, (now - this.at.bounds[this.segment]) / 1000),
        n = each ? Math.floor(seconds / each) : 0
      return { n, left: (n + 1) * each - seconds, last: false }
    }
    let j = from
    while (j + 1 < to && steps[j + 1] <= now) j++
    return { n: j - from, left: Math.max(0, (steps[j + 1] - now) / 1000), last: j + 1 >= to }
  },
  get run() {
    return fold(window.Alpine.raw(this.state).segments, window.Alpine.raw(this.state).events)
  },
  get segment() {
    return this.at.segment
  },
  // moment is now by the clock that the devices agree on; `now` is what is shown of it, and moves with its seconds.
  moment() {
    return Date.now() + this.offset.ms
  },
  stamp() {
    return new Date(this.moment()).toISOString()
  },
  tick() {
    const now = this.moment(),
      t = this.run,
      s = index(t.bounds, t.pausedAt || now),
      round = roundShown(this.state.segments, s),
      same = [t.started, t.ended, t.pausedAt, s, round, ...t.steps].join(),
      second = Math.floor((now - (t.bounds[s] || 0)) / 1000)
    if (this.flash && now > this.flashUntil) this.flash = ''
    this.followGates()
    if (same === this.atSame && second === this.second) return
    this.now = now
    this.second = second
    if (same !== this.atSame) {
      // everything on the page hangs on it, so it changes only when it does
      this.atSame = same
      this.at = { ...t, segment: s, round }
    }
    if (this.going && this.lastSegment !== s && this.lastSegment >= 0) {
      this.segmentOver(this.lastSegment)
      this.follow(this.lastSegment)
      this.moved()
    }
    this.lastSegment = this.going ? s : -1
    this.followTurns()
    this.followSwaps()
    this.followPairs()
    const left = Math.ceil(this.msLeft / 1000)
    if (this.running && left <= 3 && left > 0 && left !== this.ticked) this.signal.tick()
    this.ticked = left
  },
  segmentOver() {}, // a segment is over
  follow() {}, // and another has begun
  at: { segment: 0, round: 1, started: false, ended: false, bounds: [], steps: [], first: [], pausedAt: 0 },
  get started() {
    return this.at.started
  },
  get ended() {
    return this.at.ended
  },
  get current() {
    return (
      this.state.segments[this.segment] || { kind: 'over', label: 'The plan is over', round: 0, seconds: 0, what: '' }
    )
  },
  get over() {
    return this.started && this.segment >= this.state.segments.length
  },
  get paused() {
    return this.at.pausedAt > 0 && !this.ended
  },
  get going() {
    return this.started && !this.ended
  },
  get running() {
    return this.going && !this.paused
  },
  get phase() {
    if (!this.started || this.ended) return 'idle'
    if (this.over) return 'over'
    return this.current.what === 'break' ? 'drink' : this.current.kind
  },
  get msLeft() {
    if (!this.started) return (this.state.segments[0]?.seconds || 0) * 1000
    if (this.over || this.ended) return 0
    return this.at.bounds[this.segment + 1] - (this.at.pausedAt || this.now)
  },
  get left() {
    return minutes(this.msLeft)
  },
  // shown is the clock everybody looks at: in intervals and with partners that of the turn
  get shownTime() {
    if (!this.running) return this.left
    return this.cycle ? this.turnLeft : this.byTurns ? this.pairLeft : this.left
  },
  get done() {
    if (!this.going || this.over) return 0
    const from = this.at.bounds[this.segment],
      to = this.at.bounds[this.segment + 1]
    return to > from ? Math.max(0, Math.min(100, 100 * (1 - this.msLeft / (to - from)))) : 0
  },
  get rounds() {
    return Math.max(0, ...this.state.segments.map((s) => s.round))
  },
  get round() {
    return this.at.round
  },
  get phaseWord() {
    if (this.ended) return 'Ended'
    if (!this.started) return 'Ready'
    if (this.paused) return 'Paused'
    if (this.over) return 'Time is up'
    if (this.cycle) return this.turnHead
    if (this.byTurns) return this.pairHead
    return { work: 'Work', change: 'Change', brief: 'Explain', drink: 'Drink' }[this.phase] || this.current.label
  },
  get thenText() {
    if (!this.started) return 'first: ' + (this.state.segments[0]?.label || 'nothing planned yet')
    const n = this.state.segments[this.segment + 1]
    if (this.over || this.ended) return ''
    if (!n) return 'then the end'
    if (n.kind === 'change') return 'then ' + minutes(n.seconds * 1000) + ' to change'
    return 'then ' + n.label + ', ' + minutes(n.seconds * 1000)
  },
  clockTime(ms) {
    return timeIn(this.state.zone).format(ms)
  },

  // moved signals what begins: by sound, by vibration, and over the whole screen.
  moved() {
    const change = this.phase === 'change'
    this.spoken = change ? 'Change' : this.phase === 'work' ? 'Round ' + this.current.round + ', work' : this.phaseWord
    const go = this.phase === 'work' || this.phase === 'turns'
    this.flash = change ? 'CHANGE' : go ? 'GO' : this.over ? 'TIME' : this.phaseWord.toUpperCase()
    this.flashUntil = this.moment() + (this.current.seconds < short ? 1000 : 4000)
    this.signal.give(change, this.callOf(change))
  },
  // callOf is the signal in words: who goes where, or what begins.
  callOf(change) {
    if (change) return this.moves.map((m) => m.name + ' to ' + m.to.replace(/^\d+ /, '')).join('. ')
    return this.phase === 'work' ? 'Go' : this.over ? 'Time' : this.phaseWord
  },
  get flashClass() {
    const longest = Math.max(...this.flash.split(' ').map((w) => w.length)) // so large that it fits the screen
    return 'court-flash at-' + this.phase + (longest > 7 ? ' is-longest' : longest > 4 ? ' is-long' : '')
  },
  hideFlash() {
    this.flash = ''
  },

  // -- who is where

  // groupsNow are those that come to the stations of this round: a session may deal its players in two ways.
  get groupsNow() {
    return this.state.groups.filter((g) => g.route[this.round - 1] !== notIn)
  },
  groupAt(g, round) {
    const s = this.state.stations[g.route[round - 1]]
    return s ? { ...s, name: (s.own?.find((o) => o.group === this.state.groups.indexOf(g))?.task || s).name } : null
  },
  stationNo(g, round) {
    return g.route[round - 1] + 1
  },
  get moves() {
    const groups = this.state.stations.length ? this.groupsNow : [] // nobody rests from stations that there are none of
    return groups.map((g) => {
      const s = this.groupAt(g, this.round),
        n = this.groupAt(g, this.round + 1)
      return {
        name: g.name,
        path: g.path,
        cls: 'shape is-' + g.shape,
        station: s ? s.name : 'rests',
        to: s ? this.stationNo(g, this.round) + ' ' + s.name : 'rests',
        then: [undefined, notIn].includes(g.route[this.round]) ? '' : 'then ' + (n ? n.name : 'rest'),
      }
    })
  },
  // turn is where work and rest stand in a drill that prescribes them.
  turn(s) {
    if (!s || !this.running || this.phase !== 'work') return null
    return interval(s.work, s.rest, (this.now - this.at.bounds[this.segment]) / 1000)
  },
}

export const hall = mix(clockAndPlaces, turns, games, gates, pairs)
