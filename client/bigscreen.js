// The big screen of the hall: read from five metres, nothing to touch.
import { hall, mix } from './hall.js'

document.addEventListener('alpine:init', () =>
  window.Alpine.data('bigscreen', () =>
    mix(hall, {
      keptAs: 'screen',
      init() {
        this.begin()
        this.restore()
      },
      only: (state) => ({ ...state, players: [], marks: [], tallies: [], keys: [], notes: [] }), // no names here, also not in what is kept
      get headline() {
        return this.phase === 'work' ? 'Work · round ' + this.current.round + ' of ' + this.rounds : this.phaseWord
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
      get keyText() {
        return this.state.key
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
