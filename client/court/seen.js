// Who was seen, and by whom.
import { called, first, gone } from './words.js'
import { found } from '../hall.js'

// isSeen reports whether a member has looked at a player: marked them, begun a series, said something of a key since the session began, counted a try of their
// pair or a step of the ladder that they climb, or said something to them.
export const isSeen = (member, { marks, series, keys, since, counted = [] }) =>
  marks.some((m) => m.by === member && !m.struck) ||
  series.some((t) => t.tries && t.by === member) ||
  keys.some((k) => k.by === member && Date.parse(k.at) > since) ||
  counted.some((k) => k.by === member)

// whoseTry are the players of whom a try of a pair or a team was counted, whoseStep those who climb together.
export const whoseTry = (p) => (p.undone ? [] : p.whose === 'team' ? [p.player] : p.whose.split(' '))
export const whoseStep = (k, ladders = []) =>
  ladders.find((l) => l.block === k.block)?.units?.find((u) => u.player === k.player)?.players ||
  (k.player ? [k.player] : [])

// notSeen says who is not seen yet, three by name.
export function notSeen(players) {
  const names = players.map(called)
  if (!names.length) return ''
  return (
    'Not seen by you: ' +
    names.slice(0, 3).join(', ') +
    (names.length > 3 ? ' and ' + (names.length - 3) + ' more' : '')
  )
}

export const seen = {
  marksOf(player) {
    return found('marks', this.state.marks, this.beat, (m) => m.player).get(player) || []
  },
  keysOf(player) {
    return found('keys', this.state.keys, this.beat, (k) => k.player).get(player) || []
  },
  countedOf(player) {
    const { ladders } = window.Alpine.raw(this.state)
    const tries = found('triesOf', this.state.points || [], this.beat, whoseTry).get(player) || [],
      steps = found('stepsOf', this.state.climbs || [], this.beat, (k) => whoseStep(k, ladders)).get(player) || []
    const said = found('saidTo', this.state.feedback || [], this.beat, (f) => f.player || []).get(player) || []
    return [...tries, ...steps, ...said]
  },
  // since is from when on something is of this session: an hour before it was planned, or was begun where that was earlier.
  get since() {
    return Math.min(this.state.starts, this.at.bounds[0] ?? Infinity) - 3600000
  },
  seenBy(p, member) {
    return isSeen(member, {
      marks: this.marksOf(p.id),
      series: Object.values(this.series).filter((t) => t.player === p.id),
      keys: this.keysOf(p.id),
      since: this.since,
      counted: this.countedOf(p.id),
    })
  },
  seenCount: '', // how many of those here you have looked at, thought of with what is due
  countSeen() {
    const here = this.state.players.filter((p) => !gone.includes(p.said)).length
    this.seenCount = here - this.classOpen.length + ' of ' + here
  },
  get classOpen() {
    return this.state.players.filter((p) => !gone.includes(p.said) && !this.seenBy(p, this.state.me.id))
  },
  get classText() {
    return this.state.mayRun && this.started ? notSeen(this.classOpen) : ''
  },
  get seenRows() {
    const names = Object.fromEntries(window.Alpine.raw(this.state.marks).map((m) => [m.by, first(m.byName || '')]))
    return this.state.players
      .filter((p) => !gone.includes(p.said))
      .map((p) => {
        const by = [
          ...new Set(
            this.marksOf(p.id)
              .filter((m) => !m.struck)
              .map((m) => m.by),
          ),
        ]
        const g = this.groupsNow.find((k) => k.players.includes(p.id)),
          s = g ? this.groupAt(g, this.round) : null
        return {
          id: p.id,
          name: p.name,
          you: this.seenBy(p, this.state.me.id),
          due: (p.due || [])
            .map((id) => this.state.criteria.find((c) => c.id === id)?.wording)
            .filter(Boolean)
            .slice(0, 3)
            .join(', '),
          others: by
            .filter((b) => b !== this.state.me.id)
            .map((b) => names[b])
            .join(', '),
          where: s ? 'now at ' + this.stationNo(g, this.round) + ' ' + s.name : '',
        }
      })
      .sort((a, b) => Number(a.you) - Number(b.you) || b.due.length - a.due.length)
  },
}
