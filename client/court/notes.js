// Notes about a player.
import { dayOf } from './words.js'
import { newID } from '../outbox.js'
import { asNote } from './sending.js'

const noteWords = {
  effort: 'Great effort',
  follow: 'Follow up',
  talk: 'Talk to guardian',
  clip: 'Clip to look at',
  hurt: 'Hurt',
  word: 'Note',
  cue: 'Own word',
}
export const notes = {
  writing: '',
  choose(r) {
    this.chosen = this.chosen === r.player.id ? '' : r.player.id
    this.writing = this.cueText = ''
    this.clipsHere = []
    if (this.chosen) this.findClips(this.chosen)
  },
  noteKinds: Object.entries(noteWords)
    .filter(([k]) => !['word', 'cue'].includes(k))
    .map(([kind, words]) => ({ kind, words })),
  notesOf(id) {
    return this.state.notes
      .filter((n) => n.player === id && n.kind !== 'cue')
      .map(
        (n) => (noteWords[n.kind] || n.kind) + (n.says ? ': ' + n.says : '') + (n.due ? ' (' + dayOf(n.due) + ')' : ''),
      )
  },
  note(r, kind) {
    this.keepNote(r.player, kind, '', kind === 'follow' ? this.followDay : '')
  },
  followOn: '', // a week on, unless another day is chosen
  get followDay() {
    return (
      this.followOn ||
      new Date(this.state.starts + 7 * 86400000).toLocaleDateString('sv-SE', { timeZone: this.state.zone })
    )
  },
  setFollow(e) {
    this.followOn = e.target.value
  },
  setNote(e) {
    this.writing = e.target.value
  },
  writeNote(r) {
    if (this.writing.trim()) this.keepNote(r.player, 'word', this.writing.trim())
    this.writing = ''
  },
  keepNote(p, what, note, due = '') {
    const item = { kind: 'note', id: newID(), player: p.id, what, note, due, at: this.stamp() }
    this.state.notes.push(asNote(item, this.state.me))
    this.keep(item)
    this.keepState()
  },
}
