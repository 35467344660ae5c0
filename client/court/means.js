// What the words on the phone mean, in a sentence each, for who holds one.
const targets = {
  '': 'Nothing is counted here: watch, and say what you see.',
  total: 'So many good ones in all; a miss costs nothing.',
  streak: 'So many good ones one after the other; a miss begins again.',
  set: 'Several skills, so many in a row of each, before the next.',
  ladder: 'A rally of one, then of two, then of three: a drop begins the rung again.',
  team: 'One count for all of them, everybody in turn; a miss of anyone begins again.',
  time: 'As many as they can before the time is up.',
  race: 'Whoever is first to the score.',
  hold: 'So many seconds without letting go.',
  faults: 'At most so many faults.',
  score: 'Points: a good one is one, a miss may cost some.',
  gate: 'All count together; when it is reached, what comes next opens.',
  letters: 'Whoever cannot match what the other has shown gets a letter.',
  own: 'By rules of your own, in the words of the drill.',
}
const measures = {
  makes: 'good ones of so many tries',
  streak: 'good ones in a row: the best run counts',
  check: 'points that are all there',
  grade: 'a grade by eye, by the words beside it',
  count: 'as many as possible in a time',
  hold: 'seconds held',
  time: 'seconds: less is better. By hand the start is about a quarter of a second off, by a gate it is not',
  distance: 'how far',
  angle: 'an angle, to within some degrees',
  faults: 'faults: less is better',
  tries: 'tries that it took: less is better',
}
const words = {
  due: 'Due: one more good mark would do, or what was shown is too long ago, or it must be shown and was never looked at.',
  seen: 'Seen: you marked or looked at them, counted a try of theirs or of their pair, or told them something in this session.',
  key: 'A key is the one thing to look at now. It holds when enough of the group have it: the mark on its bar.',
  has: 'Tap it when this player has the key, and again when it is gone.',
  lent: 'What the limit stands for is decided by the club’s rules and medical advice, not by this page.',
}

export const means = {
  // meaning of a word that is held: kind, and of which player's row.
  meaning(kind, key) {
    const r = this.shown.find((s) => s.key === key)
    if (kind === 'target')
      return [this.task.name + ': ' + this.task.target + '.', targets[this.task.kind] || '', this.formText]
        .filter(Boolean)
        .join(' ')
    if (kind === 'key') return '“' + this.keyNow + '”. ' + words.key
    if (kind === 'criterion' && r) {
      const c = r.criterion
      const what = measures[c.measure] ? ' Measured: ' + measures[c.measure] + '.' : ''
      return (
        c.wording +
        ': ' +
        c.standard +
        (c.id ? ', counts for ' + c.stageName : '') +
        '.' +
        what +
        (r.isDue ? ' ' + words.due : '')
      )
    }
    if (kind === 'limit' && r) return r.limits.join('. ') + '. ' + words.lent
    return words[kind] || ''
  },
  get formText() {
    return this.formName ? this.formName + (this.formSays ? ': ' + this.formSays : '') + '.' : ''
  },
}
