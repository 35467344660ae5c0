// The register: who is here.
import { called, gone } from './words.js'
import { newID } from '../outbox.js'

// words says how many are here, and how many are not, late, or not said yet.
export function words(players) {
  const n = (...said) => players.filter((p) => said.includes(p.said)).length
  const parts = [
    [n('present', 'late', 'hurt'), 'here'],
    [n('absent', 'away'), 'missing'],
    [n('late'), 'late'],
    [n('left'), 'left'],
    [n(''), 'not said yet'],
  ]
  return parts
    .filter(([k, what]) => k || what === 'here')
    .map(([k, what]) => k + ' ' + what)
    .join(' · ')
}

// said is a player after a word: the same word again takes it back, but for having left, which can be at another minute.
export function said(p, word, minute = 0, no = '') {
  const again = p.said === word && p.no === no && word !== 'left'
  return again ? { ...p, said: '', minute: 0, no: '' } : { ...p, said: word, minute, no }
}

// under is what stands under a name; clock writes a minute of the session as the wall shows it.
export function under(p, clock) {
  const at = p.minute ? clock(p.minute) : ''
  const what = { late: at && 'came ' + at, left: 'left ' + at, hurt: p.no ? 'hurt: no ' + p.no : 'hurt: sits out' }
  return [p.guest ? 'guest' : '', what[p.said] || ''].filter(Boolean).join(' · ')
}

// strays are those whose group and the register do not agree: dealt and not there, or there and not dealt.
export function strays(players, groups) {
  const dealt = new Set(groups.flatMap((g) => g.players))
  return players.filter((p) => {
    const out = gone.includes(p.said) || (p.said === 'hurt' && !p.no)
    return dealt.has(p.id) ? out : !out && ['present', 'late'].includes(p.said)
  })
}

// moved says who stands in another group than before.
export function moved(before, after, players) {
  const was = new Set(before.flatMap((g) => g.players.map((id) => id + g.name)))
  const name = (id) => called(players.find((p) => p.id === id))
  const now = after.flatMap((g) =>
    g.players.filter((id) => !was.has(id + g.name)).map((id) => name(id) + ' to ' + g.name),
  )
  return now.length ? 'Moved: ' + now.join(', ') + '.' : 'Nobody has to move.'
}

const stateWords = { present: '✓', late: 'late', absent: 'not here', away: 'away', left: 'left', hurt: 'hurt' }

export const register = {
  open: '',
  guestName: '',
  get registerText() {
    return words(this.state.players)
  },
  get hereCount() {
    return this.state.players.filter((p) => ['present', 'late', 'hurt'].includes(p.said)).length + ' here'
  },
  get minute() {
    return Math.max(0, Math.floor((this.now - this.state.starts) / 60000))
  },
  get register() {
    return this.state.players.map((p) => ({
      id: p.id,
      name: p.name,
      stageName: p.stageName,
      limits: p.limits,
      said: p.said,
      player: p,
      open: this.open === p.id,
      moreLabel: p.name + ': late, left or hurt',
      isHere: ['present', 'late', 'hurt'].includes(p.said),
      state: stateWords[p.said] ?? '',
      hold: 'register:' + p.id,
      cls: 'is-' + (p.said === 'left' ? 'gone' : p.said || 'unsaid'),
      tapLabel: p.name + ', ' + (stateWords[p.said] || 'not said yet'),
      sub: [under(p, (minute) => this.clockTime(this.state.starts + minute * 60000)), p.home]
        .filter(Boolean)
        .join(' · '),
      before: p.before || [],
    }))
  },
  word(p, word, minute = 0, no = '') {
    this.setWord(p, said(p, word, minute, no))
  },
  setWord(p, next) {
    Object.assign(p, { said: next.said, minute: next.minute, no: next.no })
    this.keep({ kind: 'said', id: newID(), player: p.id, state: p.said, minute: p.minute, no: p.no })
    this.keepState()
  },
  get unsaid() {
    return this.state.players.filter((p) => !p.said)
  },
  get allText() {
    return this.unsaid.length === this.state.players.length ? 'All here' : 'The other ' + this.unsaid.length
  },
  allHere() {
    const who = this.unsaid
    for (const p of who) this.word(p, 'present')
    this.remember({ here: who.map((p) => p.id) })
  },
  // flip is a tap on a row: whoever is here is missing, whoever is not is here. What was said of somebody hurt or gone is not wiped by a tap.
  flip(r) {
    if (['hurt', 'left'].includes(r.said)) this.open = r.id
    else this.say(r, r.isHere ? 'absent' : 'present')
  },
  say(r, word) {
    const { said, minute, no } = r.player
    this.remember({ said: { player: r.id, said, minute, no } })
    this.word(r.player, word, word === 'late' ? this.minute : 0)
    this.open = ''
  },
  leave(r) {
    this.word(r.player, 'left', this.minute)
    this.open = ''
  },
  hurt(r, no) {
    this.word(r.player, 'hurt', 0, no)
    this.open = ''
    if (r.player.said === 'hurt') this.keepNote(r.player, 'hurt', no ? 'no ' + no : 'sits out')
  },
  openRow(r) {
    this.open = this.open === r.id ? '' : r.id
  },
  setGuest(e) {
    this.guestName = e.target.value
  },
  addGuest() {
    const name = this.guestName.trim()
    if (!name) {
      this.says = 'What is the guest called?'
      return
    }
    this.says = ''
    this.guestName = ''
    const item = { kind: 'guest', id: newID(), name }
    this.lay(item)
    this.keep(item)
    this.keepState()
  },
  get strays() {
    return strays(this.state.players, this.state.groups)
  },
  get straysText() {
    return this.strays.length
      ? this.strays.map(called).slice(0, 4).join(', ') +
          (this.strays.length > 4 ? ' …' : '') +
          ': the groups do not fit any more.'
      : ''
  },
  async redeal() {
    const before = this.state.groups
    if (await this.ask('redeal', {})) this.news = moved(before, this.state.groups, this.state.players)
  },
}
