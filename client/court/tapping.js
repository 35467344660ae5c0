// What a tap on a pad does: a try, a point, a figure; and how it becomes a mark.
import { better, degrees, runs } from '../pads.js'
import { take } from '../hall.js'
import { newID } from '../outbox.js'
import { meets } from './figures.js'
import { asMark } from './sending.js'

export const tapping = {
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
        form: this.formCounted(c),
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
    const whole = c.measure === 'makes' && c.of > 0 && tries.length >= c.of
    this.change(t.id, tries, whole, zones)
    this.lastRow = r.key
    if (whole) this.otherSide(r)
    this.remember({ tally: t.id })
  },
  change(id, tries, done, zones) {
    const t = this.series[id]
    t.tries = tries
    if (zones !== undefined) t.zones = zones
    t.revision++
    t.done = done
    t.at = this.stamp()
    this.keep({ ...t })
    if (done) {
      this.showMark(t)
      take(this.state, { tallies: [{ ...t }] }) // an older word of it would begin it again
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
      at: this.moment(),
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
    if (!t || !t.tries) return
    this.change(t.id, t.tries, true)
    this.otherSide(r)
  },
  // otherSide: where both sides count, the one comes after the other by itself
  otherSide(r) {
    if (r.sides) this.side(r, r.side === 'left' ? 'right' : 'left')
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
    if (r.untouched) return // a needle that nobody has set says nothing
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
      says: said,
      meets,
      at: this.stamp(),
    }
    this.state.marks.push(asMark(m, this.state.me))
    this.keep(m)
    this.keepState()
    this.lastRow = r.key
    this.remember({ mark: m.id })
  },
}
