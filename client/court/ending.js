// The end: who was seen, what was shown, who is one mark short, what goes to whom, and what the next session takes over. Twenty seconds.
import { newID } from '../outbox.js'
import { saw } from './seen.js'
import { called, wasThere } from './words.js'

const names = (list) => list.map(called)

// summary is the evening, of those who were there: everything by first names.
export function summary({ players, marks, notes, criteria, by, me }) {
  const there = players.filter(wasThere)
  const good = marks.filter((m) => m.meets && !m.struck && m.criterion)
  const wording = (id) => criteria.find((c) => c.id === id)?.wording || ''
  const shown = there
    .map((p) => ({
      name: called(p),
      what: [...new Set(good.filter((m) => m.player === p.id).map((m) => wording(m.criterion)))].filter(Boolean),
    }))
    .filter((p) => p.what.length)
  const short = there
    .map((p) => ({
      name: called(p),
      what: (p.short || []).filter((id) => !good.some((m) => m.player === p.id && m.criterion === id)).map(wording),
    }))
    .filter((p) => p.what.filter(Boolean).length)
  const unseen = there.filter((p) => !by.get(p.id)),
    mine = there.filter((p) => by.get(p.id)?.has(me)).length,
    seen = there.length - unseen.length
  const say = (list) => list.map((p) => p.name + ' (' + p.what.join(', ') + ')').join(', ')
  const of = (kind) => names(there.filter((p) => notes.some((n) => n.player === p.id && n.kind === kind))).join(', ')
  return {
    seen: seen + ' of ' + there.length + ' seen' + (mine === seen ? '.' : ', ' + mine + ' by you.'),
    shown: say(shown),
    short: say(short),
    send: of('talk'),
    clips: of('clip'),
    unseen,
  }
}

export const ending = {
  notCarried: {},
  get endSummary() {
    if (!this.asking) return { seen: '', shown: '', short: '', send: '', clips: '', unseen: [] }
    const since = this.since
    return summary({
      players: this.state.players,
      marks: this.state.marks,
      criteria: this.state.criteria,
      notes: this.state.notes.filter((n) => Date.parse(n.at) > since),
      by: saw(this.evening()),
      me: this.state.me.id,
    })
  },
  get carryRows() {
    return this.endSummary.unseen.map((p) => ({ id: p.id, name: called(p), on: !this.notCarried[p.id] }))
  },
  toggleCarry(id) {
    this.notCarried = { ...this.notCarried, [id]: !this.notCarried[id] }
  },
  endIt() {
    for (const r of this.carryRows) if (r.on) this.keep({ kind: 'carry', id: newID(), player: r.id })
    this.steer('end')
    this.tab = 'seen'
  },
  get itselfText() {
    return this.state.itself ? 'Nobody ended this session; it ended by itself.' : ''
  },
}
