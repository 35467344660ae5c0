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

// race is a game to two scores: points are '1' for the first side, '0' for the other.
export function race(points, to, against) {
  const { good, tried } = runs(points)
  const other = tried - good
  return { first: good, other, winner: good >= to ? 1 : other >= (against || to) ? 2 : 0 }
}

// pairs makes partners of players in a ring and moves everybody on by one each time; with an odd number the one in the middle rests. i faces n − 1 − i.
export function pairs(players, turn) {
  const n = players.length,
    at = (i) => players[(i + turn) % n]
  const out = []
  for (let i = 0; i < Math.floor(n / 2); i++) out.push([at(i), at(n - 1 - i)])
  return { pairs: out, rests: n % 2 ? at((n - 1) / 2) : undefined }
}

// teach is the first key that fewer than 70 % of the players have, and how many lack it; -1 when the group has them all.
export function teach(keys, players, has) {
  for (let i = 0; i < keys.length; i++) {
    const lack = players.filter((p) => !has(p, keys[i])).length
    if (players.length && players.length - lack < 0.7 * players.length) return { at: i, lack }
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
