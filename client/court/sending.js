// What goes to the server, and waits here until it has arrived.
import { first } from './words.js'
import { json, take } from '../hall.js'

// merged are the series that one person has begun: those of this device, and of their others where these are newer. What is done waits or has arrived.
export function merged(series, tallies, items, me) {
  const out = { ...series }
  for (const t of tallies) {
    if (t.done) delete out[t.id]
    else if (t.by === me && !(out[t.id]?.revision >= t.revision)) out[t.id] = { ...t, kind: 'tally' }
  }
  for (const i of items.filter((i) => i.kind === 'tally')) {
    if (i.done) delete out[i.id]
    else if (!(out[i.id]?.revision >= i.revision)) out[i.id] = { ...i }
  }
  return out
}

// asFeedback is an item as the state has it.
export const asFeedback = (i, by) => ({
  id: i.id,
  player: i.player,
  unit: i.unit,
  key: i.key,
  how: i.what,
  said: i.note,
  at: i.at,
  by,
})

// asNote and asMark are items as the state has them.
export const asNote = (i, { id, name }) => ({
  id: i.id,
  player: i.player,
  kind: i.what,
  says: i.note,
  due: i.due,
  by: id,
  byName: name,
  at: i.at,
})
export const asMark = (i, { id, name }) => ({
  ...i,
  at: Date.parse(i.at),
  said: i.says,
  by: id,
  byName: name,
  struck: false,
})
// asGuest is who came along, of whom nothing but the name is known until the server has heard of them.
const asGuest = ({ id, name }) => ({
  id,
  name,
  called: name,
  guest: true,
  said: 'present',
  minute: 0,
  no: '',
  stage: '',
  stageName: '',
  home: '',
  cue: '',
  limits: [],
  due: [],
  before: [],
  short: [],
  lacks: [],
  zones: [],
  lately: {},
})

// put shows an item that waits in the state, once.
export function put(state, i) {
  const has = (list, same = (o) => o.id === i.id) => list.some(same)
  if (i.kind === 'said') {
    const p = state.players.find((q) => q.id === i.player)
    if (p) Object.assign(p, { said: i.state, minute: i.minute || 0, no: i.no || '' })
  } else if (i.kind === 'guest' && !has(state.players)) state.players.push(asGuest(i))
  else if (i.kind === 'clock' && !has(state.events)) state.events.push({ id: i.id, do: i.do, at: Date.parse(i.at) })
  else if (i.kind === 'looked' && !has(state.looked, (l) => l.player === i.player && l.by === i.by))
    state.looked.push(i)
  else if (i.kind === 'note' && !has(state.notes)) state.notes.push(asNote(i, state.me))
  else if (i.kind === 'mark' && i.says && !has(state.marks)) state.marks.push(asMark(i, state.me))
  else if (i.kind === 'strike') state.marks.filter((m) => m.id === i.id).forEach((m) => (m.struck = true))
  else if (i.kind === 'feedback' && !has((state.feedback ||= []))) state.feedback.push(asFeedback(i, state.me.id))
  else if (i.kind === 'point') {
    const was = (state.points ||= []).find((p) => p.id === i.id)
    if (was) was.undone ||= i.undone
    else state.points.push(i)
  } else if (['climb', 'count'].includes(i.kind) && !has(state.climbs)) state.climbs.push({ ...i, by: state.me.id })
}

export const sending = {
  waiting: 0,
  read: false, // whether what was kept here before has been read: until then nobody knows what waits
  says: '', // what went wrong
  news: '', // what was done
  async post(what, body) {
    const r = await fetch('/courtside/' + this.state.session + '/' + what, {
      method: 'POST',
      headers: json,
      body: JSON.stringify(body),
    })
    const answer = await r.json().catch(() => ({}))
    if (!r.ok) {
      if (r.status < 500) this.says = answer.says || 'The server did not take this.'
      throw Object.assign(new Error(answer.says || 'The server did not take this.'), { status: r.status })
    }
    return answer
  },
  // send gives items to the server, for the outbox.
  async send(items) {
    const { answers } = await this.post('inbox', { items })
    const kept = new Set(answers.filter((a) => a.kept).map((a) => a.id))
    for (const read of Object.values(this.reads)) read.sent.push(...items.filter((i) => kept.has(i.id)))
    return answers
  },
  async ask(what, body) {
    // what only the server can work out
    this.says = ''
    try {
      await this.flush()
      await this.whole(this.post(what, body))
      return true
    } catch {
      this.says = this.says || 'No connection: everything stays as it was. Try again when you are back.'
      return false
    }
  },
  async flush() {
    if (!this.outbox.waiting) return
    const r = await this.outbox.flush()
    this.online = r.sent || (this.online && this.outbox.sending)
    if (r.refused.length) this.says = r.refused[0].why
    this.waiting = this.outbox.waiting
  },
  keep(item) {
    this.news = ''
    this.outbox.add({ at: this.stamp(), ...item }).then(() => this.sayFull())
    this.waiting = this.outbox.waiting
    this.flush()
  },
  sayFull() {
    if (this.outbox.full)
      this.says = 'This phone has no room left: what you tap is kept only while this page is open, so leave it open.'
  },
  keepSeries() {
    this.kept.keep('series', window.Alpine.raw(this.series)).catch(() => {}) // what waits is kept by itself
  },
  // merge shows what is kept here, and takes over the series of this person from their other devices where they are newer.
  merge(landed = []) {
    const items = [...landed, ...this.outbox.items]
    this.series = merged(this.series, window.Alpine.raw(this.state.tallies) || [], items, this.state.me.id)
    for (const i of items) this.lay(i)
    this.keepSeries()
  },
  lay(i) {
    if (i.kind === 'has') this.putKey(i)
    else if (i.kind === 'tally' && i.done) {
      this.showMark(i)
      take(this.state, { tallies: [{ ...i }] })
    } else put(this.state, i)
  },
  get syncText() {
    if (this.waiting) return this.waiting + ' waiting here'
    if (!this.read) return 'reading …'
    return this.online ? 'in step' : 'no connection'
  },
  // notArrived is said before the session is closed.
  get notArrived() {
    const who = [
      ...new Set(
        this.outbox?.items.map((i) => this.state.players.find((p) => p.id === i.player)?.name).filter(Boolean),
      ),
    ].map(first)
    const quiet = (this.state.heard || [])
      .filter((h) => this.now - h.at > 90000)
      .map((h) => first(h.name) + ' (' + Math.round((this.now - h.at) / 60000) + ' min)')
    return [
      this.waiting
        ? this.waiting +
          ' not arrived from this phone' +
          (who.length ? ': ' + who.slice(0, 6).join(', ') : '') +
          '. They stay here and go when there is network.'
        : '',
      quiet.length
        ? 'Not in touch: ' + quiet.join(', ') + '. What waits on their phones is taken when they are back.'
        : '',
    ].filter(Boolean)
  },
}
