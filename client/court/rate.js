// Stuck or too easy: from what was counted so far, how many get to the target before the signal, and which target would be about right.
import { runs } from '../pads.js'

export const mostLeft = 120 // tries ahead that are looked at

// reaches mirrors target.Reaches: the chance that somebody who made good of so many tries, and stands at a run of so many, gets to n within left more, in a
// row or in all; exact for a chance of which only these tries are known (Jeffreys' prior).
export function reaches(kind, n, { good, tries, run }, left) {
  if (kind !== 'streak' && kind !== 'total') return 0
  const streak = kind === 'streak',
    start = streak ? run : good
  if (start >= n) return 1
  left = Math.min(left, mostLeft)
  let at = [new Float64Array(n)]
  at[0][start] = 1
  let reached = 0
  for (let t = 0; t < left; t++) {
    const next = Array.from({ length: t + 2 }, () => new Float64Array(n))
    at.forEach((row, s) => {
      const p = (good + s + 0.5) / (tries + t + 1)
      for (let r = 0; r < n; r++) {
        if (!row[r]) continue
        if (r + 1 === n) reached += row[r] * p
        else next[s + 1][r + 1] += row[r] * p
        next[s][streak ? 0 : r] += row[r] * (1 - p)
      }
    })
    at = next
  }
  return reached
}

// What is needed before anything is said, and when a target is too hard or too easy: common practice, no source.
const leastTries = 4 // a player, on average
const stuck = 0.5,
  easy = 0.9,
  right = 0.7, // what another target should give
  fewGood = 0.4 // of all tries: the task is too big a step

// rate looks at those of whom something was counted: the tries as they were tapped, the best run included. Elapsed and left are of the round, in
// milliseconds. It answers nothing where too little is known, else the share that gets there, and another target where this one is too hard or too easy.
export function rate({ kind, n }, counted, elapsed, left) {
  const all = counted.filter((tries) => tries.length)
  const tapped = all.reduce((sum, t) => sum + t.length, 0)
  if (!all.length || elapsed <= 0 || tapped < leastTries * all.length) return null
  if (!['streak', 'total'].includes(kind) || !n) {
    // of other targets only how many are good is known
    const good = all.reduce((sum, t) => sum + runs(t).good, 0) / tapped
    return { share: good, few: true, hard: good < fewGood, easy: false, other: 0, otherShare: 0 }
  }
  const players = all.map((tries) => ({ ...runs(tries), tries: tries.length }))
  const share = (to) =>
    players.reduce((sum, p) => {
      const there = (kind === 'streak' ? p.best : p.good) >= to
      return sum + (there ? 1 : reaches(kind, to, p, Math.round((p.tries * left) / elapsed)))
    }, 0) / players.length
  const now = share(n)
  let other = 0
  if (now < stuck) {
    for (let to = n - 1; to > 0 && !other; to--) if (share(to) >= right) other = to
  } else if (now >= easy && players.every((p) => (kind === 'streak' ? p.best : p.good) >= n)) {
    for (let to = n + 1; to <= 3 * n; to++) if (share(to) >= right) other = to
  }
  return {
    share: now,
    hard: now < stuck,
    easy: Boolean(other) && now >= easy,
    other,
    otherShare: other ? share(other) : 0,
  }
}

const inTen = (share) => Math.round(10 * share) + ' in 10'
const words = (kind, n) => (kind === 'streak' ? n + ' in a row' : n + ' good ones')

// rateSays is it in a line, or nothing where the target is about right.
export function rateSays(kind, r) {
  if (!r || !(r.hard || r.easy)) return ''
  if (r.few) return 'Only ' + inTen(r.share) + ' are good.'
  const says = r.easy ? 'All counted got there.' : 'At this rate ' + inTen(r.share) + ' get there before the signal.'
  return r.other ? says + ' ' + words(kind, r.other) + ': ' + inTen(r.otherShare) + '.' : says
}

export const rating = {
  // rated is how it goes at the station, of those at the pads.
  rated(rows) {
    const from = this.at.bounds[this.segment],
      counted = this.asOne ? this.pairTries : rows.filter((r) => r.pad === 'tries').map((r) => r.tries)
    return rate(this.station, counted, this.now - from, this.msLeft)
  },
  aim() {
    this.ask('target', { station: this.tab, group: this.state.groups.indexOf(this.here), n: this.aimTo })
  },
  aimTo: 0,
}
