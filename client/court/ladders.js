// Ladders by mastery: who is on which step.
import { newID } from '../outbox.js'
import { circuit, points, rungs, runs } from '../pads.js'
import { beside } from './words.js'

const taps = (all) => all.map((t) => (t.good ? '1' : '0')).join('')

// stepOf is the step a unit stands on, or a player who climbs alone or with a partner: the newest word counts.
export const stepOf = (climbs, block, unit, player = '') =>
  climbs
    .filter((k) => k.block === block && k.unit === unit && (k.player || '') === player)
    .reduce((last, k) => (Date.parse(k.at) >= Date.parse(last.at) ? k : last), { step: 0, at: 0 }).step

// expected is the step on which they would be after so many seconds, as planned; -1 where nothing is known of a step.
export function expected(steps, seconds) {
  let at = 0
  for (let by = 0; at < steps.length; at++) {
    if (!steps[at].takes) return -1
    if ((by += steps[at].takes) > seconds) break
  }
  return at
}

// help is a word for a unit: what those at the top or two steps ahead do, and what eases it for those who are behind. Part is how much of the time is over,
// due the step on which they were expected.
export function help(steps, at, part, due = -1, alone = false) {
  const s = steps[at]
  if (!s) {
    const harder = steps[steps.length - 1]?.next
    return harder ? 'Fast: ' + harder : alone ? 'Through all steps' : 'Fast: help another group'
  }
  if (due >= 0 && at >= due + 2 && s.next) return 'Fast: ' + s.next
  if ((part > 0.5 && at === 0) || (due >= 0 && at < due))
    return s.bridge ? 'Slow: take the bridge, ' + s.bridge : alone ? 'Slow: ease it' : 'Slow: ease it, or help them'
  return ''
}

// stands is where tries have brought somebody on a step: the figure, what it means, and whether it holds; nothing where tries do not tell.
export function stands({ kind, n, of, back, minus }, tries) {
  if (!n) return null
  const r = runs(tries)
  if (kind === 'streak' || kind === 'team')
    return { figure: r.run, says: 'best ' + r.best + ' of ' + n, holds: r.best >= n }
  if (kind === 'total') return { figure: r.good, says: 'of ' + r.tried + ', to ' + n, holds: r.good >= n }
  if (kind === 'score') {
    const is = points(tries, '', minus, 0)
    return { figure: is, says: 'points, to ' + n, holds: is >= n }
  }
  if (kind === 'ladder') {
    const at = rungs(tries, 1, n)
    return { figure: at.run, says: 'of ' + at.rung + ', up to ' + n, holds: at.done }
  }
  if (kind === 'set' && of) {
    const at = circuit(tries, n, of, back)
    return { figure: at.run, says: 'of ' + n + ', skill ' + at.skill + ' of ' + of, holds: at.done }
  }
  if (kind === 'faults' && of) {
    const last = tries.slice(-of),
      faults = last.length - runs(last).good
    return {
      figure: faults,
      says: (faults === 1 ? 'fault in ' : 'faults in ') + last.length + ' of ' + of,
      holds: last.length === of && faults <= n,
    }
  }
  return null
}

export const ladders = {
  get ladderNow() {
    const b = this.current.block
    return this.state.ladders?.find((l) => l.block === b) || this.state.ladders?.[0] || null
  },
  stepOf(block, unit, player) {
    return stepOf(this.state.climbs, block, unit, player)
  },
  ladderHalf: false, // half of the ladder's time is over
  ladderDue: -1, // the step on which one would be by now; -1 before it began
  // timeLadder looks at the clock once in a while: who stands where is not drawn anew with each second.
  timeLadder() {
    const l = this.ladderNow
    const i = l ? this.state.segments.findIndex((s) => s.block === l.block) : -1,
      from = this.at.bounds[i],
      to = this.at.bounds[i + 1]
    const on = this.going && from && this.now > from
    this.ladderHalf = Boolean(on && this.now - from > (to - from) / 2)
    this.ladderDue = on ? expected(l.steps, (this.now - from) / 1000) : -1
  },
  get climbers() {
    const l = this.ladderNow
    if (!l) return []
    return (l.units || []).map((u, i) => this.climber(l, u, u.unit, i))
  },
  climber(l, g, unit, key) {
    const due = this.ladderDue,
      at = this.stepOf(l.block, unit, g.player),
      s = l.steps[at],
      padKey = [beside + l.block, at + '.0', g.player || 'u' + unit].join(' '),
      counted = s && (g.player || s.kind === 'team') // a group's tries are not one series, but where they are a team
    const stand = counted ? stands(s, taps(this.tapsOf(padKey))) : null
    return {
      padKey,
      pad: Boolean(stand),
      figure: stand?.figure ?? '',
      says: stand?.says || '',
      kind: 'climb',
      swipes: stand ? padKey : null,
      goodLabel: g.name + ': good',
      missLabel: g.name + ': miss',
      pace: due > at && s ? 'by now step ' + Math.min(due + 1, l.steps.length) : '',
      key,
      at,
      unit,
      player: g.player || '',
      name: g.name,
      cls: 'shape is-' + (g.shape || ''),
      path: g.path || '',
      no: s ? at + 1 + ' of ' + l.steps.length : 'top',
      canBack: at > 0,
      top: !s,
      help: help(l.steps, at, this.ladderHalf ? 1 : 0, due, Boolean(g.player)),
      upLabel: g.name + ': it holds, next step',
      backLabel: g.name + ': a step back',
    }
  },
  // climbSteps are the steps on which somebody stands, or would by now; what is said there is not said again with each of them.
  get climbSteps() {
    const l = this.ladderNow
    if (!l) return []
    const on = this.climbers,
      due = this.ladderDue
    return l.steps
      .map((s, i) => ({ ...s, no: i + 1, on: on.filter((c) => c.at === i).length, due: i === due }))
      .filter((s) => s.on || s.due)
  },
  // tapClimb counts a try; when the target of the step is there, it holds, and they go on.
  tapClimb(c, good) {
    this.tapOne({ ...c, key: c.padKey }, good)
    const s = this.ladderNow.steps[this.stepOf(this.ladderNow.block, c.unit, c.player)]
    if (!s || !stands(s, taps(this.tapsOf(c.padKey)))?.holds) return
    this.climb(c, 1)
    this.news = c.name + ': “' + s.name + '” holds.'
  },
  climb(c, by, back = false) {
    const l = this.ladderNow
    if (!back) this.remember({ climb: { c: { unit: c.unit, player: c.player }, by } })
    const k = {
      kind: 'climb',
      id: newID(),
      block: l.block,
      unit: c.unit,
      player: c.player,
      step: Math.max(0, Math.min(l.steps.length, this.stepOf(l.block, c.unit, c.player) + by)),
      at: this.stamp(),
    }
    this.state.climbs.push({ ...k, by: this.state.me.id })
    this.beat++
    this.keep(k)
  },
}
