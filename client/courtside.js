// The phone in the hall: register, clock, pads, keys, who was seen, notes. Taps are kept on the device until they have arrived. Each part is a module of its
// own in court/, with its rules as functions that know no page.
import { card } from './court/card.js'
import { clock } from './court/clock.js'
import { crossings } from './court/crossings.js'
import { means } from './court/means.js'
import { ending } from './court/ending.js'
import { feedback } from './court/feedback.js'
import { keys } from './court/keys.js'
import { ladders } from './court/ladders.js'
import { next } from './court/next.js'
import { notes } from './court/notes.js'
import { back } from './court/back.js'
import { pads } from './court/pads.js'
import { tapping } from './court/tapping.js'
import { place } from './court/place.js'
import { rating } from './court/rate.js'
import { register } from './court/register.js'
import { seen } from './court/seen.js'
import { sending } from './court/sending.js'
import { together } from './court/together.js'
import { touch } from './court/touch.js'
import { hall, mix } from './hall.js'
import { Outbox } from './outbox.js'

// What was pressed by a key and is gone gives the focus to what stands nearest.
const standing = (el) => el.isConnected && el.checkVisibility() && !el.disabled
document.addEventListener(
  'click',
  (e) => {
    const around = []
    for (let n = e.target.parentElement; n; n = n.parentElement) around.push(n)
    const goOn = () => {
      if (standing(e.target) || document.activeElement !== document.body) return
      const near = around.filter(standing).flatMap((n) => [...n.querySelectorAll('button, a[href]')])
      near.find(standing)?.focus()
    }
    if (!e.detail) for (const ms of [100, 700]) setTimeout(goOn, ms) // what the server has to say first goes later
  },
  true,
)

document.addEventListener('alpine:init', () =>
  window.Alpine.data('courtside', () =>
    mix(
      hall,
      sending,
      clock,
      place,
      register,
      pads,
      tapping,
      back,
      rating,
      next,
      crossings,
      together,
      keys,
      seen,
      notes,
      ladders,
      touch,
      card,
      feedback,
      ending,
      means,
      {
        init() {
          this.begin()
          this.outbox = new Outbox(
            this.kept,
            (items) => this.send(items),
            (items) => this.arrived(items),
          )
          this.beginTouch(this.$root)
          this.openTab()
          this.think()
          this.restored = this.restoreAll()
          window.Alpine.effect(() => {
            // each minute that it is later, once all is sent: what could give is the server's to say
            if (this.lateText && !this.waiting && this.lateAt !== this.lateMinutes) {
              this.lateAt = this.lateMinutes
              this.refresh()
            }
          })
          window.Alpine.effect(() => {
            this.shown = this.station && this.here ? this.rows : []
          })
          setInterval(() => this.flush(), 3000)
          setInterval(() => this.watchesTick(), 100)
          setInterval(() => this.think(), 1500)
          this.flush()
          addEventListener('online', () => this.flush())
          document.addEventListener('keydown', (e) => this.key(e))
          navigator.serviceWorker?.ready.then((r) => {
            const drawings = this.state.stations
              .map((s, i) => (s.drawn ? location.origin + '/courtside/' + this.state.session + '/drawing/' + i : ''))
              .filter(Boolean)
            r.active?.postMessage({
              keep: [location.href, ...performance.getEntriesByType('resource').map((e) => e.name), ...drawings],
            })
          })
        },
        openTab() {
          if (!this.state.mayRun || this.started) this.tab = this.ended ? 'seen' : this.tabOf(this.current)
        },
        // restoreAll takes over what waits here, and what was begun; what was done meanwhile is newer.
        async restoreAll() {
          const tab = this.tab
          await this.restore()
          const landed = await this.outbox.load()
          this.series = { ...(await this.kept.value('series').catch(() => null)), ...this.series }
          this.waiting = this.outbox.waiting
          this.read = true
          this.merge(landed)
          if (landed.length) this.arrived(landed)
          if (this.tab === tab) this.openTab()
          this.flush()
        },
        lateAt: -1,
        watchesTick() {
          for (const key in this.watches) this.values[key] = Math.round((Date.now() - this.watches[key]) / 100) / 10
          for (const key in this.downs) {
            if (Date.now() >= this.downs[key] && !this.rung[key]) {
              this.rung[key] = true
              this.signal.give(true)
            } else if (Date.now() < this.downs[key]) this.rung[key] = false
          }
          if (Object.keys(this.downs).length) this.downs = { ...this.downs } // the seconds left
        },
        rung: {},
      },
    ),
  ),
)
