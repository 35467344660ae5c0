// The clock's buttons.
import { minutes } from '../hall.js'
import { names as soundNames } from '../sound.js'
import { newID } from '../outbox.js'

// clockSays are what is done to the clock and can be taken back, in words.
const clockSays = {
  pause: 'the pause',
  resume: 'going on',
  more: 'a minute more',
  less: 'a minute less',
  shorter: 'a minute less',
  change: 'the change',
  next: 'the next turn',
  skip: 'what was skipped',
  back: 'going back',
  again: 'the turn again',
}

export const clock = {
  asking: false,
  more: false,
  early: false,
  startIt() {
    if (this.otherTime) this.early = true
    else this.steer('start')
  },
  notYet() {
    this.early = false
  },
  // otherTime says when it is planned for, where that is not about now.
  get otherTime() {
    return this.now < this.state.starts - 2 * 3600000 || this.now > this.state.bookedEnd + 3600000
      ? this.state.when
      : ''
  },
  steer(what) {
    this.asking = this.early = false
    if (!['back', 'again', 'less', 'shorter'].includes(what)) this.more = false // these are pressed again
    this.says = ''
    if (what === 'end') this.closeRound(() => true)
    const item = { kind: 'clock', id: newID(), do: what, at: this.stamp() }
    if (clockSays[what]) this.remember({ clock: item.id, says: clockSays[what] })
    this.state.events.push({ id: item.id, do: what, at: Math.floor(this.moment()) })
    this.tick()
    this.keep(item)
    this.keepState()
    if (what === 'start' && this.tab === 'register') this.tab = this.tabOf(this.current)
  },
  // calm: nothing is about to happen, so that the clock needs no more than a line; soon its figures grow in the same place, so that no row moves under a thumb.
  get calm() {
    return this.running && !this.over && this.phase !== 'change' && !this.cycle && !this.byTurns
  },
  get soon() {
    return this.calm && this.msLeft <= 30000
  },
  // turn is that of the clock where players take turns and one comes after the one that runs: next, back and a minute less act on it
  get inTurns() {
    return this.going && !this.over && (this.current.turns?.length || 0) > 1
  },
  get moreTurns() {
    return this.inTurns && !this.turnStep(0).last
  },
  get changeWord() {
    if (!this.moreTurns) return this.current.kind === 'work' ? 'Change now' : 'Next now'
    const up = this.cycle && this.turnNow ? this.cycle.slots[this.turnNow.slot + 1]?.up || [] : []
    if (up.length > 0 && up.length < 3) return this.called(up) + ' now'
    return 'Turn ' + (this.turnStep(0).n + 2) + ' now'
  },
  goOn() {
    this.steer(this.moreTurns ? 'next' : 'change')
  },
  goBack() {
    this.steer(this.inTurns && this.turnStep(0).n > 0 ? 'again' : 'back')
  },
  minuteLess() {
    this.steer(this.inTurns ? 'shorter' : 'less')
  },
  get backWord() {
    return this.inTurns && this.turnStep(0).n > 0 ? 'Turn before again' : 'Back one'
  },
  get isOver() {
    return this.ended
  },
  get happened() {
    return '/sessions/' + this.state.session + '/run'
  },
  get mayEnd() {
    return this.state.mayRun && this.going && !this.over
  },
  askEnd() {
    this.asking = !this.asking
    this.more = false
  },
  closeMore(e) {
    if (!e.target.closest('[aria-expanded], .court-flash')) this.more = false
  },
  toggleMore() {
    this.more = !this.more
    this.asking = false
  },
  get lateText() {
    // whole minutes past the booked end, as it runs now
    if (!this.going || !this.state.mayRun) return ''
    const end = this.at.bounds[this.at.bounds.length - 1],
      over = end - this.state.bookedEnd
    return over > 30000
      ? 'It ends at ' + this.clockTime(end) + ', ' + minutes(over) + ' too late.' + this.givesText
      : ''
  },
  get lateMinutes() {
    return Math.round((this.at.bounds[this.at.bounds.length - 1] - this.state.bookedEnd) / 60000)
  },
  get givesText() {
    if (this.state.gives.length) return ' What gives?'
    const answered = this.state.over >= 30 // the server has heard that it is late
    return answered ? ' Nothing that is left can give so much: end it on time.' : ''
  },
  give(words) {
    this.ask('give', { words })
  },
  get signalName() {
    return this.signal?.name
  },
  setSound(name) {
    this.signal.name = name
    this.signal.keep()
    this.signal.give(false)
    this.soundKept++
  },
  setVolume(e) {
    this.signal.volume = Number(e.target.value) / 100
    this.signal.keep()
    this.soundKept++
  },
  toggleBuzz() {
    this.signal.buzz = !this.signal.buzz
    this.signal.keep()
    this.soundKept++
  },
  toggleSpeech() {
    this.signal.speaks = !this.signal.speaks
    this.signal.keep()
    this.soundKept++
    this.signal.give(false, 'Go')
  },
  get speaks() {
    return this.soundKept >= 0 && Boolean(this.signal?.speaks)
  },
  soundKept: 0,
  get volume() {
    return this.soundKept >= 0 ? Math.round(100 * (this.signal?.volume ?? 0)) : 0
  },
  get buzz() {
    return this.soundKept >= 0 && Boolean(this.signal?.buzz)
  },
  get sounds() {
    return this.soundKept >= 0 ? soundNames.map((n) => ({ name: n, on: n === this.signal?.name })) : []
  },
}
