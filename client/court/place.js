// Tabs, and the station one stands at.
import { beside, gone } from './words.js'

// inForm is a place as the group there does it: the form in force gives the target, its words and how many tries each has.
export function inForm(spot, group) {
  const f = spot?.visits && spot.forms?.[group]
  if (!f) return spot
  return f.n ? { ...spot, target: f.target, n: f.n, against: f.against, each: f.each } : { ...spot, each: f.each }
}

export const place = {
  tab: 'register',
  get back() {
    return this.state.mayRun ? '/sessions/' + this.state.session : '/'
  },
  get whatIf() {
    return '/sessions/' + this.state.session + '/what-if?back=courtside'
  },
  get doorLink() {
    return '/courtside/' + this.state.session + '/door'
  },
  get hallLink() {
    return '/courtside/' + this.state.session + '/hall'
  },
  get mirrorLink() {
    return '/courtside/' + this.state.session + '/mirror'
  },
  get ownTab() {
    const own = this.state.stations.findIndex((s) => s.leader === this.state.me.id)
    return own >= 0 ? own : this.state.stations.length ? 0 : this.state.mayRun ? 'register' : this.tabOf(this.current)
  },
  // tabOf is where a segment's own task is: a station, the look, the ladder, or what everybody does.
  tabOf(s) {
    if (s.what === 'stations') return this.ownTab
    if (s.what === 'look' && this.hasLook) return 'look'
    if (s.what === 'ladder' && this.hasLadder) return 'ladder'
    return this.state.tasks.some((t) => t.block === s.block) ? beside + s.block : this.state.mayRun ? 'register' : ''
  },
  get nowTab() {
    const t = this.going && !this.over ? this.tabOf(this.current) : ''
    return t >= beside ? t : ''
  },
  follow(last) {
    // whoever was at what is over now goes on to what has begun
    const was = this.state.segments[last]
    if (
      !this.over &&
      was &&
      (typeof this.tab === 'number' || this.tab === this.tabOf(was)) &&
      this.tabOf(was) !== this.tabOf(this.current)
    )
      this.show(this.tabOf(this.current))
  },
  spotOf(tab) {
    if (tab < beside) return this.state.stations[tab]
    const of = this.state.tasks.filter((t) => t.block === tab - beside) // one, or an exercise after the other
    return of.length > 1 ? of[this.exerciseOf(tab - beside)] : of[0]
  },
  // tabs are the stations with the shape of who is there and what is due on each, and what is beside them; before the start the register is first.
  get tabs() {
    const going = this.started && !this.ended,
      lead = this.state.mayRun
    const stations = this.state.stations.map((s, i) => {
      const g = this.state.groups[(s.visits || [])[this.round - 1]],
        due = this.dueAt[i] || 0
      return {
        tab: i,
        word: String(i + 1),
        under: due ? due + ' due' : '',
        label: 'Station ' + (i + 1) + ': ' + s.name + (g ? ', ' + g.name : '') + (due ? ', ' + due + ' due' : ''),
        path: g ? g.path : '',
        cls: 'shape is-' + (g ? g.shape : ''),
        own: s.leader === this.state.me.id,
      }
    })
    const word = (on, tab, word, under = '') => (on ? [{ tab, word, under, label: word, path: '', cls: '' }] : [])
    const register = word(lead, 'register', 'Register', this.hereCount),
      look = word(this.hasLook, 'look', 'Look')
    return [
      ...(going ? [] : [...register, ...look]),
      ...word(this.nowTab, this.nowTab, 'Now'),
      ...(going && this.current.what === 'look' ? look : []),
      ...stations,
      ...word(this.hasLadder, 'ladder', 'Ladder'),
      ...word(lead, 'seen', 'Seen', going ? this.seenCount : ''),
      ...(going ? [...(this.current.what === 'look' ? [] : look), ...register] : []),
    ]
  },
  dueAt: [], // players at each station who are due to be looked at there, and were not by anybody today
  countDue() {
    const seen = new Set(
      window.Alpine.raw(this.state.marks)
        .filter((m) => !m.struck)
        .map((m) => m.player + m.criterion),
    )
    this.dueAt = this.state.stations.map((s) => {
      const there = this.state.groups[(s.visits || [])[this.round - 1]]?.players || []
      return there.filter((id) => {
        const p = this.state.players.find((q) => q.id === id)
        return p && !gone.includes(p.said) && (p.due || []).some((c) => s.criteria?.includes(c) && !seen.has(id + c))
      }).length
    })
  },
  get hasLook() {
    return this.state.mayRun && (this.state.look || []).length > 0
  },
  get hasLadder() {
    return (this.state.ladders || []).length > 0
  },
  show(tab) {
    this.tab = tab
    this.says = this.news = this.meansText = ''
    this.keysOpen = false
    this.chosen = ''
    scrollTo(0, 0)
  },
  get station() {
    if (typeof this.tab !== 'number') return null
    const s = this.spotOf(this.tab) || null
    const group = s?.visits?.[this.round - 1]
    return inForm(s?.own?.find((o) => o.group === group)?.task || s, group) // a group may have a task of its own there
  },
  get everybody() {
    return this.tab >= beside
  },
  get task() {
    return this.station || { name: '', target: '' }
  }, // the page still asks while the station is taken away
  get here() {
    if (this.everybody) return { name: 'Everybody', path: '', shape: '', players: this.state.players.map((p) => p.id) }
    const g = this.station && this.station.visits ? this.station.visits[this.round - 1] : -1
    return g >= 0 ? this.state.groups[g] : null
  },
  get hereName() {
    return this.here ? this.here.name : ''
  },
  get herePath() {
    return this.here ? this.here.path : ''
  },
  get hereClass() {
    return 'shape is-' + (this.here ? this.here.shape : '')
  },
  get emptyText() {
    return this.state.groups.length ? 'Nobody is here in this round.' : 'No groups are dealt yet.'
  },
  get cautionText() {
    return (this.station?.cautions || []).join(' · ')
  },
  get forfeitText() {
    const f = this.station?.forfeits || []
    return f.length ? 'After a fault, choose: ' + f.join(', or ') : ''
  },
  get smallTable() {
    return (this.station?.table || []).map((cells, i) => ({ no: i, cells: cells.map((text, k) => ({ no: k, text })) }))
  },
  get setupText() {
    return this.station?.setup || ''
  },
  get writtenText() {
    return this.station?.written ? 'today; the drill says ' + this.station.written : ''
  },
  writeSetup(el) {
    el.innerHTML = this.setupText
  }, // made of Markdown and cleaned by the server
  get hasWhat() {
    return Boolean(this.setupText || this.drawn || this.smallTable.length)
  },
  get drawn() {
    return this.station?.drawn ? '/courtside/' + this.state.session + '/drawing/' + this.tab : ''
  },
  get drawnAlt() {
    return 'Drawing of ' + this.task.name
  }, // in words beside it: the setting up
  get hasTurn() {
    return Boolean(this.turnNow && this.tab === beside + this.cycle.block)
  },
  get hasSides() {
    return Boolean(this.match && this.tab === beside + this.match.block)
  },
  get eachText() {
    return this.station?.each
      ? 'about ' + this.station.each + (this.station.each === 1 ? ' try each' : ' tries each')
      : ''
  },
  get turnText() {
    const t = this.turn(this.station)
    return t ? (t.work ? 'Go, turn ' + t.turn + ' · ' : 'Rest, next turn in ') + Math.ceil(t.left) + ' s' : ''
  },
  get turnClass() {
    const t = this.turn(this.station)
    return 'court-turn' + (t && t.work ? ' is-go' : '')
  },
  get roundWord() {
    return ['work', 'change'].includes(this.current.kind) ? 'round ' + this.current.round + ' of ' + this.rounds : ''
  },
  get roundText() {
    return this.roundWord ? this.roundWord[0].toUpperCase() + this.roundWord.slice(1) : this.state.name
  },
  get nextText() {
    if (!this.station || !this.going || this.msLeft > 60000) return ''
    const g = (this.station.visits || [])[this.round]
    const i = this.state.segments.findIndex((s) => s.kind === 'work' && s.round === this.round + 1)
    if (g === undefined || i < 0) return ''
    return (g >= 0 ? this.state.groups[g].name : 'nobody') + ' at ' + this.clockTime(this.at.bounds[i])
  },
  // forms: easier and harder
  get form() {
    return this.here && !this.everybody
      ? (this.station.forms || [])[this.state.groups.indexOf(this.here)] || null
      : null
  },
  get formName() {
    return this.form ? this.form.name : ''
  },
  get formSays() {
    return this.form ? this.form.says : ''
  },
  get hasEasier() {
    return Boolean(this.form && this.form.easier)
  },
  get hasHarder() {
    return Boolean(this.form && this.form.harder)
  },
  get mayEase() {
    return this.state.mayRun || this.station?.leader === this.state.me.id
  },
  get easierLabel() {
    return 'Easier for ' + this.hereName
  },
  get harderLabel() {
    return 'Harder for ' + this.hereName
  },
  // the bridge before a station's drill: for the group, or for one
  get bridgeName() {
    return this.here && !this.everybody ? this.state.stations[this.tab]?.bridge || '' : ''
  },
  // bridged names the drill whose bridge the group is on
  get bridged() {
    const s = this.state.stations[this.tab]
    return this.bridgeName && this.task.name !== s.name && this.task.name === this.bridgeName ? s.name : ''
  },
  get bridgedText() {
    return 'The bridge before ' + this.bridged + '.'
  },
  get backToText() {
    return 'Back to ' + this.bridged
  },
  bridgeWord(r) {
    return this.station?.aside[r.player.id] ? 'Back with the others' : 'Bridge: ' + this.bridgeName
  },
  bridge(r) {
    this.ask('bridge', {
      station: this.tab,
      group: this.state.groups.indexOf(this.here),
      player: r ? r.player.id : '',
    })
  },
  // bridgeBoth has a pair take it, one after the other
  async bridgeBoth(o) {
    for (const player of o.ids)
      await this.ask('bridge', { station: this.tab, group: this.state.groups.indexOf(this.here), player })
  },
  ease(by) {
    this.ask('form', { station: this.tab, group: this.state.groups.indexOf(this.here), by })
  },
}
