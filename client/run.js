// The running clock: what was done to it, folded into the times at which everything begins, as plan.Fold does it on the server. Both are held
// to the same cases in internal/coach/plan/run/testdata/run.json. And how far this device's clock is off the server's.

// fold works the timeline out. segments have seconds, block and perhaps turns; events have do and at, in milliseconds. bounds[i] to bounds[i + 1] is segment
// i. A segment with turns is one step for each of them, any other is one step: steps[j] to steps[j + 1] is step j, and first[i] the first step of segment i.
export function fold(segments, events) {
  const t = { started: false, ended: false, bounds: [], steps: [], first: [], pausedAt: 0, endedAt: 0 }
  const plan = [] // the steps
  for (const [segment, s] of segments.entries()) {
    t.first.push(plan.length)
    const turns = s.turns?.length ? s.turns : [s.seconds]
    for (const seconds of turns) plan.push({ segment, block: s.block, ms: seconds * 1000 })
  }
  const back = new Set(events.filter((e) => e.do.startsWith(undo)).map((e) => e.do.slice(undo.length)))
  for (const e of [...events].sort((a, b) => a.at - b.at)) {
    if (back.has(e.id)) continue
    if (e.do === 'start' && !t.started) {
      t.started = true
      let at = e.at
      t.steps = [at, ...plan.map((s) => (at += s.ms))]
    } else if (t.started && !t.ended) happens(t, plan, e)
  }
  if (t.started) t.bounds = [...t.first.map((j) => t.steps[j]), t.steps[plan.length]]
  return t
}
const undo = 'undo '

// happens is one event of a session that runs.
function happens(t, plan, e) {
  const steps = t.steps,
    now = t.pausedAt || e.at,
    j = index(steps, now),
    over = j >= plan.length
  const shift = (i, by) => {
    for (; i < steps.length; i++) steps[i] += by
  }
  const whole = () => plan.findLastIndex((s) => s.segment === plan[j].segment) + 1 // where the segment ends
  const cut = (end, by) => {
    // a time is taken out of what is left: what does not fit any more begins at the end, and lasts nothing
    shift(end, -by)
    for (let i = j + 1; i < end; i++) steps[i] = Math.min(steps[i], steps[end])
  }
  const again = (from) => {
    // a step begins now, and those after it follow as they are planned until where the clock is
    steps[from] = now
    for (let i = from; i < j && i < plan.length; i++) {
      const to = steps[i] + plan[i].ms
      if (i + 1 === j || i + 1 === plan.length) return shift(i + 1, to - steps[i + 1])
      steps[i + 1] = to
    }
  }
  if (e.do === 'pause') t.pausedAt ||= e.at
  else if (e.do === 'resume' && t.pausedAt) {
    shift(j + 1, e.at - t.pausedAt)
    t.pausedAt = 0
  } else if (e.do === 'more' && !over) shift(j + 1, 60000)
  else if (e.do === 'less' && !over) cut(whole(), Math.min(60000, steps[whole()] - now))
  else if (e.do === 'shorter' && !over) shift(j + 1, -Math.min(60000, steps[j + 1] - now))
  else if (e.do === 'next' && !over) shift(j + 1, now - steps[j + 1])
  else if (e.do === 'change' && !over) cut(whole(), steps[whole()] - now)
  else if (e.do === 'skip' && !over) {
    let end = j + 1
    while (end < plan.length && plan[end].block === plan[j].block) end++
    cut(end, steps[end] - now)
  } else if (e.do === 'again' && j > 0 && j <= plan.length) again(j - 1)
  else if (e.do === 'back') {
    const segment = over ? (plan.at(-1)?.segment ?? -1) + 1 : plan[j].segment,
      from = plan.findIndex((s) => s.segment === segment - 1)
    if (from >= 0) again(from)
  } else if (e.do === 'end') {
    t.ended = true
    t.endedAt = now
  }
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
