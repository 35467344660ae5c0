// What now: the one most useful next thing, from what is known. It stands at the foot, and never interrupts.
import { rateSays } from './rate.js'
import { called } from './words.js'

const some = (all) => {
  if (all.length < 2) return all.join('')
  return all.length > 3
    ? all.slice(0, 2).join(', ') + ' and ' + (all.length - 2) + ' more'
    : all.slice(0, -1).join(', ') + ' and ' + all.at(-1)
}
const number = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']
const word = (n) => number[n] || String(n)
const upper = (s) => s[0].toUpperCase() + s.slice(1)

// How long before the signal somebody who was not seen is named, and from how many a key is shown again: common practice, no source.
const soon = 150_000
const several = 3
const lateNews = 120_000 // for how long a lateness is said before it makes room

// whatNow mirrors run.Next, which says why each comes before the next: what it says, what its button says, and what that does; null where there is nothing
// to say. Left is in milliseconds.
export function whatNow({
  late = 0,
  gives = [],
  key = '',
  holds,
  slip,
  group,
  rate,
  easy,
  other,
  harder,
  easier,
  lacks = [],
  unseen = [],
  left = 0,
}) {
  if (late >= 1 && gives.length)
    return { says: upper(word(late)) + (late === 1 ? ' minute' : ' minutes') + ' late.', label: gives[0], does: 'give' }
  if (holds) return { says: '“' + key + '” holds.', label: holds, does: 'key' }
  if (slip) return { says: '“' + slip + '” slips: a step back.', label: 'Back to it', does: 'slip' }
  if (easy && harder) return { says: group + ' are ready for the next form.', label: 'Harder', does: 'harder' }
  if (rate && other) return { says: rate, label: 'Make it ' + other, does: 'aim' }
  if (rate && easier) return { says: rate, label: 'Easier', does: 'easier' }
  if (rate) return { says: rate, label: '', does: '' }
  if (lacks.length >= several)
    return { says: upper(word(lacks.length)) + ' lack “' + key + '”: show it again.', label: '', does: '' }
  if (unseen.length && left < soon)
    return { says: 'Look at ' + some(unseen) + ' (not seen).', label: 'Look', does: 'look' }
  return null
}

export const next = {
  nextSays: '',
  nextLabel: '',
  nextDoes: '',
  alsoLabel: '', // the other way, where a target is too hard or too easy: the form in place of the target, or the target in place of the form
  alsoDoes: '',
  // think looks at the whole once in a while, not at each tap: what one does next need not be told in the same instant.
  think() {
    this.countDue()
    this.countSeen()
    this.timeLadder()
    const thing = this.nextThing()
    Object.assign(this, {
      nextSays: thing?.says || '',
      nextLabel: thing?.label || '',
      nextDoes: thing?.does || '',
      ...this.other(thing?.does),
    })
  },
  other(does) {
    const ease = this.hasEasier && this.mayEase
    if (does === 'aim' && ease && !this.tooEasy) return { alsoLabel: 'Easier', alsoDoes: 'easier' }
    if (this.tooHard && this.bridgeName) return { alsoLabel: 'Bridge', alsoDoes: 'bridge' }
    if (does === 'harder' && this.aimTo) return { alsoLabel: 'Make it ' + this.aimTo, alsoDoes: 'aim' }
    return { alsoLabel: '', alsoDoes: '' }
  },
  tooEasy: false,
  tooHard: false,
  nextThing() {
    if (this.tab === 'register' && this.state.mayRun && !this.ended)
      return { says: 'Tap who is missing; hold for late, hurt or left.', label: '', does: '' }
    if (!this.running || !this.state.mayRun) return null
    const here = this.station && this.here && !this.everybody && this.current.kind === 'work'
    const rows = here ? this.rows : [],
      rate = here ? this.rated(rows) : null
    this.aimTo = rate?.other || 0
    this.tooEasy = Boolean(rate?.easy)
    this.tooHard = Boolean(rate?.hard)
    return whatNow({
      late: this.lateToSay(),
      gives: this.state.gives || [],
      holds: here && this.keyHolds ? this.nextKeyText : '',
      rate: here ? rateSays(this.station.kind, rate) : '',
      easy: Boolean(rate?.easy),
      other: rate?.other || 0,
      group: this.hereName,
      harder: here && this.hasHarder && this.mayEase,
      easier: here && this.hasEasier && this.mayEase,
      lacks: rows.filter((r) => this.keyNow && this.saidLacks(r.player.id, this.keyNow)).map((r) => called(r.player)),
      slip: (here && this.slipped?.key) || '',
      key: this.keyNow || '',
      unseen: this.unseenByMe(rows.map((r) => r.player)).map(called),
      left: this.msLeft,
    })
  },
  // lateToSay is how late it is, for as long as that is news: what was left standing for two minutes makes room for the rest.
  lateSaid: 0,
  lateFrom: 0,
  lateToSay() {
    const late = Math.max(0, this.lateMinutes)
    if (late !== this.lateSaid) Object.assign(this, { lateSaid: late, lateFrom: this.now })
    return this.now - this.lateFrom < lateNews ? late : 0
  },
  doAlso() {
    this.doIt(this.alsoDoes)
  },
  doNext() {
    this.doIt(this.nextDoes)
  },
  doIt(does) {
    if (does === 'give') this.give(this.nextLabel)
    if (does === 'key') this.moveKey(1)
    if (does === 'slip') this.backToSlipped()
    if (does === 'bridge') this.bridge()
    if (does === 'aim') this.aim()
    if (does === 'harder') this.ease(1)
    if (does === 'easier') this.ease(-1)
    if (does === 'look') {
      const [player] = this.unseenByMe(this.rows.map((r) => r.player))
      document
        .querySelector('.mark-row[data-player="' + CSS.escape(player?.name || '') + '"]')
        ?.scrollIntoView({ block: 'center' })
    }
  },
  // saidLacks: of a key it was last said that they lack it.
  saidLacks(player, key) {
    const said = this.keysOf(player).filter((k) => k.key === key)
    return said.length > 0 && !said.reduce((a, b) => (a.at > b.at ? a : b)).has
  },
}
