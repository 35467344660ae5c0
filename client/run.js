// The running clock: what was done to it, folded into the times at which everything begins, as plan.Fold does it on the server. Both are held
// to the same cases in internal/coach/plan/run/testdata/run.json. And how far this device's clock is off the server's.

// fold works the timeline out. segments have seconds and block; events have do and at, in milliseconds. bounds[i] to bounds[i + 1] is segment i.
export function fold(segments, events) {
  const t = { started: false, ended: false, bounds: [], pausedAt: 0, endedAt: 0 }
  const shift = (i, by) => {
    for (; i < t.bounds.length; i++) t.bounds[i] += by
  }
  for (const e of [...events].sort((a, b) => a.at - b.at)) {
    if (e.do === 'start' && !t.started) {
      t.started = true
      let at = e.at
      t.bounds = [at, ...segments.map((s) => (at += s.seconds * 1000))]
      continue
    }
    if (!t.started || t.ended) continue
    const now = t.pausedAt || e.at
    const i = index(t.bounds, now)
    if (e.do === 'pause') t.pausedAt ||= e.at
    else if (e.do === 'resume' && t.pausedAt) {
      shift(i + 1, e.at - t.pausedAt)
      t.pausedAt = 0
    } else if ((e.do === 'more' || e.do === 'less') && i < segments.length)
      shift(i + 1, e.do === 'more' ? 60000 : -Math.min(60000, t.bounds[i + 1] - now))
    else if (e.do === 'change' && i < segments.length) shift(i + 1, now - t.bounds[i + 1])
    else if (e.do === 'skip' && i < segments.length) {
      let j = i + 1
      for (; j < segments.length && segments[j].block === segments[i].block; j++) t.bounds[j] = now
      shift(j, now - t.bounds[j])
    } else if (e.do === 'back' && i > 0 && i <= segments.length) {
      // again, as long as it is planned, however soon it was left
      t.bounds[i - 1] = now
      shift(i, now + segments[i - 1].seconds * 1000 - t.bounds[i])
    } else if (e.do === 'end') {
      t.ended = true
      t.endedAt = now
    }
  }
  return t
}

// index is the segment running at a moment: the number of segments when the plan is over, 0 before it starts.
export function index(bounds, at) {
  for (let i = 1; i < bounds.length; i++) if (at < bounds[i]) return i - 1
  return Math.max(0, bounds.length - 1)
}

// roundShown is the round whose groups are shown while a segment runs: the one that runs, the next at a change, the first that is ahead, else the last.
export function roundShown(segments, segment) {
  const now = segments[segment]
  if (now?.kind === 'work') return now.round
  if (now?.kind === 'change') return now.round + 1
  const ahead = segments.slice(segment).find((s) => s.kind === 'work')
  return ahead ? ahead.round : Math.max(1, ...segments.map((s) => s.round))
}

// Offset is how far the server's clock is ahead of this device's: of the last answers the one that was under way shortest counts, since the
// server read its clock somewhere on the way (F. Cristian, Probabilistic clock synchronization, 1989: wrong by at most half of the way).
export class Offset {
  constructor(ms = 0) {
    this.samples = []
    this.ms = ms
    this.within = Infinity
  }
  add(sent, server, back) {
    if (back < sent) return
    this.samples = [...this.samples, { ms: server - (sent + back) / 2, way: back - sent }].slice(-8)
    const best = this.samples.reduce((a, b) => (b.way < a.way ? b : a))
    this.ms = best.ms
    this.within = best.way / 2
  }
}

// interval is where a player's turn of work and rest stands, seconds after the round began: the one at work changes every work seconds, and who is
// done rests. It gives {work, left, turn}, or null where nothing is prescribed.
export function interval(work, rest, seconds) {
  if (!work || !rest || seconds < 0) return null
  const cycle = work + rest,
    at = seconds % cycle
  return { work: at < work, left: at < work ? work - at : cycle - at, turn: Math.floor(seconds / cycle) + 1 }
}
