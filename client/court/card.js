// A player's card: what a coach wants to know of somebody whose turn it is, in one glance.
import { clipTime, clipsOf } from '../clips.js'
import { called, dayOf } from './words.js'

// goal is where the good ones went: six parts, the fuller the darker (0 to 4), with how many.
export function goal(zones) {
  const most = Math.max(1, ...zones)
  return zones.map((n, i) => ({ i, n: n || '', cls: 'goal-' + Math.ceil((4 * n) / most) }))
}

const few = (list) => list.slice(0, 3).join(' · ') + (list.length > 3 ? ' and ' + (list.length - 3) + ' more' : '')

export const card = {
  // cardOf is the card of the player of a row, at the criterion that is marked there.
  cardOf(p, criterion) {
    const wording = (id) => this.state.criteria.find((c) => c.id === id)?.wording || ''
    const today = this.marksOf(p.id).filter((m) => !m.struck && m.criterion)
    const lately = Object.entries(p.lately || {})
      .map(([id, said]) => ({ id, what: wording(id), said }))
      .filter((l) => l.what)
      .sort((a, b) => Number(b.id === criterion) - Number(a.id === criterion))
      .slice(0, 3)
    const zones = [...(p.zones || [])]
    for (const t of Object.values(this.series))
      if (t.player === p.id && t.zones)
        for (const z of t.zones.split(',')) if (z > 0 && z <= 6) zones[z - 1] = (zones[z - 1] || 0) + 1
    const notes = this.state.notes.filter((n) => n.player === p.id)
    return {
      cue: notes.find((n) => n.kind === 'cue' && n.says)?.says || p.cue || '',
      limits: p.limits.join(' · '),
      due: few(
        (p.due || [])
          .filter((id) => !today.some((m) => m.criterion === id))
          .map(wording)
          .filter(Boolean),
      ),
      lately,
      lacks: (p.lacks || []).join(' · '),
      zones: zones.length ? goal(Array.from({ length: 6 }, (_, i) => zones[i] || 0)) : [],
      home: p.home || '',
      feedback: this.feedbackOf(p.id),
      before: p.before || [],
      until: notes.filter((n) => n.due).map((n) => dayOf(n.due)),
    }
  },
  // cardSays reports whether the chosen player's card has anything to say: a helper's has little.
  get cardSays() {
    return this.clipsHere.length > 0 || Object.values(this.chosenCard).some((v) => v.length > 0)
  },
  get chosenCard() {
    const p = this.state.players.find((q) => q.id === this.chosen)
    return p ? this.cardOf(p, this.shown.find((r) => r.player.id === p.id)?.criterion.id) : noCard
  },
  // upCard says in a line what to know of whoever is up in an exercise of turns: of one or two everything, of more what they must not do.
  get upCard() {
    const ids = (this.turnNow?.up || []).map((i) => this.cycle.ids?.[i]),
      all = ids.length <= 2
    return this.state.players
      .filter((p) => ids.includes(p.id) && this.state.mayRun)
      .map((p) => {
        const c = this.cardOf(p, ''),
          says = [all && c.cue && '“' + c.cue + '”', c.limits, all && c.due && 'due: ' + c.due, all && c.lacks]
        const said = says.filter(Boolean).join(' · ')
        return said && ids.length > 1 ? called(p) + ': ' + said : said
      })
      .filter(Boolean)
      .join(' / ')
  },
  clipsHere: [], // of the chosen player, kept by a mirror on this device
  async findClips(player) {
    const all = await clipsOf(this.state.club).catch(() => [])
    if (this.chosen === player)
      this.clipsHere = all
        .filter((c) => c.player === player)
        .map((c) => ({
          id: c.id,
          name: clipTime(c.at, this.state.zone),
          to: '/courtside/' + this.state.session + '/mirror#clip=' + c.id,
        }))
  },
  cueText: '',
  setCue(e) {
    this.cueText = e.target.value
  },
  keepCue(r) {
    if (this.cueText.trim()) this.keepNote(r.player, 'cue', this.cueText.trim())
    this.cueText = ''
  },
}
const noCard = {
  cue: '',
  limits: '',
  due: '',
  lately: [],
  lacks: '',
  zones: [],
  home: '',
  feedback: '',
  before: [],
  until: [],
}
