// Games: who plays with whom, who rests, when they swap, and how it stands. The phone and the big screen share it.
import { points, race } from '../pads.js'

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

// boardsOf are what is counted in a game: a board for each area, on which the sides that play there score against each other; where points are given and
// taken, one for each side. Taps are the tries of a key, word a series of them as the pads count it.
export function boardsOf(match, place, task, taps) {
  const areas = [...new Set(match.sides.filter((s) => s.no >= 0).map((s) => s.area))]
  return areas.flatMap((area) => {
    const [a, b] = match.sides.filter((s) => s.no >= 0 && s.area === area)
    const court = areas.length > 1 ? 'area ' + area : ''
    if (!b) return []
    const key = (...sides) => [place, '0.0', ...sides.map((s) => 's' + s.no)].join(' ')
    if (task.kind === 'score')
      return [a, b].map((s) => {
        const is = points(taps(key(s)), '', task.minus, 0)
        return {
          key: key(s),
          ids: [],
          court,
          kind: 'score',
          name: s.name,
          sub: s.names.join(', '),
          figure: is,
          done: is >= task.n,
          better: task.bonus ? 1 + task.bonus : 0,
          betterLabel: s.name + ': ' + (task.better || '') + ', ' + (1 + task.bonus) + ' points',
          goodLabel: s.name + ': a point',
          missLabel: s.name + ': ' + (task.minus ? task.minus + ' off' : 'a miss'),
        }
      })
    const to = task.kind === 'race' ? task.n : 0,
      r = race(taps(key(a, b)), to || Infinity, task.against || to || Infinity, to ? task.swap : '')
    const winner = [null, a, b][r.winner]
    return [
      {
        key: key(a, b),
        ids: [],
        court,
        kind: 'race',
        name: a.name + ' and ' + b.name,
        first: a.name,
        other: b.name,
        figure: r.first + ' : ' + r.other,
        sub: [
          to && 'first to ' + to + (task.against && task.against !== to ? ' against ' + task.against : ''),
          r.leg > 1 && 'second game',
          winner && winner.name + ' win',
          r.swap && 'swap sides',
        ]
          .filter(Boolean)
          .join(' · '),
        done: r.winner > 0 && !r.swap,
        goodLabel: 'Point for ' + a.name,
        missLabel: 'Point for ' + b.name,
      },
    ]
  })
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
