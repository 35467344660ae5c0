// Games: who plays with whom, who rests, and when they swap. The phone and the big screen share it.

// benchAt is who of a side rests so many seconds after the game began, who rests next, and in how many seconds.
export function benchAt(side, seconds) {
  const n = side.stints.findLastIndex((s) => s.from <= seconds)
  const now = side.stints[Math.max(0, n)],
    next = side.stints[Math.max(0, n) + 1]
  return {
    stint: Math.max(0, n),
    rest: now?.rest ?? [],
    next: next?.rest ?? [],
    in: next ? next.from - seconds : 0,
  }
}

const clock = (seconds) => {
  const s = Math.max(0, Math.ceil(seconds))
  return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
}

export const games = {
  get match() {
    return this.going && this.current.what === 'game'
      ? (this.state.matches || []).find((m) => m.block === this.current.block) || null
      : null
  },
  get gameSides() {
    if (!this.match) return []
    const areas = Math.max(...this.match.sides.map((s) => s.area))
    const at = ((this.at.pausedAt || this.now) - this.at.bounds[this.segment]) / 1000
    return this.match.sides.map((s, key) => {
      const b = benchAt(s, at),
        names = (of) => of.map((i) => s.names[i]).join(', ')
      const swaps = b.next.length > 0
      return {
        key,
        cls: 'shape is-' + s.shape,
        path: s.path,
        name: s.name,
        label: [s.path ? '' : 'with both sides', areas > 1 ? 'area ' + s.area : ''].filter(Boolean).join(', '),
        on: names(s.names.map((_, i) => i).filter((i) => !b.rest.includes(i))),
        rests: names(b.rest),
        swap: swaps
          ? names(b.rest.filter((i) => !b.next.includes(i))) +
            ' for ' +
            names(b.next.filter((i) => !b.rest.includes(i)))
          : '',
        in: swaps ? clock(b.in) : '',
        stint: b.stint,
      }
    })
  },
  // a swap is heard
  heardSwap: '',
  followSwaps() {
    if (!this.running || !this.match) return
    const stints = this.segment + ' ' + this.gameSides.map((s) => s.stint).join()
    if (stints !== this.heardSwap && this.heardSwap.startsWith(this.segment + ' ')) this.signal.give(true)
    this.heardSwap = stints
  },
}
