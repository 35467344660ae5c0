// The pads: a row for each player, and what they may be marked at.
import { figures } from './figures.js'
import { saw } from './seen.js'
import { beside, first, gone } from './words.js'
import { asOnes } from './together.js'

const asWritten = 'As written' // the form that changes nothing

export const pads = {
  series: {},
  pick: {},
  sides: {},
  points: {},
  values: {},
  watches: {},
  downs: {},
  falls: {},
  lastRow: '',
  chosen: '',
  order: {},
  stood: {}, // in which order the rows stand, by place and round
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
  // formCounted is the form of the drill in which its own target is counted: what was counted in another stays with that.
  formCounted(c) {
    return c.id || this.formName === asWritten ? '' : this.formName
  },
  mine(p, c, side) {
    return Object.values(this.series)
      .filter(
        (t) =>
          t.player === p.id &&
          t.criterion === c.id &&
          (c.id || t.drill === c.drill) &&
          t.side === side &&
          (t.form || '') === this.formCounted(c) &&
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
      this.order[key] = (this.state.leads?.includes(this.state.me.id) ? this.worthALook(players) : players).map(
        (p) => p.id,
      )
    const at = (p) => {
      const i = (this.order[key] || []).indexOf(p.id)
      return i < 0 ? 99 : i
    }
    const up = this.tab === beside + this.cycle?.block ? this.upNow : []
    const later = (p) => Number(!up.includes(p.id)) + 2 * Number(this.isThrough(p)) // whoever is up is on top
    const keyNow = this.keyNow
    const stands = this.stood[key] // rows change places only while nobody taps
    if (this.settled || !stands || players.some((p) => !stands.includes(p.id)))
      this.stood[key] = [...players].sort((a, b) => later(a) - later(b) || at(a) - at(b)).map((p) => p.id)
    const place = (p) => this.stood[key].indexOf(p.id)
    return [...players].sort((a, b) => place(a) - place(b)).map((p) => this.row(p, keyNow))
  },
  // isThrough: they have shown the routine that is run through here, and make room for who has not
  isThrough(p) {
    const s = this.station
    return Boolean(s?.routine?.length) && this.marksOf(p.id).some((m) => m.drill === s.drill && !m.struck)
  },
  get roundHere() {
    return this.everybody ? 0 : this.round
  },
  // worthALook are the players with those first at whom it matters most to look in this round: who was not seen before it, then who has most due; every
  // device of the lead says the same.
  worthALook(players) {
    const i = this.state.segments.findIndex((s) => s.kind === 'work' && s.round === this.round),
      before = Object.values(this.series).filter((t) => t.round < this.round),
      by = saw(this.evening(this.at.bounds[i] ?? Infinity, before))
    const worth = (p) => (by.get(p.id)?.has(this.state.me.id) ? 0 : 10) + this.dueHere(p).length
    return [...players].sort((a, b) => worth(b) - worth(a))
  },
  dueHere(p) {
    return (p.due || [])
      .map((id) => this.state.criteria.find((c) => c.id === id))
      .filter((c) => c && (!this.station || (this.station.criteria || []).includes(c.id)))
  },
  row(p, keyNow) {
    const all = this.choices(p),
      station = this.station
    // first stands what is due; of a routine the routine, and in intervals the strokes
    const due =
      station?.routine?.length || this.strokesIn ? 0 : all.findIndex((c) => c.id && (p.due || []).includes(c.id))
    const c = all[(this.pick[p.id] ?? Math.max(0, due)) % all.length]
    const side = c.sides ? this.sides[p.id] || 'right' : ''
    const key = [p.id, c.id || c.drill, side].join('|')
    const r = {
      key,
      player: p,
      name: p.name,
      limits: station?.aside[p.id] ? [...p.limits, 'here: ' + station.aside[p.id]] : p.limits,
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
    if (keyNow) {
      r.hasKey = this.hasKey(p.id, keyNow)
      r.keyLabel = p.name + ' has the key ' + keyNow
    }
    return r
  },
}
