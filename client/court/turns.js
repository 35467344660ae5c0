// Intervals: who is at work, who is next, and what the others do meanwhile. The phone and the big screen share it.

import { beside } from './words.js'

// turnAt is where an exercise stands so many seconds after it began: who works and how long yet, or that nobody does, and in how many seconds the others
// are up. It knows players by their place in the cycle's list. Which turn is on may be known better: by the steps of the clock.
export function turnAt(cycle, seconds, n = cycle.slots.findLastIndex((s) => s.from <= seconds)) {
  const slots = cycle.slots,
    now = slots[n]
  if (!now) return null
  const at = seconds < now.to,
    ahead = slots.slice(n + 1)
  const until = (player) => ahead.find((s) => s.up.includes(player))?.from - seconds // NaN: not again in this exercise
  return {
    slot: n,
    time: now.time,
    up: at ? now.up : [],
    feed: at ? now.feed : (ahead[0]?.feed ?? []),
    next: ahead[0]?.up ?? [],
    left: at ? now.to - seconds : ahead.length ? ahead[0].from - seconds : 0,
    later: cycle.names
      .map((_, player) => ({ player, in: until(player) }))
      .filter((p) => p.in > 0 && !ahead[0]?.up.includes(p.player))
      .sort((a, b) => a.in - b.in),
  }
}

const clock = (seconds) => {
  const s = Math.max(0, Math.ceil(seconds))
  return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
}

export const turns = {
  get cycle() {
    return this.going && this.current.kind === 'turns'
      ? (this.state.cycles || []).find((c) => c.block === this.current.block) || null
      : null
  },
  get turnNow() {
    if (!this.cycle) return null
    const { n, left } = this.turnStep(0)
    const slots = this.cycle.slots,
      next = slots[n + 1]?.from ?? this.current.seconds // a turn that was made longer or shorter by hand ends when the clock says
    return turnAt(this.cycle, next - left, n)
  },
  // exerciseOf is which exercise of a block is on: the one that runs, or that comes after the long rest; the first before it begins.
  exerciseOf(block) {
    const done = this.state.segments.slice(0, this.going ? this.segment : 0)
    const before = done.filter((s) => s.block === block && s.kind === 'turns').length
    const all = this.state.tasks.filter((t) => t.block === block).length
    return Math.max(0, Math.min(all - 1, before))
  },
  // strokesIn is in how many seconds of work the strokes are counted, of an exercise that counts nothing else; 0 elsewhere.
  get strokesIn() {
    const s = this.cycle?.slots[0]
    return s && this.tab === beside + this.cycle.block && !this.station?.kind ? s.to - s.from : 0
  },
  get turnHead() {
    const t = this.turnNow
    if (!t) return ''
    return (t.up.length ? 'Work' : 'Get ready') + ' · turn ' + t.time + ' of ' + this.cycle.times
  },
  get turnLeft() {
    return this.turnNow ? clock(this.turnNow.left) : ''
  },
  get turnUp() {
    return this.called(this.turnNow?.up)
  },
  get turnNext() {
    return this.called(this.turnNow?.next)
  },
  get turnFeeds() {
    return this.called(this.turnNow?.feed)
  },
  get turnLater() {
    return (this.turnNow?.later || []).map((p) => ({ name: this.cycle.names[p.player], in: 'in ' + clock(p.in) }))
  },
  get turnJudge() {
    const up = this.turnNow?.up || []
    return this.cycle?.judges?.length ? [...new Set(up.map((i) => this.cycle.judges[i]))].join(', ') : ''
  },
  get turnLight() {
    return this.cycle?.light || ''
  },
  get turnSays() {
    return this.cycle?.says || ''
  },
  called(players) {
    return (players || []).map((i) => this.cycle.names[i]).join(', ')
  },
  // whose turn it is now is heard; the first of an exercise is called with it
  heardTurn: '',
  upNow: [], // the ids of those who are at work; it changes with the turn alone
  followTurns() {
    const t = this.running ? this.turnNow : null
    if (!t) return
    const turn = this.segment + ' ' + t.slot + (t.up.length ? '' : ' over')
    if (turn !== this.heardTurn && this.heardTurn.startsWith(this.segment + ' ')) this.signal.give(!t.up.length)
    if (turn !== this.heardTurn) this.upNow = t.up.map((i) => this.cycle.ids?.[i])
    this.heardTurn = turn
  },
}
