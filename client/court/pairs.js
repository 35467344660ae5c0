// Partners: who is with whom on which court in this turn, who rests, and when they change. The phone and the big screen share it.
import { beside } from './words.js'

// turnOf is which turn of a block of partners is on at its step, and how many seconds it has left. Where the winner stays, only turns are known for
// which somebody has won; then the last of them stays.
export function turnOf(pairing, { n, left }) {
  const most = pairing.turns.length - 1
  return { n: Math.min(most, n), left, waits: n > most }
}

// resting are those who rest in a turn, the pair for which they count meanwhile, one for each as far as they go, and after how many turns they play again:
// 0 where there is none, or it is not known.
export function resting({ turns }, n) {
  const { teams, rests } = turns[n]
  return rests.map((player, k) => {
    const again = turns.findIndex((t, i) => i > n && !t.rests.includes(player))
    return { player, counts: k < teams.length ? k + 1 : 0, after: again < 0 ? 0 : again - n }
  })
}

const clock = (seconds) => {
  const s = Math.max(0, Math.ceil(seconds))
  return Math.floor(s / 60) + ':' + String(s % 60).padStart(2, '0')
}

export const pairs = {
  get pairing() {
    const p = (this.state.pairings || []).find((p) => p.block === this.current.block)
    return this.going && ['pairs', 'look'].includes(this.current.what) && p?.turns.length ? p : null
  },
  // byTurns: the clock is that of the turn; in a first look it is that of the look
  get byTurns() {
    return this.pairing && this.current.what === 'pairs'
  },
  get pairNow() {
    return this.pairing ? turnOf(this.pairing, this.turnStep(this.pairing.turn)) : null
  },
  get pairLeft() {
    return this.pairNow ? clock(this.pairNow.left) : ''
  },
  get pairHead() {
    const p = this.pairing
    return p ? 'Turn ' + (this.pairNow.n + 1) + (p.says ? ', ' + p.says : '') : ''
  },
  // pairTeams are those of this turn, by court
  get pairTeams() {
    const p = this.pairing
    if (!p) return []
    return p.turns[this.pairNow.n].teams.map((team, key) => ({
      key,
      no: key + 1,
      ids: team.map((i) => p.ids[i]).join(),
      names: team.map((i) => p.names[i]).join(' – '),
      feeds: p.way === 'loser feeds' ? p.names[team[this.pairNow.n % team.length]] + ' feeds first' : '',
    }))
  },
  // pairsListed: where each pair has a pad of its own its names stand there
  get pairsListed() {
    return this.asOne ? [] : this.pairTeams
  },
  // restCounts is who counts where, and restNames who only rests: in few words, where many do, and on the big screen.
  get restCounts() {
    const p = this.pairing
    const all = p ? resting(p, this.pairNow.n).filter((r) => r.counts) : []
    return all.map((r) => p.names[r.player] + ' ' + r.counts).join(' · ')
  },
  get restNames() {
    const p = this.pairing
    const all = p ? resting(p, this.pairNow.n).filter((r) => !r.counts) : []
    return all.map((r) => p.names[r.player]).join(', ')
  },
  get countsWord() {
    return 'rest, and count at ' + this.pairing?.where
  },
  get manyRest() {
    return this.pairing?.turns[this.pairNow.n].rests.length > 3
  },
  get pairRests() {
    const p = this.pairing
    if (!p || this.manyRest) return []
    return resting(p, this.pairNow.n).map(({ player, counts, after }) => ({
      key: player,
      name: p.names[player],
      says: [
        counts && 'counts at ' + p.where + ' ' + counts,
        after && !this.pairNow.waits && 'plays in ' + clock(this.pairNow.left + (after - 1) * p.turn),
      ]
        .filter(Boolean)
        .join(', '),
    }))
  },
  get pairSays() {
    return this.pairNow?.waits ? 'The next turn stands here when every pair has a winner.' : ''
  },
  get hasPairs() {
    const here = this.pairing && [beside + this.pairing.block, 'look'].includes(this.tab)
    return Boolean(here && (this.pairsListed.length || this.restCounts || this.restNames || this.pairSays))
  },
  // pairIDs are the pairs of the turn that is on at a place, for its pads; nothing where no turn is
  pairIDs(tab) {
    const p = this.pairing
    if (!p || tab !== beside + p.block) return null
    const id = (i) => p.ids[i],
      t = p.turns[this.pairNow.n]
    return {
      turn: this.pairNow.n,
      where: p.where,
      pairs: t.teams.filter((team) => team.length === 2).map((team) => team.map(id)),
      rests: t.rests.map(id)[0],
    }
  },
  // a change of partners is heard, and seen
  heardPair: '',
  followPairs() {
    if (!this.running || !this.pairing) return
    const turn = this.segment + ' ' + this.pairNow.n
    if (turn !== this.heardPair && this.heardPair.startsWith(this.segment + ' ')) {
      this.signal.give(true)
      this.flash = 'CHANGE'
      this.spoken = 'Change partners'
      this.flashUntil = this.moment() + (this.pairing.turn < 90 ? 1000 : 2500)
    }
    this.heardPair = turn
  },
}
