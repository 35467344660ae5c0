// Ladders by mastery: who is on which step.
import { newID } from '../outbox.js'
import { runs } from '../pads.js'
import { beside } from './words.js'

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

// help is a word for a unit: what those at the top or two steps ahead do, what eases it for those who are behind, else the step's key. Part is how much of the
// time is over, due the step on which they were expected.
export function help(steps, at, part, due = -1) {
  const s = steps[at]
  if (!s) {
    const harder = steps[steps.length - 1]?.next
    return harder ? 'Fast: ' + harder : 'Fast: help another group'
  }
  if (due >= 0 && at >= due + 2 && s.next) return 'Fast: ' + s.next
  if ((part > 0.5 && at === 0) || (due >= 0 && at < due))
    return s.bridge ? 'Slow: take the bridge, ' + s.bridge : 'Slow: ease it, or help them'
  return s.key ? 'Key: ' + s.key : ''
}

// stands is where tries have brought somebody on a step: the figure, and whether it holds; nothing where a step is not counted.
export function stands({ kind, n }, tries) {
  if (!['streak', 'total'].includes(kind) || !n) return null
  const r = runs(tries)
  return kind === 'streak'
    ? { figure: String(r.run), says: 'best ' + r.best + ' of ' + n, holds: r.best >= n }
    : { figure: String(r.good), says: 'of ' + r.tried + ', to ' + n, holds: r.good >= n }
}

export const ladders = {
  get ladderNow() {
    const b = this.current.block
    return this.state.ladders?.find((l) => l.block === b) || this.state.ladders?.[0] || null
  },
  stepOf(block, unit, player) {
    return stepOf(this.state.climbs, block, unit, player)
  },
  get climbers() {
    const l = this.ladderNow
    if (!l) return []
    const groups = this.groupsNow.length ? this.groupsNow : [{ name: 'Everybody', shape: 'circle', path: '' }]
    const units = l.units?.length ? l.units : groups
    const i = this.state.segments.findIndex((s) => s.block === l.block)
    const from = this.at.bounds[i],
      to = this.at.bounds[i + 1]
    const due = this.going && from && this.now > from ? expected(l.steps, (this.now - from) / 1000) : -1
    const part = this.going && from && this.now > from ? Math.min(1, (this.now - from) / (to - from)) : 0
    return units.map((g, i) => {
      const unit = g.player ? 0 : i
      const at = this.stepOf(l.block, unit, g.player),
        s = l.steps[Math.min(at, l.steps.length - 1)] || { name: '', target: '' },
        top = at >= l.steps.length,
        padKey = [beside + l.block, at + '.0', g.player || 'u' + unit].join(' '),
        stand = top
          ? null
          : stands(
              s,
              this.tapsOf(padKey)
                .map((t) => (t.good ? '1' : '0'))
                .join(''),
            )
      return {
        padKey,
        pad: Boolean(stand),
        figure: stand?.figure || '',
        says: stand?.says || '',
        kind: 'climb',
        swipes: stand ? padKey : null,
        goodLabel: g.name + ': good',
        missLabel: g.name + ': miss',
        pace: due >= 0 && !top && due !== at ? 'by now step ' + Math.min(due + 1, l.steps.length) : '',
        key: i,
        unit,
        player: g.player || '',
        name: g.name,
        cls: 'shape is-' + (g.shape || ''),
        path: g.path || '',
        no: top ? 'top' : at + 1 + ' of ' + l.steps.length,
        task: top ? 'All steps hold' : s.name,
        target: top ? '' : s.target,
        canBack: at > 0,
        top,
        help: help(l.steps, at, part, due),
        upLabel: g.name + ': it holds, next step',
        backLabel: g.name + ': a step back',
      }
    })
  },
  // tapClimb counts a try; when the target of the step is there, it holds, and they go on.
  tapClimb(c, good) {
    this.tapOne({ ...c, key: c.padKey }, good)
    const s = this.ladderNow.steps[this.stepOf(this.ladderNow.block, c.unit, c.player)]
    const tries = this.tapsOf(c.padKey)
      .map((t) => (t.good ? '1' : '0'))
      .join('')
    if (!s || !stands(s, tries)?.holds) return
    this.climb(c, 1)
    this.says = c.name + ': ' + s.name + ' holds.'
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
      at: new Date(this.now).toISOString(),
    }
    this.state.climbs.push({ ...k, by: this.state.me.id })
    this.keep(k)
  },
}
