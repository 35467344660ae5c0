// A drill's drawing as figures, and what can be done to it. Every change gives a new drawing, so that undo is going back to the one before.
// Lengths are metres from the top left corner of the floor. Nothing here knows the page.
import { near } from './place.js'

export const ways = ['run', 'carry', 'pass', 'shot', 'lift']
export const marks = ['line', 'distance']
export const mostSteps = 6

const round = (n) => Math.round(n * 100) / 100
const within = (n, low, high) => Math.min(Math.max(n, low), high)

// snap goes to somebody who stands near, else to court lines or the grid; and it stays on what is shown.
export function snap(d, at, { xs = [], ys = [], people = [] } = {}) {
  const who = people.find((p) => Math.hypot(p[0] - at[0], p[1] - at[1]) < 0.7)
  if (who) return [...who]
  return [round(within(near(at[0], 0, xs), d.x, d.x + d.l)), round(within(near(at[1], 0, ys), d.y, d.y + d.w))]
}

// things

export function add(d, kind, at) {
  const t = { kind, x: at[0], y: at[1] }
  if (kind === 'player') t.no = 1 + Math.max(0, ...d.things.filter((o) => o.kind === 'player').map((o) => o.no || 0))
  return { ...d, things: [...d.things, t] }
}
export const change = (d, i, what) => ({ ...d, things: d.things.map((t, k) => (k === i ? { ...t, ...what } : t)) })
export const turn = (d, i) => change(d, i, { turn: ((d.things[i].turn || 0) + 45) % 360 })

// move takes a thing to another place; at the start of the first step the ways that begin at it come along, so that it still goes where it went.
export function move(d, i, to) {
  const t = d.things[i]
  const same = (p) => Math.hypot(p[0] - t.x, p[1] - t.y) < 0.01
  const steps = (d.steps || []).map((s, k) =>
    k
      ? s
      : { ...s, traces: s.traces.map((r) => (same(r.points[0]) ? { ...r, points: [to, ...r.points.slice(1)] } : r)) },
  )
  return { ...change(d, i, { x: to[0], y: to[1] }), steps }
}
export const remove = (d, i) => ({ ...d, things: d.things.filter((_, k) => k !== i) })

// ways, of a step; floor lines and distances belong to the whole drawing

const list = (d, step) => (step === 'marks' ? d.marks || [] : d.steps[step].traces)
const put = (d, step, traces) =>
  step === 'marks'
    ? { ...d, marks: traces }
    : { ...d, steps: d.steps.map((s, k) => (k === step ? { ...s, traces } : s)) }

export const where = (kind, step) => (marks.includes(kind) ? 'marks' : step)
export function draw(d, step, kind, points) {
  const to = where(kind, step)
  if (to !== 'marks' && !(d.steps || [])[step]) d = { ...d, steps: [...(d.steps || []), { says: '', traces: [] }] }
  return put(d, to, [...list(d, to), { kind, points }])
}
export const changeWay = (d, step, i, what) =>
  put(
    d,
    step,
    list(d, step).map((t, k) => (k === i ? { ...t, ...what } : t)),
  )
export const removeWay = (d, step, i) =>
  put(
    d,
    step,
    list(d, step).filter((_, k) => k !== i),
  )
export const way = (d, step, i) => list(d, step)[i]

// bend puts a point in the longest stretch of a way, or moves the last one that was put in.
export function bend(points, to) {
  if (points.length > 2) return [...points.slice(0, -2), to, points[points.length - 1]]
  return [points[0], to, points[points.length - 1]]
}

// steps

export const addStep = (d) =>
  (d.steps || []).length < mostSteps ? { ...d, steps: [...(d.steps || []), { says: '', traces: [] }] } : d
export const removeStep = (d, i) => ({ ...d, steps: d.steps.filter((_, k) => k !== i) })
export const sayStep = (d, i, says) => ({ ...d, steps: d.steps.map((s, k) => (k === i ? { ...s, says } : s)) })

// History is the drawings there were, and where in them one stands.
export class History {
  constructor(d) {
    this.all = [d]
    this.at = 0
  }
  get now() {
    return this.all[this.at]
  }
  keep(d) {
    if (JSON.stringify(d) === JSON.stringify(this.now)) return false
    this.all = [...this.all.slice(0, this.at + 1), d].slice(-200)
    this.at = this.all.length - 1
    return true
  }
  undo() {
    if (this.at) this.at--
    return this.now
  }
  redo() {
    if (this.at < this.all.length - 1) this.at++
    return this.now
  }
}
