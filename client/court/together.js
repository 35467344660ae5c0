// Pads for pairs and teams: rally ladder, race, team streak.
import { first } from './words.js'
import { newID } from '../outbox.js'
import { letters, pairs, race, rungs, team } from '../pads.js'

// asOnes are the kinds of target that a pair or a team has together.
export const asOnes = ['ladder', 'team', 'race', 'letters']

const word = (taps) => taps.map((t) => (t ? '1' : '0')).join('')

export const together = {
  together: {},
  turnOf: {},
  get asOne() {
    return this.station && asOnes.includes(this.station.kind) && this.present.length > 1 ? this.station.kind : ''
  },
  // ring is who is with whom: as the plan has it in a block of partners, else all in a ring, moved on by a button
  get ring() {
    const planned = this.pairIDs(this.tab)
    if (planned) {
      const here = new Set(this.present.map((p) => p.id)),
        on = planned.pairs.map((p, i) => ({ p, no: i + 1 })).filter(({ p }) => p.every((id) => here.has(id)))
      return { ...planned, pairs: on.map(({ p }) => p), nos: on.map(({ no }) => no) } // court by court
    }
    return pairs(
      this.present.map((p) => p.id),
      this.turnOf[this.tab + ' ' + this.roundHere] || 0,
    )
  },
  nameOf(id) {
    return first(this.state.players.find((p) => p.id === id)?.name || '')
  },
  oneKey(ids) {
    const turn = this.pairIDs(this.tab)?.turn ?? (this.turnOf[this.tab + ' ' + this.roundHere] || 0)
    return [this.tab, this.roundHere + '.' + turn, ...ids].join(' ')
  },
  get mayMove() {
    return Boolean(this.asOne) && this.asOne !== 'team' && !this.pairIDs(this.tab) // where the clock moves them there is nothing to press
  },
  // best is the rung a player has reached here today, with whomever.
  best(id) {
    let best = 1
    for (const [key, taps] of Object.entries(this.together)) {
      const [tab, , ...ids] = key.split(' ')
      if (tab === String(this.tab) && ids.includes(id) && taps.from)
        best = Math.max(best, rungs(word(taps), taps.from, this.station.n).rung)
    }
    return best
  },
  get ones() {
    const s = this.station
    if (!this.asOne) return []
    if (s.kind === 'team') {
      const order = this.present.map((p) => p.id)
      const key = this.oneKey(['team'])
      const t = team(order, this.together[key] || [])
      return [
        {
          key,
          ids: order,
          kind: 'team',
          swipes: key,
          name: 'The team',
          sub: 'now ' + this.nameOf(t.next) + ' · best ' + t.best + ' · to ' + s.n,
          figure: t.run,
          next: t.next,
          done: t.best >= s.n,
          goodLabel: this.nameOf(t.next) + ': good',
          missLabel: this.nameOf(t.next) + ': miss',
        },
      ]
    }
    const ring = this.ring
    return ring.pairs.map((ids, i) => {
      const key = this.oneKey(ids),
        taps = this.together[key] || []
      const name = (ring.nos ? ring.nos[i] + '  ' : '') + ids.map((id) => this.nameOf(id)).join(' and ')
      if (s.kind === 'race') {
        const r = race(word(taps), s.n, s.against, s.swap)
        return {
          key,
          ids,
          kind: 'race',
          name,
          figure: r.first + ' : ' + r.other,
          sub:
            'first to ' +
            s.n +
            (s.against && s.against !== s.n ? ' against ' + s.against : '') +
            (r.leg > 1 ? ' · second game' : '') +
            (r.winner ? ' · ' + this.nameOf(ids[r.winner - 1]) + ' wins' : '') +
            (r.swap ? ' · swap sides' : ''),
          done: r.winner > 0 && !r.swap,
          goodLabel: 'Point for ' + this.nameOf(ids[0]),
          missLabel: 'Point for ' + this.nameOf(ids[1]),
          good: this.nameOf(ids[0]),
          miss: this.nameOf(ids[1]),
        }
      }
      if (s.kind === 'letters') {
        const l = letters(word(taps), s.n)
        const out = l.winner ? this.nameOf(ids[2 - l.winner]) + ' is out' : 'to ' + s.n
        return {
          key,
          ids,
          kind: 'race', // the same two buttons
          name,
          figure: l.first + ' : ' + l.other,
          sub: 'letters ' + out,
          done: l.winner > 0,
          goodLabel: 'A letter for ' + this.nameOf(ids[0]),
          missLabel: 'A letter for ' + this.nameOf(ids[1]),
          good: this.nameOf(ids[0]),
          miss: this.nameOf(ids[1]),
        }
      }
      const from = taps.from || Math.max(...ids.map((id) => this.best(id)))
      const g = rungs(word(taps), from, s.n)
      return {
        key,
        ids,
        kind: 'ladder',
        swipes: key,
        from,
        name,
        figure: g.done ? s.n : g.rung,
        sub: g.done
          ? 'the top'
          : g.run + ' of ' + g.rung + ' in a row' + (from > 1 ? ' · carried on from ' + from : ''),
        done: g.done,
        goodLabel: name + ': rally',
        missLabel: name + ': dropped',
      }
    })
  },
  get restText() {
    return this.mayMove && this.ring.rests ? this.nameOf(this.ring.rests) + ' rests' : ''
  },
  tapOne(o, good) {
    const taps = [...(this.together[o.key] || []), o.kind === 'team' ? [o.next, good] : good]
    taps.from = o.from
    this.together = { ...this.together, [o.key]: taps }
    this.remember({ together: o.key })
    this.keepTogether()
  },
  keepTogether() {
    const taps = Object.entries(this.together).map(([k, t]) => [k, [...t], t.from, t.kept])
    this.kept.keep('together', taps).catch(() => {})
  },
  movePartners() {
    this.closeTogether(this.tab)
    const k = this.tab + ' ' + this.roundHere
    this.turnOf = { ...this.turnOf, [k]: (this.turnOf[k] || 0) + 1 }
  },
  // closeTogether makes a mark for each player of what their pair or team did.
  closeTogether(tab) {
    for (const [key, taps] of Object.entries(this.together)) {
      const [at, round, ...ids] = key.split(' ')
      const s = this.spotOf(Number(at))
      if (!s || !taps.length || taps.kept || (tab !== undefined && String(tab) !== at)) continue
      taps.kept = true
      const each = (player, figure, tries, note) => {
        if (player)
          this.keep({
            kind: 'mark',
            id: newID(),
            player,
            criterion: '',
            drill: s.drill,
            side: '',
            round: parseInt(round, 10),
            figure,
            points: [],
            note,
          })
      }
      if (s.kind === 'team') {
        const t = team([...new Set(taps.map((x) => x[0]))], taps)
        for (const id of new Set(taps.map((x) => x[0]))) each(id, t.best, 0, 'team of ' + t.best + ' in a row')
      } else if (s.kind === 'race') {
        const r = race(word(taps), s.n, s.against, s.swap)
        each(ids[0], r.first, 0, r.first + ' : ' + r.other + ' against ' + this.nameOf(ids[1]))
        each(ids[1], r.other, 0, r.other + ' : ' + r.first + ' against ' + this.nameOf(ids[0]))
      } else if (s.kind === 'letters') {
        const l = letters(word(taps), s.n)
        each(ids[0], l.first, 0, l.first + ' letters, ' + this.nameOf(ids[1]) + ' ' + l.other)
        each(ids[1], l.other, 0, l.other + ' letters, ' + this.nameOf(ids[0]) + ' ' + l.first)
      } else {
        const g = rungs(word(taps), taps.from || 1, s.n)
        for (const [i, id] of ids.entries()) each(id, g.rung, 0, 'rung ' + g.rung + ' with ' + this.nameOf(ids[1 - i]))
      }
    }
    this.keepTogether()
  },
}
