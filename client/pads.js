// What the pads count, from the taps alone: '1' a good one, '0' a miss. Nothing here knows the page. The figures are those of the targets in
// package target.

// runs counts a series of tries.
export function runs(tries) {
  let run = 0,
    best = 0,
    good = 0
  for (const t of tries) {
    run = t === '1' ? run + 1 : 0
    good += t === '1' ? 1 : 0
    best = Math.max(best, run)
  }
  return { good, best, run, tried: tries.length }
}

// points counts a score: a good one is 1, a better one (its zone is 9) gives bonus more, a miss takes minus away, but nobody falls under nothing.
export function points(tries, zones, minus, bonus) {
  const where = zones ? zones.split(',') : []
  let n = 0
  for (const [i, t] of [...tries].entries())
    n = t === '1' ? n + 1 + (where[i] === better ? bonus : 0) : Math.max(0, n - minus)
  return n
}
export const better = '9'

// circuit is where a player stands in a set of streaks: skills × n in a row; a miss sends back all over, to the skill before, or to the start of this one.
export function circuit(tries, n, skills, back) {
  let skill = 0,
    run = 0
  for (const t of tries) {
    if (skill >= skills) break
    if (t === '1') {
      if (++run === n) {
        skill++
        run = 0
      }
      continue
    }
    run = 0
    if (back === 'all over') skill = 0
    else if (back === 'one back') skill = Math.max(0, skill - 1)
  }
  return { skill: Math.min(skill + 1, skills), run, done: skill >= skills }
}

// rungs is where a pair stands on a rally ladder that begins at a rung: rung j asks for j good ones in a row, a miss begins the rung again.
export function rungs(tries, from = 1, to = Infinity) {
  let rung = from,
    run = 0
  for (const t of tries) {
    if (rung > to) break
    run = t === '1' ? run + 1 : 0
    if (run === rung) {
      rung++
      run = 0
    }
  }
  return { rung: Math.min(rung, to), run, done: rung > to }
}

// team is a team's one count: everyone in turn, a miss by anyone costs all. Order are the players, taps [player, good]; next is whose turn it is.
export function team(order, taps) {
  const { run, best, tried } = runs(taps.map((t) => (t[1] ? '1' : '0')).join(''))
  const last = taps.length ? order.indexOf(taps[taps.length - 1][0]) : -1
  return { run, best, tried, next: order.length ? order[(last + 1) % order.length] : undefined }
}

// race is a game to two scores: points are '1' for the first side, '0' for the other. Sides are swapped when the first has half ('half'), or for a
// second game in which each plays to what the other did ('end'); swap says that it is time, leg which game it is.
export function race(points, to, against, swap = '') {
  const goal = [to, against || to]
  const at = { first: 0, other: 0, winner: 0, leg: 1, swap: false }
  for (const p of points) {
    if (at.winner && (swap !== 'end' || at.leg === 2)) break
    if (at.winner) {
      Object.assign(at, { first: 0, other: 0, winner: 0, leg: 2 })
      goal.reverse()
    }
    const before = Math.max(at.first / goal[0], at.other / goal[1])
    if (p === '1') at.first++
    else at.other++
    at.winner = at.first >= goal[0] ? 1 : at.other >= goal[1] ? 2 : 0
    at.swap =
      (swap === 'half' && before < 0.5 && Math.max(at.first / goal[0], at.other / goal[1]) >= 0.5) ||
      (swap === 'end' && at.leg === 1 && at.winner > 0)
  }
  return at
}

// letters is a game of matching shots: '1' gives the first a letter, '0' the other; whoever has so many is out.
export function letters(taps, to) {
  const { good, tried } = runs(taps)
  const other = tried - good
  return { first: good, other, winner: good >= to ? 2 : other >= to ? 1 : 0 }
}

// pairs makes partners of players in a ring and moves everybody on by one each time; with an odd number the one in the middle rests. i faces n − 1 − i.
export function pairs(players, turn) {
  const n = players.length,
    at = (i) => players[(i + turn) % n]
  const out = []
  for (let i = 0; i < Math.floor(n / 2); i++) out.push([at(i), at(n - 1 - i)])
  return { pairs: out, rests: n % 2 ? at((n - 1) / 2) : undefined }
}

// teach is the first key that fewer of the players have than it takes to hold, and how many lack it; -1 when the group has them all.
export function teach(keys, players, has, share = 0.7) {
  for (let i = 0; i < keys.length; i++) {
    const lack = players.filter((p) => !has(p, keys[i])).length
    if (players.length && players.length - lack < share * players.length) return { at: i, lack }
  }
  return { at: -1, lack: 0 }
}

// degrees is the angle at a joint between its fixed arm, level to the right, and a point; up is positive, whole degrees from 0 to 180.
export function degrees(dx, dy) {
  return Math.round(
    Math.min(
      180,
      Math.max(0, (Math.atan2(-dy, dx) * 180) / Math.PI < -90 ? 180 : (Math.atan2(-dy, dx) * 180) / Math.PI),
    ),
  )
}
