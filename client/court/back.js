// The last tap is taken back, and the pads are worked by keys.
import { newID } from '../outbox.js'
import { called } from './words.js'

const oldest = 120_000 // ms: what was done before is not the last thing any more (common practice, no source)

export const back = {
  taps: [],
  remember(what) {
    this.taps.push({ ...what, at: Date.now() })
    if (this.taps.length > 50) this.taps.shift()
  },
  get canTakeBack() {
    return this.now > 0 && Date.now() - (this.taps.at(-1)?.at ?? 0) < oldest
  },
  get takeBackLabel() {
    return 'Take the last tap back' + (this.canTakeBack ? ': ' + this.tapWords(this.taps.at(-1)) : '')
  },
  // tapWords say what was done.
  tapWords(what) {
    const named = (id) => called(this.state.players.find((p) => p.id === id))
    if (what.clock) return what.says
    if (what.here) return 'all here'
    if (what.said) return 'the register, ' + named(what.said.player)
    if (what.climb) return 'the step'
    if (what.point) return 'the last try'
    const t = this.series[what.tally]
    if (t) return 'the last try, ' + named(t.player)
    const m = this.state.marks.find((k) => k.id === (what.tally || what.mark))
    return m ? named(m.player) + ', ' + m.said : 'the last tap'
  },
  takeBack() {
    if (!this.canTakeBack) return
    const last = this.taps.pop(),
      says = this.tapWords(last)
    this.undoTap(last)
    this.news = 'Taken back: ' + says + '.'
  },
  undoTap(last) {
    if (last.clock) return this.takeBackClock(last.clock)
    if (last.here) {
      // whoever was not said otherwise since
      for (const p of this.state.players) if (last.here.includes(p.id) && p.said === 'present') this.word(p, 'present')
      return
    }
    if (last.said) {
      this.setWord(
        this.state.players.find((p) => p.id === last.said.player),
        last.said,
      )
      return
    }
    if (last.climb) return this.climb(last.climb.c, -last.climb.by, true)
    if (last.point) {
      this.untap(last.point)
      if (this.taps.at(-1)?.more) this.undoTap(this.taps.pop()) // of one tap
      return
    }
    const t = last.tally && this.series[last.tally]
    if (t)
      return this.change(
        t.id,
        t.tries.slice(0, -1),
        false,
        t.zones ? t.zones.split(',').slice(0, -1).join(',') : undefined,
      )
    const id = last.tally || last.mark
    const m = this.state.marks.find((k) => k.id === id)
    if (m) m.struck = true
    this.beat++
    this.keep({ kind: 'strike', id })
  },
  takeBackClock(id) {
    const item = { kind: 'clock', id: newID(), do: 'undo ' + id, at: this.stamp() }
    this.state.events.push({ id: item.id, do: item.do, at: Math.floor(this.moment()) })
    this.tick()
    this.keep(item)
    this.keepState()
  },
  key(e) {
    if (e.ctrlKey || e.metaKey || e.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return
    const rows = this.station ? this.shown : []
    const row = rows.find((r) => r.key === this.lastRow) || rows[0]
    if (e.key === '?') return this.explainFocused() && e.preventDefault()
    if (e.key === 'Escape' && this.meansText) return this.closeMeans()
    if (e.key === 'u') this.takeBack()
    else if (e.key === 'x' && row && row.pad === 'tries') this.tap(row, false)
    else if (e.key === ' ' && e.target.tagName !== 'BUTTON' && row && row.pad === 'tries') this.tap(row, true)
    else if (e.key === 'k' && row) this.keepRow(row)
    else if ((e.key === '+' || e.key === '-') && row && !['tries', 'points', 'grade'].includes(row.pad))
      this.step(row, (e.key === '+' ? 1 : -1) * (row.by || 1))
    else if (/^[1-9]$/.test(e.key) && row && row.pad === 'grade' && Number(e.key) <= row.grades.length)
      this.keepFigure(row, Number(e.key))
    else if ((e.key === 'n' || e.key === 'p') && rows.length)
      this.lastRow = rows[(rows.indexOf(row) + (e.key === 'n' ? 1 : rows.length - 1)) % rows.length].key // to the next player
    else return
    e.preventDefault()
  },
}
