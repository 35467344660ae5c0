// The pads: a row for each player, and what a tap does.
import { better, circuit, degrees, points, runs } from '../pads.js'
import { beside, first, foot, gone, less } from './words.js'
import { newID } from '../outbox.js'
import { asOnes } from './together.js'

const padsOf = {
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
  routine: 'routine',
  none: 'none',
}

// meets mirrors evidence.Meets: whether a mark's figure, tries and points are good enough for a criterion.
export function meets(c, m) {
  if (c.measure === 'makes') return m.tries >= c.of && m.figure * c.of >= c.want * m.tries
  if (c.measure === 'check') return c.points.length > 0 && c.points.every((_, i) => m.points[i])
  if (c.measure === 'angle') return Math.abs(m.figure - c.want) <= c.tolerance
  return less.includes(c.measure) ? m.figure <= c.want : m.figure >= c.want
}

// figures is what the pad of a criterion shows, from what was tapped so far: its kind, the figure, the words under it, and what else that kind needs.
export function figures(
  c,
  { tries = '', zones = '', value, points = [], falls = 0, end = 0, timing = false, now = 0 },
) {
  const pad = padsOf[c.measure] || 'figure'
  const plain = { pad, value: value ?? 0, figure: String(value ?? 0), figureUnder: c.measure }
  switch (pad) {
    case 'tries':
      return { ...plain, ...counted(c, tries, zones), canKeep: tries.length > 0 }
    case 'points':
      return { ...plain, points: c.points.map((text, i) => ({ text, on: Boolean(points[i]) })) }
    case 'grade': {
      const words = c.points.length ? c.points : ['', '', '', '']
      return { ...plain, grades: words.map((word, i) => ({ n: i + 1, word, text: i + 1 + (word ? ' ' + word : '') })) }
    }
    case 'count': {
      const left = end ? Math.max(0, Math.ceil((end - now) / 1000)) : 0
      return {
        ...plain,
        counting: left > 0,
        figureUnder: left ? left + ' s left' : end ? 'time is up' : 'in ' + c.of + ' s',
      }
    }
    case 'watch':
      return { ...plain, timing, figure: plain.value.toFixed(1), figureUnder: timing ? 'stop' : 'start' }
    case 'distance':
      return {
        ...plain,
        figure: c.feet ? (plain.value / foot).toFixed(1) : plain.value.toFixed(2),
        figureUnder: c.feet ? 'feet' : 'metres',
        by: c.feet ? foot / 2 : 0.05,
        max: Math.max(2, Math.ceil(c.want * 2)),
      }
    case 'angle':
      return { ...plain, ...angle(c, value ?? 90) }
    case 'routine':
      return { ...plain, ...routine(c, points) }
    case 'faults':
      return { ...plain, figureUnder: falls ? 'faults, ' + falls + ' falls' : 'faults' }
    default:
      return plain
  }
}

// counted is a series of tries: makes of attempts, the run now and the best, or where one is in a circuit.
function counted(c, tries, zones) {
  const n = runs(tries)
  if (c.measure === 'makes') {
    const t = c.target
    if (t?.kind === 'score')
      return { figure: String(points(tries, zones, t.minus, t.bonus)), figureUnder: 'of ' + t.n + ' points' }
    const asked = c.of ? ' (' + c.of + ')' : c.want ? ', to ' + c.want : ''
    return { figure: String(n.good), figureUnder: 'of ' + n.tried + asked }
  }
  if (c.measure === 'set') {
    const at = circuit(tries, c.target.n, c.target.of, c.target.back)
    return { figure: String(at.run), figureUnder: at.done ? 'all done' : 'skill ' + at.skill + ' of ' + c.target.of }
  }
  const words = n.tried + (n.tried === 1 ? ' try' : ' tries')
  return { figure: String(n.run), figureUnder: 'best ' + n.best + ' · ' + words }
}

// routine is a run-through, skill by skill: clean, a fault or a fall; tapping goes round.
export function routine(c, said) {
  const words = ['', 'fault', 'fall'],
    count = (what) => c.points.filter((_, i) => said[i] === what).length
  const faults = count(1) + count(2),
    falls = count(2)
  return {
    figure: c.points.length - faults + ' of ' + c.points.length,
    figureUnder: falls
      ? falls + (falls === 1 ? ' fall' : ' falls')
      : faults
        ? faults + (faults === 1 ? ' fault' : ' faults')
        : 'clean',
    skills: c.points.map((text, i) => ({
      i,
      text,
      word: words[said[i] || 0],
      cls: 'is-' + (words[said[i] || 0] || 'clean'),
    })),
    clean: c.points.map((_, i) => !said[i]),
    note: falls
      ? falls + (falls === 1 ? ' fall: ' : ' falls: ') + c.points.filter((_, i) => said[i] === 2).join(', ')
      : '',
  }
}

// angle is the arm at so many degrees, and the wedge in which it is good.
function angle(c, degrees) {
  const at = (deg, far) =>
    (60 + far * Math.cos((deg * Math.PI) / 180)).toFixed(1) +
    ' ' +
    (62 - far * Math.sin((deg * Math.PI) / 180)).toFixed(1)
  return {
    value: degrees,
    figure: degrees + '°',
    figureUnder: c.want + '° ± ' + c.tolerance,
    arm: 'M60 62L' + at(degrees, 52),
    wedge: 'M60 62L' + at(c.want - c.tolerance, 46) + 'A46 46 0 0 0 ' + at(c.want + c.tolerance, 46) + 'Z',
  }
}

export const pads = {
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
    const measure =
      { streak: 'streak', set: 'set', time: 'count', hold: 'hold', faults: 'faults', own: 'points' }[s.kind] || 'makes'
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
    const strokes = this.strokesIn
    if (s.routine?.length) Object.assign(drill, { measure: 'routine', points: s.routine, standard: 'shown' })
    else if (strokes) Object.assign(drill, { measure: 'count', of: strokes, standard: 'strokes in a turn' })
    else if (!s.kind || s.kind === 'gate') drill.measure = 'none' // nothing is counted there of a player alone
    if (s.routine?.length || strokes) return [drill, ...own]
    return (!s.kind || s.kind === 'gate' || asOnes.includes(s.kind)) && own.length ? own : [...own, drill]
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
    const up = this.tab === beside + this.cycle?.block ? this.upNow : []
    const later = (p) => Number(!up.includes(p.id)) + 2 * Number(this.isThrough(p)) // whoever is up is on top
    return [...players].sort((a, b) => later(a) - later(b) || at(a) - at(b)).map((p) => this.row(p))
  },
  // isThrough: they have shown the routine that is run through here, and make room for who has not
  isThrough(p) {
    const s = this.station
    return Boolean(s?.routine?.length) && this.marksOf(p.id).some((m) => m.drill === s.drill && !m.struck)
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
    // first stands what is due; of a routine the routine, and in intervals the strokes
    const due =
      this.station?.routine?.length || this.strokesIn ? 0 : all.findIndex((c) => c.id && (p.due || []).includes(c.id))
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
      meansCriterion: 'criterion:' + key,
      meansLimit: 'limit:' + key,
      chooseLabel: p.name + ': ' + c.wording + '. Another criterion',
      goodLabel: p.name + ': good',
      missLabel: p.name + ': miss',
      keepLabel: p.name + ': keep',
      gateLabel: p.name + ': the time of the gate',
      moreWord: p.name + ': notes',
      cueID: 'cue ' + key,
    }
    const shown = this.marksOf(p.id).filter(
      (m) => m.criterion === c.id && (c.id || m.drill === c.drill) && m.side === side && !m.struck,
    )
    const last = shown[shown.length - 1]
    r.what = c.measure === 'none' || (!c.id && all.length < 2) ? '' : c.wording // the drill itself stands above
    const came = last
      ? (last.by === this.state.me.id ? '' : first(last.byName || '') + ': ') + last.said + (last.meets ? ' ✓' : '')
      : ''
    r.sub = c.measure === 'none' ? '' : [c.id ? c.standard : '', came].filter(Boolean).join(' · ')
    const t = this.mine(p, c, side)
    Object.assign(
      r,
      figures(c, {
        tries: t?.tries,
        zones: t?.zones,
        value: this.values[key],
        points: this.points[key],
        falls: this.falls[key],
        end: this.downs[key],
        timing: Boolean(this.watches[key]),
        now: Date.now(),
      }),
    )
    r.tries = t?.tries || ''
    r.swipes = r.pad === 'tries' ? key : null
    r.zones = this.zonesOn
    const extra = c.target?.kind === 'score' ? c.target.bonus : 0
    r.better = extra ? '+' + (1 + extra) : ''
    r.betterLabel = p.name + ': ' + (c.target?.better || '')
    for (const g of r.grades || []) g.label = p.name + ': grade ' + g.n + (g.word ? ', ' + g.word : '')
    r.startLabel = p.name + ': start ' + c.of + ' seconds'
    r.angleLabel = p.name + ': angle in degrees'
    if (r.pad === 'tries') r.figureLabel = p.name + ': ' + r.figure + ' ' + r.figureUnder + '. Keep this'
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
      meets: Boolean(c) && meets(c, { figure: streak ? n.best : n.good, tries: n.tried }),
    })
  },
  tapBetter(r) {
    this.tap(r, true, Number(better))
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
  // skill: clean, a fault, a fall, and round again
  skill(r, i) {
    const said = [...(this.points[r.key] || [])]
    said[i] = ((said[i] || 0) + 1) % 3
    this.points[r.key] = said
    this.lastRow = r.key
  },
  keepRoutine(r) {
    this.mark(r, { points: r.clean, note: r.note }, r.figure + (r.note ? ', ' + r.note : ''), r.clean.every(Boolean))
    delete this.points[r.key]
  },
  keepRow(r) {
    // by keys: what the row's own button does
    if (r.pad === 'routine') this.keepRoutine(r)
    else if (r.pad === 'tries') this.finish(r)
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
    this.mark(
      r,
      { figure, note: this.falls[r.key] ? this.falls[r.key] + ' of them falls' : '' },
      String(figure),
      meets(c, { figure }),
    )
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
    if (last.said) {
      this.setWord(
        this.state.players.find((p) => p.id === last.said.player),
        last.said,
      )
      return
    }
    if (last.climb) return this.climb(last.climb.c, -last.climb.by, true)
    if (last.point) return this.untap(last.point)
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
    if (e.key === '?') return this.explainFocused() && e.preventDefault()
    if (e.key === 'Escape' && this.meansText) return this.closeMeans()
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
