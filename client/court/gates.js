// Gates: so many by all together, then what comes next opens. Everybody counts for everybody; the phone and the big screen show the same.
import { newID } from '../outbox.js'
import { beside } from './words.js'

// all is what has been counted at a place: every tap adds to it, whoever made it.
export const all = (climbs, at) =>
  Math.max(
    0,
    climbs.filter((k) => k.unit === counted && k.block === at).reduce((sum, k) => sum + k.step, 0),
  )
const counted = -1 // in the place of a group: everybody

export const gates = {
  // gatesNow are the gates of what is on: those of the stations, or of what everybody does.
  get gatesNow() {
    const stations = this.current.what === 'stations' ? this.state.stations : []
    const tasks = (this.state.tasks || []).filter((t) => t.block === this.current.block)
    return [...stations.map((s, i) => this.gateOf(s, i)), ...tasks.map((t) => this.gateOf(t, beside + t.block))].filter(
      Boolean,
    )
  },
  gateOf(s, at) {
    if (s?.kind !== 'gate' || this.beat < 0) return null // the beat says that the list, read as it is, has changed
    const n = all(window.Alpine.raw(this.state.climbs), at)
    return { at, name: s.name, n, of: s.n, open: n >= s.n, says: n + ' of ' + s.n, then: s.opens }
  },
  get gate() {
    return typeof this.tab === 'number' ? this.gateOf(this.station, this.tab) : null
  },
  get gateFigure() {
    return this.gate?.says || ''
  },
  get gateSays() {
    return this.gate ? (this.gate.open ? 'Open: ' : 'then ') + this.gate.then : ''
  },
  get gateClass() {
    return 'court-gate' + (this.gate?.open ? ' is-open' : '')
  },
  countGate(n) {
    const k = {
      kind: 'count',
      id: newID(),
      block: this.tab,
      unit: counted,
      step: n,
      at: this.stamp(),
    }
    this.state.climbs.push({ ...k, by: this.state.me.id })
    this.beat++
    this.keep(k)
    this.keepState()
  },
  // followGates signals when one opens, on every screen.
  opened: null,
  followGates() {
    const open = this.gatesNow.filter((g) => g.open)
    const news = this.opened && this.running && open.find((g) => !this.opened.includes(g.at))
    this.opened = open.map((g) => g.at)
    if (!news) return
    this.flash = 'OPEN'
    this.spoken = news.name + ' is done. Now ' + news.then
    this.flashUntil = this.moment() + 4000
    this.signal.give(true)
  },
}
