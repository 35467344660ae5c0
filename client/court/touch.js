// What a thumb does besides tapping: to the right for good, to the left for a miss, and held for what a word means.
const far = 56, // px that a swipe goes at least
  still = 12, // px that a thumb which holds may move
  held = 500 // ms

// swiped is where a thumb went that moved by so many px: right, left, or nowhere that counts.
export const swiped = (dx, dy) =>
  Math.abs(dx) < far || Math.abs(dx) < 2 * Math.abs(dy) ? '' : dx > 0 ? 'right' : 'left'

const tapping = 500 // ms after a tap in which nothing moves under the finger
let settling = 0

export const touch = {
  settled: true, // nobody taps just now: rows may change places, and keys
  leftHand: false, // the hand that holds the phone, kept on it
  meansText: '',
  beginTouch(root) {
    this.leftHand = localStorage.getItem('gruppo-left-hand') === 'yes'
    let from = null, // where the thumb came down
      timer = 0,
      swallow = false // the tap that ends a swipe or a hold is none
    const over = () => {
      clearTimeout(timer)
      if (from?.row) {
        from.row.style.transform = ''
        delete from.row.dataset.way
      }
      from = null
    }
    root.addEventListener('pointerdown', (e) => {
      over()
      this.settled = false
      clearTimeout(settling)
      settling = setTimeout(() => {
        this.settled = true
      }, tapping)
      swallow = false
      const word = e.target.closest('[data-means]'),
        row = e.pointerType === 'mouse' ? null : e.target.closest('[data-swipes]')
      from = { x: e.clientX, y: e.clientY, row }
      if (word)
        timer = setTimeout(() => {
          swallow = true
          over()
          this.explain(word)
        }, held)
    })
    root.addEventListener('pointermove', (e) => {
      if (!from) return
      const dx = e.clientX - from.x,
        dy = e.clientY - from.y
      if (Math.hypot(dx, dy) > still) clearTimeout(timer)
      if (!from.row) return
      from.row.style.transform = Math.abs(dx) > still ? `translateX(${Math.max(-90, Math.min(90, dx))}px)` : ''
      from.row.dataset.way = swiped(dx, dy)
    })
    root.addEventListener('pointerup', (e) => {
      const way = from?.row ? swiped(e.clientX - from.x, e.clientY - from.y) : '',
        key = from?.row?.dataset.swipes
      over()
      if (!way) return
      swallow = true
      this.swipe(key, way === 'right')
    })
    root.addEventListener('pointercancel', over)
    root.addEventListener('contextmenu', (e) => e.target.closest('[data-means]') && e.preventDefault())
    root.addEventListener(
      'click',
      (e) => {
        if (!swallow) return
        swallow = false
        e.stopPropagation()
        e.preventDefault()
      },
      true,
    )
  },
  swipe(key, good) {
    const row = this.shown.find((r) => r.key === key),
      one = this.ones.find((o) => o.key === key),
      climber = this.tab === 'ladder' && this.climbers.find((c) => c.padKey === key)
    if (row) this.tap(row, good)
    else if (one) this.tapOne(one, good)
    else if (climber) this.tapClimb(climber, good)
  },
  // explain says what a word means; a register's row opens instead.
  explain(el) {
    const [kind, what] = el.dataset.means.split(':')
    if (kind === 'register') this.open = what
    else this.meansText = this.meaning(kind, what)
  },
  explainFocused() {
    const el = document.activeElement?.closest('[data-means]')
    if (el) this.explain(el)
    return Boolean(el)
  },
  closeMeans() {
    this.meansText = ''
  },
  toggleLeft() {
    this.leftHand = !this.leftHand
    localStorage.setItem('gruppo-left-hand', this.leftHand ? 'yes' : 'no')
  },
}
