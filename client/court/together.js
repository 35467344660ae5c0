// Pads for pairs and teams: rally ladder, race, team streak. Every try is a point of its own, which all devices share and each may add to.
import { boardsOf } from './games.js'
import { beside, called } from './words.js'
import { newID, sameID } from '../outbox.js'
import { letters, pairs, points, race, rungs, runs, team } from '../pads.js'
import { found } from '../hall.js'

// asOnes are the kinds of target that a pair or a team has together.
export const asOnes = ['ladder', 'team', 'race', 'letters']

const word = (taps) => taps.map((t) => (t.good ? '1' : '0')).join('')
const ofTeam = (taps) => taps.map((t) => [t.player, t.good])
const inOrder = (taps) => [...taps].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
const keyOf = (p) => p.place + ' ' + p.turn + ' ' + p.whose

// begins is the rung from which a pair goes on: the best that one of the two had reached at that place before the pair's first try. Points are a map from
// the pair's key to its tries in order.
export function begins(points, key, to) {
  const [place, , ...ids] = key.split(' '),
    began = (taps) => Math.min(...(taps || []).map((t) => Date.parse(t.at))) // of none: never
  let best = 1
  for (const [other, all] of points) {
    const [at, , ...who] = other.split(' '),
      taps = inOrder(all)
    if (other === key || at !== place || !ids.some((id) => who.includes(id)) || began(all) >= began(points.get(key)))
      continue
    best = Math.max(best, rungs(word(taps), begins(points, other, to), to).rung)
  }
  return best
}

// undealt is a game whose sides the plan does not know: the hall does.
const undealt = {
  sides: ['One side', 'The other side'].map((name, no) => ({ no, area: 1, name, names: [], ids: [], path: '' })),
}

// stuck reports whether a pair has tried often and seldom well: the step is too big for them, whatever it stands at (common practice, no source).
const stuck = (tries) => tries.length >= 8 && runs(tries.slice(-8)).good < 4

export const together = {
  turnOf: {},
  closed: {}, // pairs and teams whose marks were made here
  // pairPoints are the tries by pair or team, in the order in which they were made.
  get pairPoints() {
    return found('points', this.state.points || [], this.beat, (p) => (p.undone ? '' : keyOf(p)))
  },
  tapsOf(key) {
    return inOrder(this.pairPoints.get(key) || [])
  },
  // matchAt is the game that is played at a place, or nothing.
  matchAt(place) {
    const dealt = (this.state.matches || []).find((m) => place === beside + m.block)
    if (dealt) return dealt
    const game = this.state.segments.some((s) => place === beside + s.block && s.what === 'game')
    return game && ['race', 'score'].includes(this.spotOf(place)?.kind) ? undealt : undefined
  },
  // pairTries are the tries of the pairs here that can be dropped: a point in a race is somebody's.
  get pairTries() {
    return this.ones.filter((o) => ['ladder', 'team'].includes(o.kind)).map((o) => word(this.tapsOf(o.key)))
  },
  get asOne() {
    if (this.station && this.matchAt(this.tab)) return 'game'
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
    return called(this.state.players.find((p) => p.id === id))
  },
  oneKey(ids) {
    const turn = this.pairIDs(this.tab)?.turn ?? (this.turnOf[this.tab + ' ' + this.roundHere] || 0)
    return [this.tab, this.roundHere + '.' + turn, ...ids].join(' ')
  },
  get mayMove() {
    return Boolean(this.asOne) && !['team', 'game'].includes(this.asOne) && !this.pairIDs(this.tab) // where the clock moves them there is nothing to press
  },
  get ones() {
    const s = this.station
    if (!this.asOne) return []
    if (this.asOne === 'game') return boardsOf(this.matchAt(this.tab), this.tab, s, (key) => word(this.tapsOf(key)))
    if (s.kind === 'team') {
      const order = this.present.map((p) => p.id)
      const key = this.oneKey(['team'])
      const t = team(order, ofTeam(this.tapsOf(key)))
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
        taps = this.tapsOf(key)
      const [one, two] = ids.map((id) => this.nameOf(id))
      const shared = {
        key,
        ids,
        name: one + ' and ' + two,
        first: one,
        other: two,
        court: ring.nos ? ring.where + ' ' + ring.nos[i] : '',
      }
      const { name } = shared
      if (s.kind === 'race') {
        const r = race(word(taps), s.n, s.against, s.swap)
        return {
          ...shared,
          kind: 'race',
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
        }
      }
      if (s.kind === 'letters') {
        const l = letters(word(taps), s.n)
        const out = l.winner ? this.nameOf(ids[2 - l.winner]) + ' is out' : 'to ' + s.n
        return {
          ...shared,
          kind: 'race', // the same two buttons
          figure: l.first + ' : ' + l.other,
          sub: 'letters ' + out,
          done: l.winner > 0,
          goodLabel: 'A letter for ' + this.nameOf(ids[0]),
          missLabel: 'A letter for ' + this.nameOf(ids[1]),
        }
      }
      const from = begins(this.pairPoints, key, s.n)
      const g = rungs(word(taps), from, s.n)
      return {
        ...shared,
        kind: 'ladder',
        swipes: key,
        figure: g.done ? s.n : g.rung,
        bridge: this.state.mayRun && !this.everybody && stuck(word(taps)) ? this.bridgeName : '',
        bridgeLabel: name + ': bridge, ' + this.bridgeName,
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
  // tapBetterOne counts one that gives more.
  tapBetterOne(o) {
    for (let n = 0; n < o.better; n++) this.tapOne(o, true, n < o.better - 1)
  },
  tapOne(o, good, more = false) {
    const [place, turn, ...ids] = o.key.split(' ')
    const p = {
      id: newID(),
      place: Number(place),
      turn,
      whose: ids.join(' '),
      player: o.kind === 'team' ? o.next : '',
      good,
      undone: false,
      at: this.stamp(),
      by: this.state.me.id,
    }
    ;(this.state.points ||= []).push(p)
    this.beat++
    this.sendPoint(p)
    this.remember({ point: p.id, more })
  },
  sendPoint(p) {
    this.keep({ ...p, kind: 'point', block: p.place })
    this.keepState()
  },
  // untap takes a try back.
  untap(id) {
    const p = this.state.points.find((q) => q.id === id)
    p.undone = true
    this.beat++
    this.sendPoint({ ...p })
  },
  movePartners() {
    this.closeTogether(this.tab)
    const k = this.tab + ' ' + this.roundHere
    this.turnOf = { ...this.turnOf, [k]: (this.turnOf[k] || 0) + 1 }
  },
  // closeGame gives each player of a side what it came to.
  closeGame(s, key, sides, each) {
    const match = this.matchAt(Number(key.split(' ')[0]))
    if (!s.drill) return // the result stands with the session alone
    const of = (side) => match.sides.find((m) => 's' + m.no === side)
    if (sides.length === 1) {
      const is = points(word(this.tapsOf(key)), '', s.minus, 0)
      for (const id of of(sides[0])?.ids || []) each(id, is, is + (is === 1 ? ' point' : ' points'))
      return
    }
    const to = s.kind === 'race' ? s.n : Infinity
    const r = race(word(this.tapsOf(key)), to, s.against || to, s.kind === 'race' ? s.swap : '')
    for (const [side, own, other] of [
      [sides[0], r.first, r.other],
      [sides[1], r.other, r.first],
    ])
      for (const id of of(side)?.ids || []) each(id, own, own + ' : ' + other)
  },
  // closeTogether makes a mark for each player of what their pair or team did. Of all devices the one does it that tapped last; the marks have the
  // same number wherever they are made.
  closeTogether(tab) {
    for (const key of this.pairPoints.keys()) {
      const taps = this.tapsOf(key)
      const [at, turn, ...ids] = key.split(' ')
      const s = this.spotOf(Number(at))
      if (
        !s ||
        !key ||
        taps.at(-1).by !== this.state.me.id ||
        this.closed[key] ||
        (tab !== undefined && String(tab) !== at)
      )
        continue
      this.closed[key] = true
      const each = (player, figure, note) => {
        if (player)
          this.keep({
            kind: 'mark',
            id: sameID(this.state.session + ' ' + key + ' ' + player),
            player,
            criterion: '',
            drill: s.drill,
            side: '',
            round: parseInt(turn, 10),
            figure,
            points: [],
            note,
          })
      }
      if (this.matchAt(Number(at))) this.closeGame(s, key, ids, each)
      else if (s.kind === 'team') {
        const who = new Set(taps.map((x) => x.player))
        const t = team([...who], ofTeam(taps))
        for (const id of who) each(id, t.best, 'team of ' + t.best + ' in a row')
      } else if (s.kind === 'race') {
        const r = race(word(taps), s.n, s.against, s.swap)
        each(ids[0], r.first, r.first + ' : ' + r.other + ' against ' + this.nameOf(ids[1]))
        each(ids[1], r.other, r.other + ' : ' + r.first + ' against ' + this.nameOf(ids[0]))
      } else if (s.kind === 'letters') {
        const l = letters(word(taps), s.n)
        each(ids[0], l.first, l.first + ' letters, ' + this.nameOf(ids[1]) + ' ' + l.other)
        each(ids[1], l.other, l.other + ' letters, ' + this.nameOf(ids[0]) + ' ' + l.first)
      } else {
        const g = rungs(word(taps), begins(this.pairPoints, key, s.n), s.n)
        for (const [i, id] of ids.entries()) each(id, g.rung, 'rung ' + g.rung + ' with ' + this.nameOf(ids[1 - i]))
      }
    }
  },
}
