// Times from gates: who starts and who finishes is seen by beams, and the pad takes the time for who is up.

// timesOf pairs each start of a lane with the finish that follows it: {id, lane, seconds}, in the order of the finishes.
export function timesOf(crossings) {
  const began = new Map(),
    out = []
  for (const c of [...crossings].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) {
    if (c.what === 'start') began.set(c.lane, Date.parse(c.at))
    else if (began.has(c.lane)) {
      out.push({ id: c.id, lane: c.lane, seconds: Math.round(Date.parse(c.at) - began.get(c.lane)) / 1000 })
      began.delete(c.lane)
    }
  }
  return out
}

// odd reports whether a time is out of all reason beside the others: less than six tenths, or more than one and seven tenths of the one in the middle (common
// practice, no source).
export function odd(seconds, others) {
  if (others.length < 3) return false
  const middle = [...others].sort((a, b) => a - b)[Math.floor(others.length / 2)]
  return seconds < 0.6 * middle || seconds > 1.7 * middle
}

export const crossings = {
  gone: {}, // times that were taken, or are not valid
  get gateTimes() {
    const from = this.at.bounds[this.segment]
    return timesOf((this.state.crossings || []).filter((c) => Date.parse(c.at) >= from))
  },
  get gateTime() {
    return this.running ? this.gateTimes.find((t) => !this.gone[t.id]) || null : null
  },
  // upNext is the first at the watches who has no time in this round yet.
  get upNext() {
    const from = this.at.bounds[this.segment]
    return this.rows.find((r) => r.pad === 'watch' && !this.marksOf(r.player.id).some((m) => !m.struck && m.at >= from))
  },
  get crossedText() {
    const t = this.timed ? this.gateTime : null
    if (!t) return ''
    const others = this.gateTimes.filter((o) => o.id !== t.id).map((o) => o.seconds)
    const lane = this.gateTimes.some((o) => o.lane > 1) ? ', lane ' + t.lane : ''
    return 'Gate: ' + t.seconds.toFixed(2) + ' s' + lane + (odd(t.seconds, others) ? ': out of all reason?' : '')
  },
  get crossedLabel() {
    return this.crossedText && this.upNext ? 'for ' + this.upNext.name : ''
  },
  takeCrossed(r) {
    const t = this.gateTime
    this.gone = { ...this.gone, [t.id]: true }
    this.keepFigure(r, t.seconds)
  },
  dropCrossed() {
    this.gone = { ...this.gone, [this.gateTime.id]: true }
  },
}
