// The big screen of the hall: read from five metres. Only the points of pairs are touched there, by the players themselves.
import { hall, mix } from './hall.js'
import { sending } from './court/sending.js'
import { together } from './court/together.js'
import { beside } from './court/words.js'
import { Outbox } from './outbox.js'

document.addEventListener('alpine:init', () =>
  window.Alpine.data('bigscreen', () =>
    mix(hall, sending, together, {
      keptAs: 'screen',
      init() {
        this.begin()
        this.outbox = new Outbox(this.kept, (items) => this.send(items))
        this.restore()
          .then(() => this.outbox.load())
          .then(() => this.merge())
        setInterval(() => this.flush(), 3000)
      },
      merge() {
        this.waiting = this.outbox.waiting
        for (const i of this.outbox.items) this.lay(i)
      },
      // who is with whom, and the place whose points they are
      get tab() {
        return this.pairing ? beside + this.pairing.block : -1
      },
      get station() {
        return this.pairing ? this.state.tasks.find((t) => t.block === this.pairing.block) || null : null
      },
      get present() {
        return (this.pairing?.ids || []).map((id) => ({ id }))
      },
      roundHere: 0,
      nameOf(id) {
        return this.pairing?.names[this.pairing.ids.indexOf(id)] || ''
      },
      taps: [],
      remember(tap) {
        this.taps = [...this.taps.slice(-20), tap.point]
      },
      takeBack() {
        this.untap(this.taps.at(-1))
        this.taps = this.taps.slice(0, -1)
      },
      get courts() {
        const by = new Map(this.ones.map((o) => [o.ids.join(), o]))
        return this.pairTeams.map((t) => {
          const one = by.get(t.ids) || null,
            race = one?.kind === 'race'
          return {
            ...t,
            one,
            figure: one ? one.figure : '',
            sub: one && !race ? one.sub : '',
            left: race ? one.first : '✕',
            right: race ? one.other : '✓',
            leftGood: race,
            counted: one ? (race ? 'is-counted is-raced' : 'is-counted') : '',
            leftLabel: one ? (race ? one.goodLabel : one.missLabel) : '',
            rightLabel: one ? (race ? one.missLabel : one.goodLabel) : '',
          }
        })
      },
      only: (state) => ({ ...state, players: [], marks: [], tallies: [], keys: [], notes: [], feedback: [] }), // no names here, also not in what is kept
      get headline() {
        return this.phase === 'work' ? 'Work · round ' + this.current.round + ' of ' + this.rounds : this.phaseWord
      },
      // doing is the one task of a block that everybody has, where the block's name does not say it.
      get doing() {
        if (!this.running || this.over || ['work', 'change', 'brief'].includes(this.phase)) return ''
        const tasks = this.state.tasks.filter((t) => t.block === this.current.block),
          on = this.cycle ? tasks[this.exerciseOf(this.current.block)] : tasks.length === 1 ? tasks[0] : null
        return on && on.name !== this.headline ? on.name : ''
      },
      get foot() {
        if (!this.started) return this.thenText
        if (this.ended) return 'Thank you'
        const at = this.over
          ? ''
          : (this.current.kind === 'work' ? 'Change' : 'Next') + ' at ' + this.clockTime(this.now + this.msLeft)
        const drink = this.state.segments.slice(this.segment + 1).find((s) => s.kind !== 'change' && s.kind !== 'work')
        return (
          at +
          (drink && drink.what === 'break'
            ? ' · drink after ' +
              (this.current.kind === 'work' && this.current.round === this.rounds ? 'this round' : 'the rounds')
            : '')
        )
      },
      // keyText is the key of what everybody does now; between the tasks, and at stations, the one of the day
      get keyText() {
        const t =
          this.going && this.current.what !== 'stations' && this.state.tasks.find((t) => t.block === this.current.block)
        return t ? t.key : this.state.key
      },
      get isAlone() {
        return this.everybody.length === 0 && !this.cycle && !this.match && !this.pairing
      },
      get pairClass() {
        const n = this.pairTeams.length
        return n > 10 ? 'is-many is-crowd' : n > 4 ? 'is-many' : ''
      },
      get crowded() {
        return this.turnLater.length > 6
      },
      get everybody() {
        return this.phase === 'work' || this.phase === 'change' || this.phase === 'brief' || !this.started
          ? this.moves
          : []
      },
      fullscreen() {
        document.documentElement.requestFullscreen?.()
      },
    }),
  ),
)
