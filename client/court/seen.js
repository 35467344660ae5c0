// Who was seen, and by whom.
import { called, first, gone, wasThere } from './words.js'
import { found } from '../hall.js'

// saw mirrors seen.By, which says what is seen and what is not: a map of players to those who have seen them.
export function saw(evening) {
  const out = new Map()
  const mark = (by, players) => {
    for (const p of players.filter(Boolean)) {
      if (!out.has(p)) out.set(p, new Set())
      out.get(p).add(by)
    }
  }
  const { session, marks = [], tallies = [], keys = [], feedback = [], looked = [], points = [], climbs = [] } = evening
  for (const m of marks) if (!m.struck) mark(m.by, [m.player])
  for (const t of tallies) if (t.tries) mark(t.by, [t.player])
  for (const w of [...keys, ...feedback, ...looked]) if ((w.session ?? session) === session) mark(w.by, [w.player])
  for (const p of points) if (!p.undone) mark(p.by, whose(evening, p))
  for (const k of climbs) mark(k.by, unit(evening, k.block, k.unit, k.player || ''))
  return out
}

const beside = 100 // what the place of what everybody does in a block is set off by

// whose are the players of whom a try was counted: both of a pair, and whose turn it was in a team.
function whose(evening, p) {
  if (p.whose === 'team') return [p.player]
  const group = /^u(\d+)$/.exec(p.whose)
  if (group) return unit(evening, p.place - beside, Number(group[1]), '')
  if (/^s\d+/.test(p.whose)) return [] // a game's score is the sides'
  const ids = p.whose.split(' ')
  return ids.length === 1 ? unit(evening, p.place - beside, 0, ids[0]) : ids
}

// unit are the players who climb a block's ladder together.
function unit({ ladders = [] }, block, no, player) {
  const l = ladders.find((l) => l.block === block)
  return l?.units?.find((u) => u.unit === no && (u.player || '') === player)?.players || [player]
}

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

const when = (at) => (typeof at === 'number' ? at : Date.parse(at))

export const seen = {
  marksOf(player) {
    return found('marks', this.state.marks, this.beat, (m) => m.player).get(player) || []
  },
  keysOf(player) {
    return found('keys', this.state.keys, this.beat, (k) => k.player).get(player) || []
  },
  // evening is what was done so far, or before a moment, as saw asks for it. It is read as it is: watching each of a thousand taps takes long.
  evening(before = Infinity, tallies = Object.values(this.series)) {
    const state = window.Alpine.raw(this.state),
      done = this.beat >= 0 && ((list) => (list || []).filter((i) => before === Infinity || when(i.at) < before))
    return {
      session: state.session,
      ladders: state.ladders,
      tallies,
      marks: done(state.marks),
      keys: done(state.keys),
      feedback: done(state.feedback),
      looked: done(state.looked),
      points: done(state.points),
      climbs: done(state.climbs),
    }
  },
  // since is from when on something is of this session: an hour before it was planned, or was begun where that was earlier.
  get since() {
    return Math.min(this.state.starts, this.at.bounds[0] ?? Infinity) - 3600000
  },
  // unseenByMe are those of these players whom you have not seen.
  unseenByMe(players) {
    const by = saw(this.evening())
    return players.filter((p) => !by.get(p.id)?.has(this.state.me.id))
  },
  seenCount: '', // how many of those who came you have seen
  classText: '', // and who of those here not yet: both are thought of at one time, so that they never differ
  countSeen() {
    const came = this.state.players.filter(wasThere),
      open = this.unseenByMe(came)
    this.seenCount = came.length - open.length + ' of ' + came.length
    this.classText = this.state.mayRun && this.started ? notSeen(open.filter((p) => !gone.includes(p.said))) : ''
  },
  get seenRows() {
    const by = saw(this.evening()),
      names = this.state.crew || {}
    return this.state.players
      .filter((p) => !gone.includes(p.said))
      .map((p) => {
        const g = this.groupsNow.find((k) => k.players.includes(p.id)),
          s = g ? this.groupAt(g, this.round) : null,
          who = by.get(p.id) || new Set()
        return {
          id: p.id,
          name: p.name,
          you: who.has(this.state.me.id),
          due: (p.due || [])
            .map((id) => this.state.criteria.find((c) => c.id === id)?.wording)
            .filter(Boolean)
            .slice(0, 3)
            .join(', '),
          others: [...who]
            .filter((b) => b !== this.state.me.id)
            .map((b) => first(names[b] || 'Somebody'))
            .join(', '),
          where: s ? 'now at ' + this.stationNo(g, this.round) + ' ' + s.name : '',
        }
      })
      .sort((a, b) => Number(a.you) - Number(b.you) || b.due.length - a.due.length)
  },
}
