// What is said to players: told, corrected, asked, said before they try, filmed, praised; and how far a group is with a key.
import { newID } from '../outbox.js'

const answers = { all: 'all knew', some: 'some knew', nobody: 'nobody knew' }
// steps are the order in which a key is taught: the whole, a look at who does it, the whole with the key, feedback on it alone; then it holds.
const steps = { whole: 'shown whole', look: 'looked', with: 'shown with the key', alone: 'feedback on it alone' }

// mixOf says how often each kind of feedback was given, the most frequent first; what was never given last, by its name.
export function mixOf(feedback, hows) {
  const counted = hows.map(({ how, words }) => ({ words, n: feedback.filter((f) => f.how === how).length }))
  const given = counted.filter((h) => h.n).sort((a, b) => b.n - a.n),
    never = counted.filter((h) => !h.n)
  if (!given.length) return ''
  const says = given.map((h) => h.words + ' ' + h.n).join(', ')
  return never.length ? says + '; never ' + never.map((h) => h.words).join(', ') : says
}

// stepOf is the last step that was said of a group and a key; empty where none was.
export const stepOf = (feedback, unit, key) =>
  feedback
    .filter((f) => f.how === 'step' && f.unit === unit && f.key === key)
    .reduce((last, f) => (f.at >= last.at ? f : last), { at: '', said: '' }).said

// slips is the first key before the one that is taught now which held, and does not any more: somebody was said to lack it since.
export function slips(keys, at, players, said, share) {
  for (let i = 0; i < at; i++) {
    const words = players.map((p) => said(p, keys[i])).filter(Boolean)
    if (words.some((k) => !k.has) && words.filter((k) => k.has).length < share * players.length) return i
  }
  return -1
}

export const feedback = {
  get hows() {
    return this.state.hows || []
  },
  get unitHere() {
    return this.here && !this.everybody ? this.state.groups.indexOf(this.here) : -1
  },
  // give says that feedback was given: to the player of a row, or to the group.
  giveFeedback(how, r, said = '') {
    const i = {
      kind: 'feedback',
      id: newID(),
      player: r ? r.player.id : '',
      unit: r ? -1 : this.unitHere,
      key: this.keyNow || '',
      what: how,
      note: said,
      at: this.stamp(),
    }
    const { id, player, unit, key, at } = i
    ;(this.state.feedback ||= []).push({ id, player, unit, key, how, said, at, by: this.state.me.id })
    this.keep(i)
    this.keepState()
  },
  feedbackOf(player) {
    return mixOf(
      (this.state.feedback || []).filter((f) => f.player === player),
      this.hows,
    ).replace(/; never .*/, '')
  },
  get mixText() {
    return mixOf(this.state.feedback || [], this.hows)
  },
  get stepNow() {
    return this.keyNow ? stepOf(this.state.feedback || [], this.unitHere, this.keyNow) : ''
  },
  get stepRows() {
    const at = Object.keys(steps).indexOf(this.stepNow)
    return Object.entries(steps).map(([step, words], i) => ({ step, words, done: i <= at }))
  },
  get answersOffered() {
    return Object.entries(answers).map(([said, words]) => ({ said, words }))
  },
  get askedText() {
    const last = (this.state.feedback || []).findLast(
      (f) => f.how === 'asked' && !f.player && f.key === this.keyNow && f.unit === this.unitHere,
    )
    return last?.said ? answers[last.said] : ''
  },
  // slipped is a key that held in this group and slips: the teaching goes a step back to it.
  get slipped() {
    const ids = this.present.map((p) => p.id)
    const at = slips(this.keyList, this.keyAt, ids, (p, k) => this.saidOf(p, k), this.holdShare)
    return at < 0 ? null : { at, key: this.keyList[at] }
  },
  backToSlipped() {
    const s = this.slipped
    if (!s) return
    this.pickKey(s.at)
    this.giveFeedback('step', null, 'back')
  },
}
