// The courtside page: one state from the server, a clock that runs here, and pads whose taps are kept on the device
// until they have arrived.
import { Outbox, newID, runs } from './outbox.js'

const minutes = (ms) => {
  const s = Math.max(0, Math.ceil(ms / 1000))
  return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
}
const json = { Accept: 'application/json', 'Content-Type': 'application/json' }
const triesPads = ['makes', 'streak']

document.addEventListener('alpine:init', () => window.Alpine.data('courtside', () => ({
  state: JSON.parse(document.getElementById('state').textContent),
  now: 0, offset: 0, tab: 'register', online: navigator.onLine, waiting: 0, says: '', asking: false, sound: true, spoken: '',
  series: {}, pick: {}, sides: {}, points: {}, values: {}, watches: {}, taps: [], lastRow: '', lastSegment: -1,

  init() {
    const id = this.state.session
    this.offset = this.state.now - Date.now()
    this.seriesKey = 'gruppo-series-' + id
    this.series = JSON.parse(localStorage.getItem(this.seriesKey) || '{}')
    this.sound = localStorage.getItem('gruppo-sound') !== 'off'
    this.outbox = new Outbox(localStorage, 'gruppo-outbox-' + id + '-' + this.state.me.id, (items) => this.post('inbox', { items }).then((a) => a.answers))
    this.waiting = this.outbox.waiting
    this.merge()
    this.tick()
    this.lastSegment = this.segment
    const own = this.state.stations.findIndex((s) => s.leader === this.state.me.id)
    if (this.state.started && this.state.stations.length) this.tab = Math.max(0, own)
    setInterval(() => this.tick(), 200)
    setInterval(() => this.flush(), 3000)
    this.flush()
    this.listen()
    addEventListener('online', () => { this.online = true; this.refresh(); this.flush() })
    addEventListener('offline', () => { this.online = false })
    document.addEventListener('visibilitychange', () => { if (!document.hidden) { this.refresh(); this.stayAwake() } })
    document.addEventListener('keydown', (e) => this.key(e))
    this.stayAwake()
  },

  // -- the server

  async post(what, body) {
    const r = await fetch('/courtside/' + this.state.session + '/' + what, { method: 'POST', headers: json, body: JSON.stringify(body) })
    const answer = await r.json().catch(() => ({}))
    if (!r.ok) {
      if (r.status < 500) this.says = answer.says || 'The server did not take this.'
      throw new Error(answer.says || r.status)
    }
    return answer
  },

  listen() {
    const source = new EventSource('/courtside/' + this.state.session + '/live')
    source.onmessage = () => this.refresh()
    source.onerror = () => { this.online = false }
  },

  async refresh() {
    const from = Date.now()
    try {
      const r = await fetch('/courtside/' + this.state.session + '/state', { headers: json })
      if (!r.ok) {
        this.says = (await r.json().catch(() => ({}))).says || ''
        return
      }
      const state = await r.json()
      const back = Date.now()
      if (back - from < 2000) this.offset = state.now - (from + back) / 2 // the server's clock, at the middle of the way
      this.state = state
      this.online = true
      this.merge()
      this.flush()
    } catch { this.online = false }
  },

  async flush() {
    if (!this.outbox.waiting) return
    const r = await this.outbox.flush()
    this.online = r.sent || this.online && this.outbox.sending
    if (r.refused.length) this.says = r.refused[0].why
    this.waiting = this.outbox.waiting
  },

  keep(item) {
    this.outbox.add(item)
    this.waiting = this.outbox.waiting
    this.flush()
  },

  // merge takes over the series of this person from other devices, where they are newer, and shows what waits here.
  merge() {
    for (const t of this.state.tallies || []) {
      const own = Object.values(this.series).find((s) => s.id === t.id)
      if (t.by === this.state.me.id && (!own || own.revision < t.revision)) this.series[t.id] = { ...t, kind: 'tally' }
    }
    for (const i of this.outbox.items) {
      const p = i.kind === 'said' && this.state.players.find((q) => q.id === i.player)
      if (p) p.said = i.state
    }
    localStorage.setItem(this.seriesKey, JSON.stringify(this.series))
  },

  // -- the clock

  get segment() {
    const b = this.state.bounds || []
    const at = this.state.pausedAt || this.now
    for (let i = 1; i < b.length; i++) if (at < b[i]) return i - 1
    return Math.max(0, b.length - 1)
  },
  get current() { return this.state.segments[this.segment] || { kind: 'over', label: 'The plan is over', round: 0, seconds: 0 } },
  get over() { return this.state.started && this.segment >= this.state.segments.length },
  get paused() { return this.state.pausedAt > 0 && !this.state.ended },
  get going() { return this.state.started && !this.state.ended },
  get running() { return this.going && !this.paused },
  get mayEnd() { return this.state.mayRun && this.going && !this.over },
  get phase() {
    if (!this.state.started || this.state.ended) return 'idle'
    return this.over ? 'over' : this.current.kind
  },
  get msLeft() {
    if (!this.state.started) return (this.state.segments[0]?.seconds || 0) * 1000
    if (this.over || this.state.ended) return 0
    return this.state.bounds[this.segment + 1] - (this.state.pausedAt || this.now)
  },
  get left() { return minutes(this.msLeft) },
  get done() {
    if (!this.going || this.over) return 0
    const from = this.state.bounds[this.segment], to = this.state.bounds[this.segment + 1]
    return to > from ? Math.max(0, Math.min(100, 100 * (1 - this.msLeft / (to - from)))) : 0
  },
  get rounds() { return Math.max(0, ...this.state.segments.map((s) => s.round)) },
  get round() { // the round whose groups are shown
    const c = this.current
    if (c.kind === 'work') return c.round
    if (c.kind === 'change') return c.round + 1
    const firstWork = this.state.segments.findIndex((s) => s.kind === 'work')
    return this.state.started && this.segment > firstWork && firstWork >= 0 ? this.rounds : 1
  },
  get phaseWord() {
    if (this.state.ended) return 'Ended'
    if (!this.state.started) return 'Ready'
    if (this.paused) return 'Paused'
    if (this.over) return 'Time is up'
    return { work: 'Work', change: 'Change', brief: 'Explain' }[this.current.kind] || this.current.label
  },
  get thenText() {
    if (!this.state.started) return 'first: ' + (this.state.segments[0]?.label || 'nothing planned yet')
    const n = this.state.segments[this.segment + 1]
    if (this.over || this.state.ended) return ''
    if (!n) return 'then the end'
    if (n.kind === 'change') return 'then ' + minutes(n.seconds * 1000) + ' to change'
    return 'then ' + n.label + ', ' + minutes(n.seconds * 1000)
  },
  get changeWord() { return this.current.kind === 'work' ? 'Change now' : 'Next now' },
  get roundText() {
    const r = this.current.kind === 'work' || this.current.kind === 'change' ? 'Round ' + this.current.round + ' of ' + this.rounds : this.state.name
    return typeof this.tab === 'number' ? r + ' · station ' + (this.tab + 1) : r
  },
  get syncText() {
    if (this.waiting) return this.waiting + ' waiting here'
    return this.online ? 'in step' : 'no connection'
  },

  tick() {
    this.now = Date.now() + this.offset
    const s = this.segment
    if (this.going && this.lastSegment !== s && this.lastSegment >= 0) {
      const before = this.state.segments[this.lastSegment]
      if (before && before.kind === 'work') this.closeRound(before.round)
      this.signal()
    }
    this.lastSegment = this.state.started ? s : -1
    for (const key in this.watches) this.values[key] = Math.floor((Date.now() - this.watches[key]) / 1000)
  },

  async run(what) {
    this.asking = false
    this.says = ''
    if (what === 'end') this.closeRound(0)
    try {
      await this.outbox.flush()
      this.waiting = this.outbox.waiting
      this.state = await this.post('clock', { id: newID(), do: what })
      this.merge()
      this.online = true
      if (what === 'start' && this.tab === 'register') this.tab = Math.max(0, this.state.stations.findIndex((s) => s.leader === this.state.me.id))
    } catch {
      this.says = this.says || 'No connection: the clock runs on as planned. Try again when you are back.'
    }
  },

  askEnd() { this.asking = !this.asking },

  signal() {
    const c = this.current
    this.spoken = c.kind === 'change' ? 'Change' : c.kind === 'work' ? 'Round ' + c.round + ', work' : c.label
    if (navigator.vibrate) navigator.vibrate(c.kind === 'change' ? [300, 120, 300] : [500])
    if (!this.sound) return
    try {
      this.audio = this.audio || new AudioContext()
      const at = this.audio.currentTime
      for (const [i, hz] of (c.kind === 'change' ? [880, 660, 880] : [660, 990]).entries()) {
        const o = this.audio.createOscillator(), g = this.audio.createGain()
        o.frequency.value = hz
        g.gain.setValueAtTime(0.5, at + i * 0.28)
        g.gain.exponentialRampToValueAtTime(0.001, at + i * 0.28 + 0.25)
        o.connect(g).connect(this.audio.destination)
        o.start(at + i * 0.28)
        o.stop(at + i * 0.28 + 0.26)
      }
    } catch { /* a browser without sound still shows and vibrates */ }
  },

  toggleSound() {
    this.sound = !this.sound
    localStorage.setItem('gruppo-sound', this.sound ? 'on' : 'off')
  },

  async stayAwake() {
    try { this.lock = await navigator.wakeLock?.request('screen') } catch { /* the phone decides */ }
  },

  // -- where everyone is

  get back() { return this.state.mayRun ? '/sessions/' + this.state.session : '/' },
  get whatIf() { return '/sessions/' + this.state.session + '/what-if?back=courtside' },
  get stationTabs() { return this.state.stations.map((s, i) => ({ index: i, no: i + 1, label: 'Station ' + (i + 1) + ': ' + s.name })) },
  show(tab) { this.tab = tab; this.says = '' },
  get station() { return typeof this.tab === 'number' ? this.state.stations[this.tab] : null },
  get task() { return this.station || { name: '', target: '' } }, // the page still asks while the station is taken away
  get here() {
    const g = this.station && this.station.visits ? this.station.visits[this.round - 1] : -1
    return g >= 0 ? this.state.groups[g] : null
  },
  get form() { return this.here ? (this.station.forms || [])[this.state.groups.indexOf(this.here)] || null : null },
  get formName() { return this.form ? this.form.name : '' },
  get formSays() { return this.form ? this.form.says : '' },
  get hasEasier() { return Boolean(this.form && this.form.easier) },
  get hasHarder() { return Boolean(this.form && this.form.harder) },
  get mayEase() { return this.state.mayRun || this.station?.leader === this.state.me.id },
  get easierLabel() { return 'Easier for ' + this.hereName },
  get harderLabel() { return 'Harder for ' + this.hereName },
  async ease(by) {
    this.says = ''
    try {
      this.state = await this.post('form', { station: this.tab, group: this.state.groups.indexOf(this.here), by })
      this.merge()
      this.online = true
    } catch { this.says = this.says || 'No connection: the group does what it did. Try again when you are back.' }
  },
  get hereName() { return this.here ? this.here.name : '' },
  get herePath() { return this.here ? this.here.path : '' },
  get hereClass() { return 'shape is-' + (this.here ? this.here.shape : '') },
  get emptyText() { return this.state.groups.length ? 'Nobody is here in this round.' : 'No groups are dealt yet.' },
  get keyText() { return this.state.key || (this.station && this.station.keys && this.station.keys[0]) || '' },
  get cautionText() { return (this.station?.cautions || []).join(' · ') },
  get moves() {
    return this.state.groups.map((g) => {
      const s = g.route[this.round - 1]
      return { name: g.name, path: g.path, cls: 'shape is-' + g.shape, to: s >= 0 ? (s + 1) + ' ' + this.state.stations[s].name : 'rests' }
    })
  },
  get nextText() {
    if (!this.station || !this.state.started || this.state.ended) return ''
    const g = (this.station.visits || [])[this.round]
    const i = this.state.segments.findIndex((s) => s.kind === 'work' && s.round === this.round + 1)
    if (g === undefined || i < 0) return ''
    const at = new Date(this.state.bounds[i]).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: this.state.zone })
    return (g >= 0 ? this.state.groups[g].name : 'nobody') + ' at ' + at
  },

  // -- the register

  get registerText() {
    const there = this.state.players.filter((p) => p.said === 'present' || p.said === 'late').length
    const open = this.state.players.filter((p) => !p.said).map((p) => p.name.split(' ')[0])
    const text = there + ' of ' + this.state.players.length + ' here'
    return open.length === 0 ? text : open.length <= 4 ? text + ', not yet: ' + open.join(', ') : text
  },
  say(p, word) {
    p.said = p.said === word ? '' : word
    this.keep({ kind: 'said', id: newID(), player: p.id, state: p.said, at: new Date(this.now).toISOString() })
  },

  // -- the pads

  choices(p) {
    const s = this.station
    const own = this.state.criteria.filter((c) => c.stage === p.stage && (s.skills || []).includes(c.skill))
    if (own.length) return own
    return [{ id: '', drill: s.drill, wording: s.name, measure: s.kind === 'streak' || s.kind === 'team' || s.kind === 'set' ? 'streak' : 'makes', of: 0, want: s.n, points: [], standard: s.target }]
  },
  mine(p, c, side) {
    return Object.values(this.series).filter((t) => t.player === p.id && t.criterion === c.id && (c.id || t.drill === c.drill) && t.side === side && !t.done && t.by === this.state.me.id).pop()
  },
  get rows() {
    if (!this.here) return []
    const gone = ['absent', 'away', 'left']
    return this.here.players.map((id) => this.state.players.find((p) => p.id === id)).filter((p) => p && !gone.includes(p.said)).map((p) => this.row(p))
  },
  row(p) {
    const all = this.choices(p)
    const c = all[(this.pick[p.id] || 0) % all.length]
    const side = c.sides ? this.sides[p.id] || 'right' : ''
    const key = [p.id, c.id || c.drill, side].join('|')
    const r = { key, player: p, name: p.name, limits: p.limits, criterion: c, choices: all.length, what: c.wording, side, sides: c.sides, isLast: this.lastRow === key,
      chooseLabel: p.name + ': ' + c.wording + '. Another criterion', goodLabel: p.name + ': good', missLabel: p.name + ': miss', keepLabel: p.name + ': keep' }
    const shown = this.state.marks.filter((m) => m.player === p.id && m.criterion === c.id && (c.id || m.drill === c.drill) && m.side === side && !m.struck)
    const last = shown[shown.length - 1]
    r.sub = c.standard + (last ? ' · ' + (last.by === this.state.me.id ? '' : last.byName.split(' ')[0] + ': ') + last.said + (last.meets ? ' ✓' : '') : '')
    r.pad = triesPads.includes(c.measure) ? 'tries' : c.measure === 'check' ? 'points' : c.measure === 'grade' ? 'grade' : 'figure'
    if (r.pad === 'tries') {
      const t = this.mine(p, c, side)
      const n = runs(t ? t.tries : '')
      r.figure = String(c.measure === 'streak' ? n.run : n.good)
      r.figureUnder = c.measure === 'streak' ? 'best ' + n.best + ' · ' + n.tried + (n.tried === 1 ? ' try' : ' tries') : 'of ' + n.tried + (c.of ? ' (' + c.of + ')' : '')
      r.canKeep = n.tried > 0
      r.figureLabel = p.name + ': ' + r.figure + ' ' + r.figureUnder + '. Keep this'
    } else if (r.pad === 'points') {
      r.points = c.points.map((text, i) => ({ text, on: Boolean((this.points[key] || [])[i]) }))
    } else if (r.pad === 'grade') {
      r.grades = (c.points.length ? c.points : ['', '', '', '']).map((text, i) => ({ n: i + 1, label: p.name + ': grade ' + (i + 1) + (text ? ', ' + text : '') }))
    } else {
      r.value = this.values[key] || 0
      r.figure = String(r.value)
      r.timed = c.measure === 'hold' || c.measure === 'time'
      r.figureUnder = r.timed ? (this.watches[key] ? 'stop' : 'seconds') : c.measure === 'count' ? 'in ' + c.of + ' s' : c.measure
      r.figureLabel = p.name + ': ' + r.figure + ' ' + r.figureUnder + (r.timed ? '. Start or stop the watch' : '')
      r.lessLabel = p.name + ': one less'
      r.moreLabel = p.name + ': one more'
    }
    return r
  },
  get seenText() {
    if (!this.here) return ''
    const mine = (id) => this.state.marks.some((m) => m.player === id && m.by === this.state.me.id && !m.struck) || Object.values(this.series).some((t) => t.player === id && t.tries)
    const rows = this.rows
    const open = rows.filter((r) => !mine(r.player.id)).length
    return open ? open + ' of ' + rows.length + ' not yet seen by you' : 'all seen by you'
  },

  tap(r, good) {
    const c = r.criterion
    let t = this.mine(r.player, c, r.side)
    if (!t) {
      t = { kind: 'tally', id: newID(), player: r.player.id, criterion: c.id, drill: c.id ? '' : c.drill, side: r.side, round: this.round, tries: '', revision: 0, done: false, by: this.state.me.id }
      this.series[t.id] = t
    }
    this.change(t.id, this.series[t.id].tries + (good ? '1' : '0'), c.measure === 'makes' && c.of > 0 && t.tries.length + 1 >= c.of)
    this.lastRow = r.key
    this.remember({ tally: t.id })
  },
  change(id, tries, done) {
    const t = this.series[id]
    t.tries = tries
    t.revision++
    t.done = done
    t.at = new Date(this.now).toISOString()
    if (done) this.showMark(t)
    localStorage.setItem(this.seriesKey, JSON.stringify(this.series))
    this.keep({ ...t })
  },
  // showMark shows a finished series at once; the server's own word replaces it.
  showMark(t) {
    if (!t.tries || this.state.marks.some((m) => m.id === t.id)) return
    const c = this.state.criteria.find((k) => k.id === t.criterion)
    const n = runs(t.tries)
    const streak = c && c.measure === 'streak'
    this.state.marks.push({ id: t.id, player: t.player, criterion: t.criterion, drill: t.drill, side: t.side, by: this.state.me.id, byName: this.state.me.name, struck: false,
      said: streak ? n.best + ' in a row' : n.good + ' of ' + n.tried, meets: Boolean(c) && (streak ? n.best >= c.want : n.tried >= c.of && n.good * c.of >= c.want * n.tried) })
  },
  finish(r) {
    const t = this.mine(r.player, r.criterion, r.side)
    if (t && t.tries) this.change(t.id, t.tries, true)
  },
  closeRound(round) {
    for (const t of Object.values(this.series)) {
      if (!t.done && t.tries && t.by === this.state.me.id && (!round || t.round === round)) this.change(t.id, t.tries, true)
    }
  },
  nextCriterion(r) { this.pick[r.player.id] = (this.pick[r.player.id] || 0) + 1 },
  side(r, side) { this.sides[r.player.id] = side },
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
  step(r, by) { this.values[r.key] = Math.max(0, (this.values[r.key] || 0) + by) },
  watch(r) {
    if (!r.timed) return this.step(r, 1)
    if (this.watches[r.key]) delete this.watches[r.key]
    else this.watches[r.key] = Date.now()
  },
  keepFigure(r, figure) {
    const c = r.criterion
    delete this.watches[r.key]
    const less = ['faults', 'time', 'tries'].includes(c.measure)
    this.mark(r, { figure }, String(figure), less ? figure <= c.want : figure >= c.want)
    delete this.values[r.key]
  },
  mark(r, what, said, meets) {
    const m = { kind: 'mark', id: newID(), player: r.player.id, criterion: r.criterion.id, side: r.side, round: this.round, at: new Date(this.now).toISOString(), figure: 0, points: [], ...what }
    this.state.marks.push({ ...m, said, meets, drill: '', by: this.state.me.id, byName: this.state.me.name, struck: false })
    this.keep(m)
    this.lastRow = r.key
    this.remember({ mark: m.id })
  },

  remember(what) {
    this.taps.push(what)
    if (this.taps.length > 50) this.taps.shift()
  },
  get canTakeBack() { return this.taps.length > 0 },
  takeBack() {
    const last = this.taps.pop()
    if (!last) return
    const t = last.tally && this.series[last.tally]
    if (t && !t.done) return this.change(t.id, t.tries.slice(0, -1), false)
    const id = last.tally || last.mark
    const m = this.state.marks.find((k) => k.id === id)
    if (m) m.struck = true
    this.keep({ kind: 'strike', id, at: new Date(this.now).toISOString() })
  },

  key(e) {
    if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return
    const row = this.rows.find((r) => r.key === this.lastRow)
    if (e.key === 'u') this.takeBack()
    else if (e.key === 'x' && row && row.pad === 'tries') this.tap(row, false)
    else if (e.key === ' ' && e.target.tagName !== 'BUTTON' && row && row.pad === 'tries') this.tap(row, true)
    else return
    e.preventDefault()
  },
})))
