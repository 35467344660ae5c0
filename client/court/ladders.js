// Ladders by mastery: who is on which step.
import { newID } from '../outbox.js'

// stepOf is the step a unit stands on, or a player who climbs alone or with a partner: the newest word counts.
export const stepOf = (climbs, block, unit, player = '') =>
  climbs
    .filter((k) => k.block === block && k.unit === unit && (k.player || '') === player)
    .reduce((last, k) => (Date.parse(k.at) >= Date.parse(last.at) ? k : last), { step: 0, at: 0 }).step

// help is a word for a unit: what those at the top do, what eases it for those still on the first step when half the time is over, else the step's key.
export function help(steps, at, part) {
  const s = steps[at]
  if (!s) {
    const harder = steps[steps.length - 1]?.next
    return harder ? 'Fast: ' + harder : 'Fast: help another group'
  }
  if (part > 0.5 && at === 0) return s.bridge ? 'Slow: take the bridge, ' + s.bridge : 'Slow: ease it, or help them'
  return s.key ? 'Key: ' + s.key : ''
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
    const part = this.going && from && this.now > from ? Math.min(1, (this.now - from) / (to - from)) : 0
    return units.map((g, i) => {
      const unit = g.player ? 0 : i
      const at = this.stepOf(l.block, unit, g.player),
        s = l.steps[Math.min(at, l.steps.length - 1)] || { name: '', target: '' },
        top = at >= l.steps.length
      return {
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
        help: help(l.steps, at, part),
        upLabel: g.name + ': it holds, next step',
        backLabel: g.name + ': a step back',
      }
    })
  },
  climb(c, by) {
    const l = this.ladderNow
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
