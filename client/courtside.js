// The phone in the hall: register, clock, pads, keys, who was seen, notes. Taps are kept on the device until they have arrived.
import { found, hall, json, minutes, mix } from './hall.js'
import { older } from './kept.js'
import { Outbox, newID } from './outbox.js'
import { circuit, degrees, pairs, race, rungs, runs, team, teach } from './pads.js'
import { names as soundNames } from './sound.js'

const less = ['faults', 'time', 'tries'] // measures where less is better
const foot = 0.3048
const beside = 100 // blocks beside the stations are numbered from here
const gone = ['absent', 'away', 'left']
const dayOf = (date) =>
  new Date(date + 'T12:00Z').toLocaleDateString('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })
const first = (name) => name.split(' ')[0]

// -- what goes to the server and waits here until it has arrived

const sending = {
  waiting: 0,
  says: '',
  async post(what, body) {
    const r = await fetch('/courtside/' + this.state.session + '/' + what, {
      method: 'POST',
      headers: json,
      body: JSON.stringify(body),
    })
    const answer = await r.json().catch(() => ({}))
    if (!r.ok) {
      if (r.status < 500) this.says = answer.says || 'The server did not take this.'
      throw Object.assign(new Error(answer.says || 'The server did not take this.'), { status: r.status })
    }
    return answer
  },
  async ask(what, body) {
    // what only the server can work out
    this.says = ''
    try {
      await this.flush()
      this.state = await this.post(what, body)
      this.online = true
      this.merge()
      this.keepState()
      return true
    } catch {
      this.says = this.says || 'No connection: everything stays as it was. Try again when you are back.'
      return false
    }
  },
  async flush() {
    if (!this.outbox.waiting) return
    const r = await this.outbox.flush()
    this.online = r.sent || (this.online && this.outbox.sending)
    if (r.refused.length) this.says = r.refused[0].why
    this.waiting = this.outbox.waiting
  },
  keep(item) {
    this.outbox.add({ at: new Date(this.now).toISOString(), ...item }).then(() => this.sayFull())
    this.waiting = this.outbox.waiting
    this.flush()
  },
  sayFull() {
    if (this.outbox.full)
      this.says = 'This phone has no room left: what you tap is kept only while this page is open, so leave it open.'
  },
  keepSeries() {
    this.kept.keep('series', window.Alpine.raw(this.series)).catch(() => {}) // what waits is kept by itself
  },
  // merge shows what is kept here, and takes over the series of this person from their other devices where they are newer.
  merge() {
    for (const t of window.Alpine.raw(this.state.tallies) || []) {
      const own = this.series[t.id]
      if (
        t.by === this.state.me.id &&
        !t.done &&
        (!own || own.revision < t.revision) &&
        !this.outbox.items.some((i) => i.id === t.id && i.done)
      )
        this.series[t.id] = { ...t, kind: 'tally' }
      else if (t.done) delete this.series[t.id]
    }
    for (const i of this.outbox.items) {
      const p = i.kind === 'said' && this.state.players.find((q) => q.id === i.player)
      if (p) Object.assign(p, { said: i.state, minute: i.minute || 0, no: i.no || '' })
      if (i.kind === 'clock' && !this.state.events.some((e) => e.id === i.id))
        this.state.events.push({ id: i.id, do: i.do, at: Date.parse(i.at) })
      if (i.kind === 'has') this.putKey(i)
      if (i.kind === 'looked' && !this.state.looked.some((l) => l.player === i.player && l.by === i.by))
        this.state.looked.push(i)
      if (i.kind === 'climb' && !this.state.climbs.some((k) => k.id === i.id))
        this.state.climbs.push({ ...i, by: this.state.me.id })
    }
    this.keepSeries()
  },
  get syncText() {
    if (this.waiting) return this.waiting + ' waiting here'
    return this.online ? 'in step' : 'no connection'
  },
  // notArrived is said before the session is closed.
  get notArrived() {
    const who = [
      ...new Set(
        this.outbox?.items.map((i) => this.state.players.find((p) => p.id === i.player)?.name).filter(Boolean),
      ),
    ].map(first)
    const quiet = (this.state.heard || [])
      .filter((h) => this.now - h.at > 90000)
      .map((h) => first(h.name) + ' (' + Math.round((this.now - h.at) / 60000) + ' min)')
    return [
      this.waiting
        ? this.waiting +
          ' not arrived from this phone' +
          (who.length ? ': ' + who.slice(0, 6).join(', ') : '') +
          '. They stay here and go when there is network.'
        : '',
      quiet.length
        ? 'Not in touch: ' + quiet.join(', ') + '. What waits on their phones is taken when they are back.'
        : '',
    ].filter(Boolean)
  },
}

// -- the clock's buttons

const clock = {
  asking: false,
  more: false,
  early: false,
  startIt() {
    if (this.otherTime) this.early = true
    else this.steer('start')
  },
  notYet() {
    this.early = false
  },
  // otherTime says when it is planned for, where that is not about now.
  get otherTime() {
    return this.now < this.state.starts - 2 * 3600000 || this.now > this.state.bookedEnd + 3600000
      ? this.state.when
      : ''
  },
  steer(what) {
    this.asking = this.early = false
    if (!['back', 'less'].includes(what)) this.more = false // these are pressed again
    this.says = ''
    if (what === 'end') this.closeRound(() => true)
    const item = { kind: 'clock', id: newID(), do: what, at: new Date(this.now).toISOString() }
    this.state.events.push({ id: item.id, do: what, at: Math.floor(this.now) })
    this.tick()
    this.keep(item)
    this.keepState()
    if (what === 'start' && this.tab === 'register') this.tab = this.tabOf(this.current)
  },
  get changeWord() {
    return this.current.kind === 'work' ? 'Change now' : 'Next now'
  },
  get isOver() {
    return this.ended
  },
  get happened() {
    return '/sessions/' + this.state.session + '/run'
  },
  get mayEnd() {
    return this.state.mayRun && this.going && !this.over
  },
  askEnd() {
    this.asking = !this.asking
    this.more = false
  },
  closeMore(e) {
    if (!e.target.closest('[aria-expanded], .court-flash')) this.more = false
  },
  toggleMore() {
    this.more = !this.more
    this.asking = false
  },
  get lateText() {
    // whole minutes past the booked end, as it runs now
    if (!this.going || !this.state.mayRun) return ''
    const end = this.at.bounds[this.at.bounds.length - 1],
      over = end - this.state.bookedEnd
    return over > 30000
      ? 'It ends at ' + this.clockTime(end) + ', ' + minutes(over) + ' too late.' + this.givesText
      : ''
  },
  get lateMinutes() {
    return Math.round((this.at.bounds[this.at.bounds.length - 1] - this.state.bookedEnd) / 60000)
  },
  get givesText() {
    if (this.state.gives.length) return ' What gives?'
    const answered = this.state.over >= 30 // the server has heard that it is late
    return answered ? ' Nothing that is left can give so much: end it on time.' : ''
  },
  give(words) {
    this.ask('give', { words })
  },
  get signalName() {
    return this.signal?.name
  },
  setSound(name) {
    this.signal.name = name
    this.signal.keep()
    this.signal.give(false)
    this.soundKept++
  },
  setVolume(e) {
    this.signal.volume = Number(e.target.value) / 100
    this.signal.keep()
    this.soundKept++
  },
  toggleBuzz() {
    this.signal.buzz = !this.signal.buzz
    this.signal.keep()
    this.soundKept++
  },
  soundKept: 0,
  get volume() {
    return this.soundKept >= 0 ? Math.round(100 * (this.signal?.volume ?? 0)) : 0
  },
  get buzz() {
    return this.soundKept >= 0 && Boolean(this.signal?.buzz)
  },
  get sounds() {
    return this.soundKept >= 0 ? soundNames.map((n) => ({ name: n, on: n === this.signal?.name })) : []
  },
}

// -- tabs and the station

const place = {
  tab: 'register',
  get back() {
    return this.state.mayRun ? '/sessions/' + this.state.session : '/'
  },
  get whatIf() {
    return '/sessions/' + this.state.session + '/what-if?back=courtside'
  },
  get doorLink() {
    return '/courtside/' + this.state.session + '/door'
  },
  get hallLink() {
    return '/courtside/' + this.state.session + '/hall'
  },
  get ownTab() {
    const own = this.state.stations.findIndex((s) => s.leader === this.state.me.id)
    return own >= 0 ? own : this.state.stations.length ? 0 : this.state.mayRun ? 'register' : this.tabOf(this.current)
  },
  // tabOf is where a segment's own task is: a station, the look, the ladder, or what everybody does.
  tabOf(s) {
    if (s.what === 'stations') return this.ownTab
    if (s.what === 'look' && this.hasLook) return 'look'
    if (s.what === 'ladder' && this.hasLadder) return 'ladder'
    return this.state.tasks.some((t) => t.block === s.block) ? beside + s.block : this.state.mayRun ? 'register' : ''
  },
  get nowTab() {
    const t = this.going && !this.over ? this.tabOf(this.current) : ''
    return t >= beside ? t : ''
  },
  follow(last) {
    // whoever was at what is over now goes on to what has begun
    const was = this.state.segments[last]
    if (
      !this.over &&
      was &&
      (typeof this.tab === 'number' || this.tab === this.tabOf(was)) &&
      this.tabOf(was) !== this.tabOf(this.current)
    )
      this.show(this.tabOf(this.current))
  },
  spotOf(tab) {
    return tab >= beside ? this.state.tasks.find((t) => t.block === tab - beside) : this.state.stations[tab]
  },
  get stationTabs() {
    return this.state.stations.map((s, i) => ({
      index: i,
      no: i + 1,
      label: 'Station ' + (i + 1) + ': ' + s.name,
      own: s.leader === this.state.me.id,
    }))
  },
  get hasLook() {
    return this.state.mayRun && (this.state.look || []).length > 0
  },
  get hasLadder() {
    return (this.state.ladders || []).length > 0
  },
  show(tab) {
    this.tab = tab
    this.says = ''
    this.chosen = ''
    scrollTo(0, 0)
  },
  get station() {
    return typeof this.tab === 'number' ? this.spotOf(this.tab) || null : null
  },
  get everybody() {
    return this.tab >= beside
  },
  get task() {
    return this.station || { name: '', target: '' }
  }, // the page still asks while the station is taken away
  get here() {
    if (this.everybody) return { name: 'Everybody', path: '', shape: '', players: this.state.players.map((p) => p.id) }
    const g = this.station && this.station.visits ? this.station.visits[this.round - 1] : -1
    return g >= 0 ? this.state.groups[g] : null
  },
  get hereName() {
    return this.here ? this.here.name : ''
  },
  get herePath() {
    return this.here ? this.here.path : ''
  },
  get hereClass() {
    return 'shape is-' + (this.here ? this.here.shape : '')
  },
  get emptyText() {
    return this.state.groups.length ? 'Nobody is here in this round.' : 'No groups are dealt yet.'
  },
  get cautionText() {
    return (this.station?.cautions || []).join(' · ')
  },
  get setupText() {
    return this.station?.setup || ''
  },
  get writtenText() {
    return this.station?.written ? 'today; the drill says ' + this.station.written : ''
  },
  writeSetup(el) {
    el.innerHTML = this.setupText
  }, // made of Markdown and cleaned by the server
  get hasWhat() {
    return Boolean(this.setupText || this.drawn)
  },
  get drawn() {
    return this.station?.drawn ? '/courtside/' + this.state.session + '/drawing/' + this.tab : ''
  },
  get drawnAlt() {
    return 'Drawing of ' + this.task.name
  }, // in words beside it: the setting up
  get eachText() {
    return this.station?.each ? 'about ' + this.station.each + ' tries each' : ''
  },
  get turnText() {
    const t = this.turn(this.station)
    return t ? (t.work ? 'Go, turn ' + t.turn + ' · ' : 'Rest, next turn in ') + Math.ceil(t.left) + ' s' : ''
  },
  get turnClass() {
    const t = this.turn(this.station)
    return 'court-turn' + (t && t.work ? ' is-go' : '')
  },
  get roundText() {
    const r =
      this.current.kind === 'work' || this.current.kind === 'change'
        ? 'Round ' + this.current.round + ' of ' + this.rounds
        : this.state.name
    return typeof this.tab === 'number' && !this.everybody ? r + ' · station ' + (this.tab + 1) : r
  },
  get nextText() {
    if (!this.station || !this.started || this.ended) return ''
    const g = (this.station.visits || [])[this.round]
    const i = this.state.segments.findIndex((s) => s.kind === 'work' && s.round === this.round + 1)
    if (g === undefined || i < 0) return ''
    return (g >= 0 ? this.state.groups[g].name : 'nobody') + ' at ' + this.clockTime(this.at.bounds[i])
  },
  // forms: easier and harder
  get form() {
    return this.here && !this.everybody
      ? (this.station.forms || [])[this.state.groups.indexOf(this.here)] || null
      : null
  },
  get formName() {
    return this.form ? this.form.name : ''
  },
  get formSays() {
    return this.form ? this.form.says : ''
  },
  get hasEasier() {
    return Boolean(this.form && this.form.easier)
  },
  get hasHarder() {
    return Boolean(this.form && this.form.harder)
  },
  get mayEase() {
    return this.state.mayRun || this.station?.leader === this.state.me.id
  },
  get easierLabel() {
    return 'Easier for ' + this.hereName
  },
  get harderLabel() {
    return 'Harder for ' + this.hereName
  },
  ease(by) {
    this.ask('form', { station: this.tab, group: this.state.groups.indexOf(this.here), by })
  },
}

// -- the register

const register = {
  open: '',
  guestName: '',
  get registerText() {
    const there = this.state.players.filter((p) => ['present', 'late'].includes(p.said)).length
    const open = this.state.players.filter((p) => !p.said).map((p) => first(p.name))
    const text = there + ' of ' + this.state.players.length + ' here'
    return open.length === 0
      ? text
      : text +
          ', not yet: ' +
          open.slice(0, 6).join(', ') +
          (open.length > 6 ? ' and ' + (open.length - 6) + ' more' : '')
  },
  get minute() {
    return Math.max(0, Math.floor((this.now - this.state.starts) / 60000))
  },
  get register() {
    return this.state.players.map((p) => ({
      id: p.id,
      name: p.name,
      stageName: p.stageName,
      limits: p.limits,
      said: p.said,
      player: p,
      open: this.open === p.id,
      moreLabel: p.name + ': left or hurt',
      isHere: p.said === 'present',
      isNot: p.said === 'absent' || p.said === 'away',
      sub: [
        p.guest ? 'guest' : '',
        p.said === 'late' && p.minute
          ? 'came ' + this.clockTime(this.state.starts + p.minute * 60000)
          : p.said === 'left'
            ? 'left ' + (p.minute ? this.clockTime(this.state.starts + p.minute * 60000) : '')
            : p.said === 'hurt'
              ? p.no
                ? 'hurt: no ' + p.no
                : 'hurt: sits out'
              : '',
      ]
        .filter(Boolean)
        .join(' · '),
      before: p.before || [],
    }))
  },
  word(p, word, minute = 0, no = '') {
    const same = p.said === word && p.no === no && word !== 'left'
    Object.assign(p, { said: same ? '' : word, minute: same ? 0 : minute, no: same ? '' : no })
    this.keep({ kind: 'said', id: newID(), player: p.id, state: p.said, minute: p.minute, no: p.no })
    this.keepState()
  },
  get unsaid() {
    return this.state.players.filter((p) => !p.said)
  },
  get allText() {
    return this.unsaid.length === this.state.players.length
      ? 'All here'
      : 'The other ' + this.unsaid.length + ' are here'
  },
  allHere() {
    const who = this.unsaid
    for (const p of who) this.word(p, 'present')
    this.remember({ here: who.map((p) => p.id) })
  },
  say(r, word) {
    this.word(r.player, word, word === 'late' ? this.minute : 0)
  },
  leave(r) {
    this.word(r.player, 'left', this.minute)
    this.open = ''
  },
  hurt(r, no) {
    this.word(r.player, 'hurt', 0, no)
    this.open = ''
    if (r.player.said === 'hurt') this.keepNote(r.player, 'hurt', no ? 'no ' + no : 'sits out')
  },
  openRow(r) {
    this.open = this.open === r.id ? '' : r.id
  },
  setGuest(e) {
    this.guestName = e.target.value
  },
  addGuest() {
    const name = this.guestName.trim()
    if (!name) {
      this.says = 'What is the guest called?'
      return
    }
    this.says = ''
    this.guestName = ''
    this.keep({ kind: 'guest', id: newID(), name })
  },
  // strays are those whose group and the register do not agree.
  get strays() {
    const dealt = new Set(this.state.groups.flatMap((g) => g.players))
    return this.state.players.filter((p) => {
      const out = gone.includes(p.said) || (p.said === 'hurt' && !p.no)
      return dealt.has(p.id) ? out : !out && ['present', 'late'].includes(p.said)
    })
  },
  get straysText() {
    return this.strays.length
      ? this.strays
          .map((p) => first(p.name))
          .slice(0, 4)
          .join(', ') +
          (this.strays.length > 4 ? ' …' : '') +
          ': the groups do not fit any more.'
      : ''
  },
  async redeal() {
    const was = new Set(this.state.groups.flatMap((g) => g.players.map((id) => id + g.name)))
    if (!(await this.ask('redeal', {}))) return
    const moved = this.state.groups.flatMap((g) =>
      g.players
        .filter((id) => !was.has(id + g.name))
        .map((id) => first(this.state.players.find((p) => p.id === id)?.name || '') + ' to ' + g.name),
    )
    this.says = moved.length ? 'Moved: ' + moved.join(', ') + '.' : 'Nobody has to move.'
  },
}

// -- the pads

const pads = {
  series: {},
  pick: {},
  sides: {},
  points: {},
  values: {},
  watches: {},
  downs: {},
  falls: {},
  taps: [],
  lastRow: '',
  chosen: '',
  order: {},
  zonesOn: false,
  noteText: '',
  choices(p) {
    const s = this.station
    const own = this.state.criteria.filter((c) => c.stage === p.stage && (s.criteria || []).includes(c.id))
    const measure = { streak: 'streak', set: 'set', time: 'count', hold: 'hold' }[s.kind] || 'makes'
    const drill = {
      id: '',
      drill: s.drill,
      wording: s.name,
      measure,
      of: s.kind === 'time' ? s.seconds : 0,
      want: s.n,
      points: [],
      standard: s.target,
      target: s,
    }
    if (!s.kind) drill.measure = 'none' // nothing is counted there
    return (!s.kind || ['ladder', 'team', 'race'].includes(s.kind)) && own.length ? own : [...own, drill]
  },
  mine(p, c, side) {
    return Object.values(this.series)
      .filter(
        (t) =>
          t.player === p.id &&
          t.criterion === c.id &&
          (c.id || t.drill === c.drill) &&
          t.side === side &&
          !t.done &&
          t.by === this.state.me.id,
      )
      .pop()
  },
  get present() {
    return this.here
      ? this.here.players
          .map((id) => this.state.players.find((p) => p.id === id))
          .filter((p) => p && !gone.includes(p.said) && !(p.said === 'hurt' && !p.no))
      : []
  },
  // shown are the rows as they are drawn, worked out once for everything that asks for them.
  shown: [],
  // rows stand in the order in which the lead should look: not seen yet and due first; the order of a round stays while it is on.
  get rows() {
    const key = this.tab + ' ' + this.roundHere
    const players = this.present
    if (!this.order[key] && players.length)
      this.order[key] = this.state.leads?.includes(this.state.me.id)
        ? [...players].sort((a, b) => this.worth(b) - this.worth(a)).map((p) => p.id)
        : players.map((p) => p.id)
    const at = (p) => {
      const i = (this.order[key] || []).indexOf(p.id)
      return i < 0 ? 99 : i
    }
    return [...players].sort((a, b) => at(a) - at(b)).map((p) => this.row(p))
  },
  get roundHere() {
    return this.everybody ? 0 : this.round
  },
  // worth is how much it matters to look at a player in this round: whoever was not seen before it, then who has most due; every device of the lead says the same.
  worth(p) {
    return (this.seenBefore(p) ? 0 : 10) + this.dueHere(p).length
  },
  seenBefore(p) {
    const i = this.state.segments.findIndex((s) => s.kind === 'work' && s.round === this.round),
      from = this.at.bounds[i] ?? Infinity,
      me = this.state.me.id
    return (
      this.marksOf(p.id).some((m) => m.by === me && !m.struck && m.at < from) ||
      Object.values(this.series).some((t) => t.player === p.id && t.by === me && t.tries && t.round < this.round)
    )
  },
  dueHere(p) {
    return (p.due || [])
      .map((id) => this.state.criteria.find((c) => c.id === id))
      .filter((c) => c && (!this.station || (this.station.criteria || []).includes(c.id)))
  },
  row(p) {
    const all = this.choices(p)
    const due = all.findIndex((c) => c.id && (p.due || []).includes(c.id))
    const c = all[(this.pick[p.id] ?? Math.max(0, due)) % all.length]
    const side = c.sides ? this.sides[p.id] || 'right' : ''
    const key = [p.id, c.id || c.drill, side].join('|')
    const r = {
      key,
      player: p,
      name: p.name,
      limits: this.station?.aside[p.id] ? [...p.limits, 'here: ' + this.station.aside[p.id]] : p.limits,
      criterion: c,
      choices: all.length,
      what: c.wording,
      side,
      sides: Boolean(c.sides),
      isLast: this.lastRow === key,
      chosen: this.chosen === p.id,
      isDue: Boolean(c.id) && (p.due || []).includes(c.id),
      before: p.before || [],
      chooseLabel: p.name + ': ' + c.wording + '. Another criterion',
      goodLabel: p.name + ': good',
      missLabel: p.name + ': miss',
      keepLabel: p.name + ': keep',
      moreWord: p.name + ': notes',
    }
    const shown = this.marksOf(p.id).filter(
      (m) => m.criterion === c.id && (c.id || m.drill === c.drill) && m.side === side && !m.struck,
    )
    const last = shown[shown.length - 1]
    r.what = c.measure === 'none' ? '' : c.wording
    r.sub =
      c.measure === 'none'
        ? ''
        : c.standard +
          (c.id ? ' · counts for ' + c.stageName : '') +
          (last
            ? ' · ' +
              (last.by === this.state.me.id ? '' : first(last.byName || '') + ': ') +
              last.said +
              (last.meets ? ' ✓' : '')
            : '')
    r.pad =
      {
        makes: 'tries',
        streak: 'tries',
        set: 'tries',
        check: 'points',
        grade: 'grade',
        count: 'count',
        hold: 'watch',
        time: 'watch',
        distance: 'distance',
        angle: 'angle',
        faults: 'faults',
        none: 'none',
      }[c.measure] || 'figure'
    r.value = this.values[key] ?? 0
    r.figure = String(r.value)
    if (r.pad === 'tries') {
      const t = this.mine(p, c, side)
      const n = runs(t ? t.tries : '')
      const tries = n.tried + (n.tried === 1 ? ' try' : ' tries')
      r.figure = String(c.measure === 'makes' ? n.good : n.run)
      r.figureUnder =
        c.measure === 'makes'
          ? 'of ' + n.tried + (c.of ? ' (' + c.of + ')' : c.want ? ', to ' + c.want : '')
          : 'best ' + n.best + ' · ' + tries
      if (c.measure === 'set') {
        const at = circuit(t ? t.tries : '', c.target.n, c.target.of, c.target.back)
        r.figure = String(at.run)
        r.figureUnder = at.done ? 'all done' : 'skill ' + at.skill + ' of ' + c.target.of
      }
      r.canKeep = n.tried > 0
      r.figureLabel = p.name + ': ' + r.figure + ' ' + r.figureUnder + '. Keep this'
      r.zones = this.zonesOn
    } else if (r.pad === 'points')
      r.points = c.points.map((text, i) => ({ text, on: Boolean((this.points[key] || [])[i]) }))
    else if (r.pad === 'grade')
      r.grades = (c.points.length ? c.points : ['', '', '', '']).map((text, i) => ({
        n: i + 1,
        text: i + 1 + (text ? ' ' + text : ''),
        label: p.name + ': grade ' + (i + 1) + (text ? ', ' + text : ''),
      }))
    else if (r.pad === 'count') {
      const end = this.downs[key]
      const left = end ? Math.max(0, Math.ceil((end - Date.now()) / 1000)) : 0
      r.counting = Boolean(end) && left > 0
      r.figureUnder = r.counting ? left + ' s left' : end ? 'time is up' : 'in ' + c.of + ' s'
      r.startLabel = p.name + ': start ' + c.of + ' seconds'
    } else if (r.pad === 'watch') {
      r.timing = Boolean(this.watches[key])
      r.figure = r.value.toFixed(1)
      r.figureUnder = r.timing ? 'stop' : 'start'
    } else if (r.pad === 'distance') {
      r.figure = c.feet ? (r.value / foot).toFixed(1) : r.value.toFixed(2)
      r.figureUnder = c.feet ? 'feet' : 'metres'
      r.by = c.feet ? foot / 2 : 0.05
      r.max = Math.max(2, Math.ceil(c.want * 2))
    } else if (r.pad === 'angle') {
      const a = this.values[key] ?? 90
      r.value = a
      r.figure = a + '°'
      r.figureUnder = c.want + '° ± ' + c.tolerance
      const at = (deg, far) =>
        (60 + far * Math.cos((deg * Math.PI) / 180)).toFixed(1) +
        ' ' +
        (62 - far * Math.sin((deg * Math.PI) / 180)).toFixed(1)
      r.arm = 'M60 62L' + at(a, 52)
      r.wedge = 'M60 62L' + at(c.want - c.tolerance, 46) + 'A46 46 0 0 0 ' + at(c.want + c.tolerance, 46) + 'Z'
      r.angleLabel = p.name + ': angle in degrees'
    } else if (r.pad === 'faults') r.figureUnder = this.falls[key] ? 'faults, ' + this.falls[key] + ' falls' : 'faults'
    else r.figureUnder = c.measure
    r.figureLabel ||=
      p.name + ': ' + r.figure + ' ' + (r.figureUnder || '') + (r.pad === 'watch' ? '. Start or stop the watch' : '')
    r.lessLabel = p.name + ': less'
    r.moreLabel = p.name + ': more'
    if (this.keyNow) {
      r.hasKey = this.hasKey(p.id, this.keyNow)
      r.keyLabel = p.name + ' has the key ' + this.keyNow
    }
    return r
  },
  tap(r, good, zone = 0) {
    const c = r.criterion
    let t = this.mine(r.player, c, r.side)
    if (!t) {
      t = {
        kind: 'tally',
        id: newID(),
        player: r.player.id,
        criterion: c.id,
        drill: c.id ? '' : c.drill,
        from: this.station.drill,
        side: r.side,
        round: this.roundHere,
        tries: '',
        zones: '',
        revision: 0,
        done: false,
        by: this.state.me.id,
      }
      this.series[t.id] = t
    }
    const tries = t.tries + (good ? '1' : '0')
    const zones =
      zone || t.zones
        ? [...(t.zones ? t.zones.split(',') : Array(t.tries.length).fill(0)), good ? zone : 0].join(',')
        : ''
    this.change(t.id, tries, c.measure === 'makes' && c.of > 0 && tries.length >= c.of, zones)
    this.lastRow = r.key
    this.remember({ tally: t.id })
  },
  change(id, tries, done, zones) {
    const t = this.series[id]
    t.tries = tries
    if (zones !== undefined) t.zones = zones
    t.revision++
    t.done = done
    t.at = new Date(this.now).toISOString()
    this.keep({ ...t })
    if (done) {
      this.showMark(t)
      delete this.series[id]
      this.keepState()
    }
    this.keepSeries()
  },
  // showMark shows a finished series at once; the server's own word replaces it.
  showMark(t) {
    if (!t.tries || this.marksOf(t.player).some((m) => m.id === t.id)) return
    const c = this.state.criteria.find((k) => k.id === t.criterion)
    const n = runs(t.tries)
    const streak = c && c.measure === 'streak'
    this.state.marks.push({
      id: t.id,
      at: this.now,
      player: t.player,
      criterion: t.criterion,
      drill: t.drill,
      side: t.side,
      by: this.state.me.id,
      byName: this.state.me.name,
      struck: false,
      said: streak ? n.best + ' in a row' : n.good + ' of ' + n.tried,
      meets: Boolean(c) && (streak ? n.best >= c.want : n.tried >= c.of && n.good * c.of >= c.want * n.tried),
    })
  },
  finish(r) {
    const t = this.mine(r.player, r.criterion, r.side)
    if (t && t.tries) this.change(t.id, t.tries, true)
  },
  closeRound(which) {
    for (const t of Object.values(this.series)) {
      if (!t.done && t.tries && t.by === this.state.me.id && which(t.round)) this.change(t.id, t.tries, true)
    }
    this.closeTogether()
  },
  segmentOver(segment) {
    const before = this.state.segments[segment]
    if (before && before.kind === 'work') this.closeRound((r) => r === before.round)
    else if (before && before.what !== 'stations') this.closeRound((r) => r === 0)
  },
  keepRow(r) {
    // by keys: what the row's own button does
    if (r.pad === 'tries') this.finish(r)
    else if (r.pad === 'points') this.keepPoints(r)
    else if (r.pad !== 'grade') this.keepFigure(r, r.value)
  },
  nextCriterion(r) {
    this.pick[r.player.id] = this.choices(r.player).findIndex((c) => c.id === r.criterion.id) + 1
  },
  side(r, side) {
    this.sides[r.player.id] = side
  },
  toggleZones() {
    this.zonesOn = !this.zonesOn
  },
  get mayZone() {
    return Boolean(this.station?.zones) && this.shown.some((r) => r.pad === 'tries')
  },
  point(r, i) {
    const on = [...(this.points[r.key] || r.criterion.points.map(() => false))]
    on[i] = !on[i]
    this.points[r.key] = on
  },
  keepPoints(r) {
    const on = r.criterion.points.map((_, i) => Boolean((this.points[r.key] || [])[i]))
    this.mark(r, { points: on }, on.filter(Boolean).length + ' of ' + on.length + ' points', on.every(Boolean))
    delete this.points[r.key]
  },
  step(r, by) {
    this.values[r.key] = Math.max(
      0,
      Math.round(((this.values[r.key] ?? (r.pad === 'angle' ? 90 : 0)) + by) * 10000) / 10000,
    )
    this.lastRow = r.key
  },
  slide(r, e) {
    this.values[r.key] = Number(e.target.value)
    this.lastRow = r.key
  },
  fall(r) {
    this.falls[r.key] = (this.falls[r.key] || 0) + 1
    this.step(r, 1)
  },
  // count: a countdown of its own
  startCount(r) {
    this.downs[r.key] = Date.now() + r.criterion.of * 1000
    this.values[r.key] = 0
    this.signal.give(false)
  },
  countUp(r) {
    if (!this.downs[r.key] || r.counting) this.step(r, 1)
  },
  // watches: several at once, each stopped by a tap
  watch(r) {
    if (this.watches[r.key]) this.stopWatch(r)
    else this.watches[r.key] = Date.now()
  },
  stopWatch(r) {
    this.values[r.key] = Math.round((Date.now() - this.watches[r.key]) / 100) / 10
    delete this.watches[r.key]
    this.lastRow = r.key
  },
  get timed() {
    return this.shown.some((r) => r.pad === 'watch')
  },
  get allTiming() {
    return this.shown.some((r) => r.timing)
  },
  startAll() {
    const at = Date.now()
    for (const r of this.shown)
      if (r.pad === 'watch') {
        this.watches[r.key] = at
        this.values[r.key] = 0
      }
    this.signal.give(false)
  },
  // angle: the arm is dragged
  dragAngle(r, e) {
    if (e.type === 'pointermove' && !e.buttons) return
    const b = e.currentTarget.getBoundingClientRect()
    this.values[r.key] = degrees(
      ((e.clientX - b.left) / b.width) * 120 - 60,
      ((e.clientY - b.top) / b.height) * 70 - 62,
    )
    this.lastRow = r.key
  },
  angleKey(r, e) {
    const by = { ArrowUp: 1, ArrowRight: -1, ArrowDown: -1, ArrowLeft: 1, PageUp: 5, PageDown: -5 }[e.key]
    if (by) {
      e.preventDefault()
      this.values[r.key] = Math.min(180, Math.max(0, (this.values[r.key] ?? 90) + by))
    }
  },
  keepFigure(r, figure) {
    const c = r.criterion
    if (this.watches[r.key]) {
      this.stopWatch(r)
      figure = this.values[r.key]
    }
    const meets =
      c.measure === 'angle'
        ? Math.abs(figure - c.want) <= c.tolerance
        : less.includes(c.measure)
          ? figure <= c.want
          : figure >= c.want
    this.mark(r, { figure, note: this.falls[r.key] ? this.falls[r.key] + ' of them falls' : '' }, String(figure), meets)
    for (const kept of [this.values, this.downs, this.falls]) delete kept[r.key]
  },
  mark(r, what, said, meets) {
    const m = {
      kind: 'mark',
      id: newID(),
      player: r.player.id,
      criterion: r.criterion.id,
      drill: r.criterion.id ? '' : r.criterion.drill,
      from: this.station.drill,
      side: r.side,
      round: this.roundHere,
      figure: 0,
      points: [],
      ...what,
    }
    this.state.marks.push({
      ...m,
      at: this.now,
      said,
      meets,
      by: this.state.me.id,
      byName: this.state.me.name,
      struck: false,
    })
    this.keep(m)
    this.keepState()
    this.lastRow = r.key
    this.remember({ mark: m.id })
  },
  remember(what) {
    this.taps.push(what)
    if (this.taps.length > 50) this.taps.shift()
  },
  get canTakeBack() {
    return this.taps.length > 0
  },
  takeBack() {
    const last = this.taps.pop()
    if (!last) return
    if (last.here) {
      // whoever was not said otherwise since
      for (const p of this.state.players) if (last.here.includes(p.id) && p.said === 'present') this.word(p, 'present')
      return
    }
    if (last.together) {
      this.together[last.together].pop()
      this.together = { ...this.together }
      return
    }
    const t = last.tally && this.series[last.tally]
    if (t)
      return this.change(
        t.id,
        t.tries.slice(0, -1),
        false,
        t.zones ? t.zones.split(',').slice(0, -1).join(',') : undefined,
      )
    const id = last.tally || last.mark
    const m = this.state.marks.find((k) => k.id === id)
    if (m) m.struck = true
    this.beat++
    this.keep({ kind: 'strike', id })
  },
  key(e) {
    if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return
    const rows = this.station ? this.shown : []
    const row = rows.find((r) => r.key === this.lastRow) || rows[0]
    if (e.key === 'u') this.takeBack()
    else if (e.key === 'x' && row && row.pad === 'tries') this.tap(row, false)
    else if (e.key === ' ' && e.target.tagName !== 'BUTTON' && row && row.pad === 'tries') this.tap(row, true)
    else if (e.key === 'k' && row) this.keepRow(row)
    else if ((e.key === '+' || e.key === '-') && row && !['tries', 'points', 'grade'].includes(row.pad))
      this.step(row, (e.key === '+' ? 1 : -1) * (row.by || 1))
    else if (/^[1-9]$/.test(e.key) && row && row.pad === 'grade' && Number(e.key) <= row.grades.length)
      this.keepFigure(row, Number(e.key))
    else if ((e.key === 'n' || e.key === 'p') && rows.length)
      this.lastRow = rows[(rows.indexOf(row) + (e.key === 'n' ? 1 : rows.length - 1)) % rows.length].key // to the next player
    else return
    e.preventDefault()
  },
}

// -- pads for pairs and teams: rally ladder, race, team streak

const together = {
  together: {},
  turnOf: {},
  get asOne() {
    return this.station && ['ladder', 'race', 'team'].includes(this.station.kind) && this.present.length > 1
      ? this.station.kind
      : ''
  },
  get ring() {
    return pairs(
      this.present.map((p) => p.id),
      this.turnOf[this.tab + ' ' + this.roundHere] || 0,
    )
  },
  nameOf(id) {
    return first(this.state.players.find((p) => p.id === id)?.name || '')
  },
  oneKey(ids) {
    return [this.tab, this.roundHere + '.' + (this.turnOf[this.tab + ' ' + this.roundHere] || 0), ...ids].join(' ')
  },
  // best is the rung a player has reached here today, with whomever.
  best(id) {
    let best = 1
    for (const [key, taps] of Object.entries(this.together)) {
      const [tab, , ...ids] = key.split(' ')
      if (tab === String(this.tab) && ids.includes(id) && taps.from)
        best = Math.max(best, rungs(taps.map((t) => (t ? '1' : '0')).join(''), taps.from, this.station.n).rung)
    }
    return best
  },
  get ones() {
    const s = this.station
    if (!this.asOne) return []
    if (s.kind === 'team') {
      const order = this.present.map((p) => p.id)
      const key = this.oneKey(['team'])
      const t = team(order, this.together[key] || [])
      return [
        {
          key,
          ids: order,
          kind: 'team',
          name: 'The team',
          sub: 'now ' + this.nameOf(t.next) + ' · best ' + t.best + ' · to ' + s.n,
          figure: t.run,
          next: t.next,
          done: t.best >= s.n,
          goodLabel: this.nameOf(t.next) + ': good',
          missLabel: this.nameOf(t.next) + ': miss',
        },
      ]
    }
    return this.ring.pairs.map((ids) => {
      const key = this.oneKey(ids),
        taps = this.together[key] || []
      const name = ids.map((id) => this.nameOf(id)).join(' and ')
      if (s.kind === 'race') {
        const r = race(taps.map((t) => (t ? '1' : '0')).join(''), s.n, s.against)
        return {
          key,
          ids,
          kind: 'race',
          name,
          figure: r.first + ' : ' + r.other,
          sub:
            'first to ' +
            s.n +
            (s.against && s.against !== s.n ? ' against ' + s.against : '') +
            (r.winner ? ' · ' + this.nameOf(ids[r.winner - 1]) + ' wins' : ''),
          done: r.winner > 0,
          goodLabel: 'Point for ' + this.nameOf(ids[0]),
          missLabel: 'Point for ' + this.nameOf(ids[1]),
          good: this.nameOf(ids[0]),
          miss: this.nameOf(ids[1]),
        }
      }
      const from = taps.from || Math.max(...ids.map((id) => this.best(id)))
      const g = rungs(taps.map((t) => (t ? '1' : '0')).join(''), from, s.n)
      return {
        key,
        ids,
        kind: 'ladder',
        from,
        name,
        figure: g.done ? s.n : g.rung,
        sub: g.done
          ? 'the top'
          : g.run + ' of ' + g.rung + ' in a row' + (from > 1 ? ' · carried on from ' + from : ''),
        done: g.done,
        goodLabel: name + ': rally',
        missLabel: name + ': dropped',
      }
    })
  },
  get restText() {
    return this.asOne && this.asOne !== 'team' && this.ring.rests ? this.nameOf(this.ring.rests) + ' rests' : ''
  },
  tapOne(o, good) {
    const taps = [...(this.together[o.key] || []), o.kind === 'team' ? [o.next, good] : good]
    taps.from = o.from
    this.together = { ...this.together, [o.key]: taps }
    this.remember({ together: o.key })
    this.keepTogether()
  },
  keepTogether() {
    const taps = Object.entries(this.together).map(([k, t]) => [k, [...t], t.from, t.kept])
    this.kept.keep('together', taps).catch(() => {})
  },
  movePartners() {
    this.closeTogether(this.tab)
    const k = this.tab + ' ' + this.roundHere
    this.turnOf = { ...this.turnOf, [k]: (this.turnOf[k] || 0) + 1 }
  },
  // closeTogether makes a mark for each player of what their pair or team did.
  closeTogether(tab) {
    for (const [key, taps] of Object.entries(this.together)) {
      const [at, round, ...ids] = key.split(' ')
      const s = this.spotOf(Number(at))
      if (!s || !taps.length || taps.kept || (tab !== undefined && String(tab) !== at)) continue
      taps.kept = true
      const each = (player, figure, tries, note) => {
        if (player)
          this.keep({
            kind: 'mark',
            id: newID(),
            player,
            criterion: '',
            drill: s.drill,
            side: '',
            round: parseInt(round, 10),
            figure,
            points: [],
            note,
          })
      }
      if (s.kind === 'team') {
        const t = team([...new Set(taps.map((x) => x[0]))], taps)
        for (const id of new Set(taps.map((x) => x[0]))) each(id, t.best, 0, 'team of ' + t.best + ' in a row')
      } else if (s.kind === 'race') {
        const r = race(taps.map((t) => (t ? '1' : '0')).join(''), s.n, s.against)
        each(ids[0], r.first, 0, r.first + ' : ' + r.other + ' against ' + this.nameOf(ids[1]))
        each(ids[1], r.other, 0, r.other + ' : ' + r.first + ' against ' + this.nameOf(ids[0]))
      } else {
        const g = rungs(taps.map((t) => (t ? '1' : '0')).join(''), taps.from || 1, s.n)
        for (const [i, id] of ids.entries()) each(id, g.rung, 0, 'rung ' + g.rung + ' with ' + this.nameOf(ids[1 - i]))
      }
    }
    this.keepTogether()
  },
}

// -- keys

const keys = {
  keyPick: {},
  hasKey(player, key) {
    return Boolean(this.keysOf(player).find((k) => k.key === key)?.has)
  },
  putKey(k) {
    const i = this.state.keys.findIndex((o) => o.player === k.player && o.key === k.key)
    if (i < 0) this.state.keys.push(k)
    else if (Date.parse(this.state.keys[i].at) <= Date.parse(k.at)) this.state.keys[i] = k
    this.beat++
  },
  get keyList() {
    const own = this.station?.keys || []
    return this.state.key && !own.some((k) => k.toLowerCase() === this.state.key.toLowerCase())
      ? [this.state.key, ...own]
      : own
  },
  get keyAt() {
    const list = this.keyList
    const picked = this.keyPick[this.tab + ' ' + (this.here?.name || '')]
    if (picked !== undefined) return Math.min(picked, list.length - 1)
    const day = list.findIndex((k) => k.toLowerCase() === (this.state.key || '').toLowerCase())
    const t = teach(
      list,
      this.present.map((p) => p.id),
      (p, k) => this.hasKey(p, k),
    )
    return day >= 0 && !this.groupHas(list[day]) ? day : t.at < 0 ? list.length - 1 : t.at
  },
  groupHas(key) {
    const ids = this.present.map((p) => p.id)
    return ids.length > 0 && ids.filter((id) => this.hasKey(id, key)).length >= 0.7 * ids.length
  },
  get keyNow() {
    return this.keyList[this.keyAt] || ''
  },
  get keyCount() {
    const ids = this.present.map((p) => p.id)
    return ids.length && this.keyNow
      ? ids.filter((id) => this.hasKey(id, this.keyNow)).length + ' of ' + ids.length + ' have it'
      : ''
  },
  get keyHolds() {
    return Boolean(this.keyNow) && this.groupHas(this.keyNow) && this.keyAt < this.keyList.length - 1
  },
  get nextKeyText() {
    return this.keyHolds ? 'It holds. Next: ' + this.keyList[this.keyAt + 1] : ''
  },
  moveKey(by) {
    this.keyPick = {
      ...this.keyPick,
      [this.tab + ' ' + (this.here?.name || '')]: Math.min(this.keyList.length - 1, Math.max(0, this.keyAt + by)),
    }
  },
  get canKeyBack() {
    return this.keyAt > 0
  },
  get canKeyOn() {
    return this.keyAt < this.keyList.length - 1
  },
  toggleKey(r) {
    this.setKey(r.player.id, this.keyNow, !this.hasKey(r.player.id, this.keyNow))
  },
  setKey(player, key, has) {
    const k = { kind: 'has', id: newID(), player, key, has, by: this.state.me.id, at: new Date(this.now).toISOString() }
    this.putKey(k)
    this.keep(k)
    this.keepState()
  },
  // the first look: everybody is looked at; then the key that most of those lack of whom something was said. Who was looked at is shared by all
  // devices; a key that was not tapped says nothing. Rows stay where they are.
  lookedBy(id) {
    return [
      ...new Set(
        (this.state.looked || [])
          .filter((l) => l.player === id)
          .map((l) => (l.by === this.state.me.id ? 'you' : first(l.byName || ''))),
      ),
    ]
  },
  saidOf(player, key) {
    return this.keysOf(player).find((k) => k.key === key)
  },
  get lookRows() {
    return this.state.players
      .filter((p) => !gone.includes(p.said))
      .map((p) => ({
        player: p,
        name: p.name,
        looked: this.isLooked(p.id),
        by: this.lookedBy(p.id).join(', '),
        allLabel: p.name + ': looked at',
        looks: (this.state.look || []).map((k) => {
          const said = this.saidOf(p.id, k)
          return {
            key: k,
            has: Boolean(said?.has),
            lacks: Boolean(said && !said.has),
            text: (said && !said.has ? '✕ ' : '') + k,
            label: p.name + ': ' + k + (said ? (said.has ? ', has it' : ', lacks it') : ', nothing said yet'),
          }
        }),
      }))
  },
  isLooked(id) {
    return this.lookedBy(id).length > 0
  },
  look(r, key) {
    const said = this.saidOf(r.player.id, key)
    this.setKey(r.player.id, key, !said?.has)
    this.lookDone(r)
  },
  lookDone(r) {
    const me = this.state.me
    if ((this.state.looked || []).some((l) => l.player === r.player.id && l.by === me.id)) return
    const l = {
      kind: 'looked',
      id: newID(),
      player: r.player.id,
      by: me.id,
      byName: me.name,
      at: new Date(this.now).toISOString(),
    }
    this.state.looked = [...(this.state.looked || []), l]
    this.keep(l)
    this.keepState()
  },
  get lookText() {
    const all = this.lookRows,
      open = all.filter((r) => !r.looked)
    if (open.length) return open.length + ' of ' + all.length + ' not looked at yet'
    return 'Everybody was looked at.'
  },
  get lookKey() {
    for (const key of this.state.look || []) {
      const said = this.state.players
        .filter((p) => !gone.includes(p.said))
        .map((p) => this.saidOf(p.id, key))
        .filter(Boolean)
      const lack = said.filter((k) => !k.has).length
      if (said.length && said.length - lack < 0.7 * said.length) return { key, lack, of: said.length }
    }
    return null
  },
  get lookAdvice() {
    const k = this.lookKey
    if (k) return k.lack + ' of the ' + k.of + ' of whom it was said lack “' + k.key + '”. Teach that today.'
    return (this.state.look || []).some((key) => this.state.players.some((p) => this.saidOf(p.id, key)))
      ? 'Seven in ten or more have all that was looked for. Go on to the next skill.'
      : ''
  },
  get mayTeach() {
    return Boolean(this.lookKey) && this.lookKey.key !== this.state.key
  },
  teachIt() {
    this.ask('key', { key: this.lookKey.key })
  },
}

// -- who was seen, notes, ladders

const seen = {
  marksOf(player) {
    return found('marks', this.state.marks, this.beat, (m) => m.player).get(player) || []
  },
  keysOf(player) {
    return found('keys', this.state.keys, this.beat, (k) => k.player).get(player) || []
  },
  seenBy(p, member) {
    return (
      this.marksOf(p.id).some((m) => m.by === member && !m.struck) ||
      Object.values(this.series).some((t) => t.player === p.id && t.tries && t.by === member) ||
      this.keysOf(p.id).some((k) => k.by === member && Date.parse(k.at) > this.state.starts - 3600000)
    )
  },
  get seenText() {
    if (!this.here) return ''
    const rows = this.present,
      open = rows.filter((p) => !this.seenBy(p, this.state.me.id)).length
    return open ? open + ' of ' + rows.length + ' not yet seen by you' : 'all seen by you'
  },
  get classOpen() {
    return this.state.players.filter((p) => !gone.includes(p.said) && !this.seenBy(p, this.state.me.id))
  },
  get classText() {
    return this.state.mayRun && this.started && this.classOpen.length
      ? 'Not seen by you: ' +
          this.classOpen
            .slice(0, 3)
            .map((p) => first(p.name))
            .join(', ') +
          (this.classOpen.length > 3 ? ' and ' + (this.classOpen.length - 3) + ' more' : '')
      : ''
  },
  get seenRows() {
    const names = Object.fromEntries(window.Alpine.raw(this.state.marks).map((m) => [m.by, first(m.byName || '')]))
    return this.state.players
      .filter((p) => !gone.includes(p.said))
      .map((p) => {
        const by = [
          ...new Set(
            this.marksOf(p.id)
              .filter((m) => !m.struck)
              .map((m) => m.by),
          ),
        ]
        const g = this.groupsNow.find((k) => k.players.includes(p.id)),
          s = g ? this.groupAt(g, this.round) : null
        return {
          id: p.id,
          name: p.name,
          you: this.seenBy(p, this.state.me.id),
          due: (p.due || [])
            .map((id) => this.state.criteria.find((c) => c.id === id)?.wording)
            .filter(Boolean)
            .slice(0, 3)
            .join(', '),
          others: by
            .filter((b) => b !== this.state.me.id)
            .map((b) => names[b])
            .join(', '),
          where: s ? 'now at ' + (this.state.stations.indexOf(s) + 1) + ' ' + s.name : '',
        }
      })
      .sort((a, b) => Number(a.you) - Number(b.you) || b.due.length - a.due.length)
  },
}

const noteWords = {
  effort: 'Great effort',
  follow: 'Follow up',
  talk: 'Talk to guardian',
  clip: 'Clip to look at',
  hurt: 'Hurt',
  word: 'Note',
}
const notes = {
  writing: '',
  choose(r) {
    this.chosen = this.chosen === r.player.id ? '' : r.player.id
    this.writing = ''
  },
  noteKinds: Object.entries(noteWords)
    .filter(([k]) => k !== 'word')
    .map(([kind, words]) => ({ kind, words })),
  notesOf(id) {
    return this.state.notes
      .filter((n) => n.player === id)
      .map(
        (n) => (noteWords[n.kind] || n.kind) + (n.says ? ': ' + n.says : '') + (n.due ? ' (' + dayOf(n.due) + ')' : ''),
      )
  },
  note(r, kind) {
    this.keepNote(r.player, kind, '', kind === 'follow' ? this.followDay : '')
  },
  followOn: '', // a week on, unless another day is chosen
  get followDay() {
    return (
      this.followOn ||
      new Date(this.state.starts + 7 * 86400000).toLocaleDateString('sv-SE', { timeZone: this.state.zone })
    )
  },
  setFollow(e) {
    this.followOn = e.target.value
  },
  setNote(e) {
    this.writing = e.target.value
  },
  writeNote(r) {
    if (this.writing.trim()) this.keepNote(r.player, 'word', this.writing.trim())
    this.writing = ''
  },
  keepNote(p, what, note, due = '') {
    const id = newID()
    this.state.notes.push({
      id,
      player: p.id,
      kind: what,
      says: note,
      due,
      by: this.state.me.id,
      byName: this.state.me.name,
      at: new Date(this.now).toISOString(),
    })
    this.keep({ kind: 'note', id, player: p.id, what, note, due })
    this.keepState()
  },
}

const ladders = {
  get ladderNow() {
    const b = this.current.block
    return this.state.ladders?.find((l) => l.block === b) || this.state.ladders?.[0] || null
  },
  stepOf(block, unit) {
    return this.state.climbs
      .filter((k) => k.block === block && k.unit === unit)
      .reduce((last, k) => (Date.parse(k.at) >= Date.parse(last.at) ? k : last), { step: 0, at: 0 }).step
  },
  get climbers() {
    const l = this.ladderNow
    if (!l) return []
    const units = this.groupsNow.length ? this.groupsNow : [{ name: 'Everybody', shape: 'circle', path: '' }]
    const i = this.state.segments.findIndex((s) => s.block === l.block)
    const from = this.at.bounds[i],
      to = this.at.bounds[i + 1]
    const part = this.going && from && this.now > from ? Math.min(1, (this.now - from) / (to - from)) : 0
    return units.map((g, unit) => {
      const at = this.stepOf(l.block, unit),
        s = l.steps[Math.min(at, l.steps.length - 1)] || { name: '', target: '' },
        top = at >= l.steps.length
      const slow = part > 0.5 && at === 0
      return {
        unit,
        name: g.name,
        cls: 'shape is-' + g.shape,
        path: g.path,
        no: top ? 'top' : at + 1 + ' of ' + l.steps.length,
        task: top ? 'All steps hold' : s.name,
        target: top ? '' : s.target,
        canBack: at > 0,
        top,
        help: top
          ? l.steps[l.steps.length - 1]?.next
            ? 'Fast: ' + l.steps[l.steps.length - 1].next
            : 'Fast: help another group'
          : slow && s.bridge
            ? 'Slow: take the bridge, ' + s.bridge
            : slow
              ? 'Slow: ease it, or help them'
              : s.key
                ? 'Key: ' + s.key
                : '',
        upLabel: g.name + ': it holds, next step',
        backLabel: g.name + ': a step back',
      }
    })
  },
  climb(c, by) {
    const l = this.ladderNow
    const k = {
      kind: 'climb',
      id: newID(),
      block: l.block,
      unit: c.unit,
      step: Math.max(0, Math.min(l.steps.length, this.stepOf(l.block, c.unit) + by)),
      at: new Date(this.now).toISOString(),
    }
    this.state.climbs.push({ ...k, by: this.state.me.id })
    this.keep(k)
  },
}

document.addEventListener('alpine:init', () =>
  window.Alpine.data('courtside', () =>
    mix(hall, sending, clock, place, register, pads, together, keys, seen, notes, ladders, {
      init() {
        this.begin()
        this.outbox = new Outbox(this.kept, (items) => this.post('inbox', { items }).then((a) => a.answers))
        this.openTab()
        this.restored = this.restoreAll()
        window.Alpine.effect(() => {
          // each minute that it is later, once all is sent: what could give is the server's to say
          if (this.lateText && !this.waiting && this.lateAt !== this.lateMinutes) {
            this.lateAt = this.lateMinutes
            this.refresh()
          }
        })
        window.Alpine.effect(() => {
          this.shown = this.station && this.here ? this.rows : []
        })
        setInterval(() => this.flush(), 3000)
        setInterval(() => this.watchesTick(), 100)
        this.flush()
        addEventListener('online', () => this.flush())
        document.addEventListener('keydown', (e) => this.key(e))
        navigator.serviceWorker?.ready.then((r) => {
          const drawings = this.state.stations
            .map((s, i) => (s.drawn ? location.origin + '/courtside/' + this.state.session + '/drawing/' + i : ''))
            .filter(Boolean)
          r.active?.postMessage({
            keep: [location.href, ...performance.getEntriesByType('resource').map((e) => e.name), ...drawings],
          })
        })
      },
      openTab() {
        if (!this.state.mayRun || this.started) this.tab = this.ended ? 'seen' : this.tabOf(this.current)
      },
      // restoreAll takes over what waits here, and what was begun; what was done meanwhile is newer.
      async restoreAll() {
        const tab = this.tab
        await this.restore()
        await this.outbox.load()
        for (const item of older(this.state.session, this.state.me.id)) this.outbox.add(item)
        this.series = { ...(await this.kept.value('series').catch(() => null)), ...this.series }
        for (const [k, taps, from, kept] of (await this.kept.value('together').catch(() => null)) || [])
          this.together[k] ??= Object.assign(taps, { from, kept })
        this.waiting = this.outbox.waiting
        this.merge()
        if (this.tab === tab) this.openTab()
        this.flush()
      },
      lateAt: -1,
      watchesTick() {
        for (const key in this.watches) this.values[key] = Math.round((Date.now() - this.watches[key]) / 100) / 10
        for (const key in this.downs) {
          if (Date.now() >= this.downs[key] && !this.rung[key]) {
            this.rung[key] = true
            this.signal.give(true)
          } else if (Date.now() < this.downs[key]) this.rung[key] = false
        }
        if (Object.keys(this.downs).length) this.downs = { ...this.downs } // the seconds left
      },
      rung: {},
    }),
  ),
)
