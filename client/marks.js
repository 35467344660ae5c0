// The sheet by keys, and the pad beside it: arrows move between cells, Space, X and U count, digits grade, Enter keeps and brings the next player.
import { runs } from './pads.js'

const $ = (s, root = document) => root.querySelector(s)
const cells = () => [...document.querySelectorAll('.mark-cell')]
let open = null,
  next = null

const column = (b) => [...b.closest('tr').querySelectorAll('.mark-cell')].indexOf(b)
function neighbour(b, key) {
  const row = b.closest('tr'),
    i = column(b)
  if (key === 'ArrowLeft' || key === 'ArrowRight')
    return row.querySelectorAll('.mark-cell')[i + (key === 'ArrowRight' ? 1 : -1)]
  const rows = [...document.querySelectorAll('.sheet-table tbody tr')],
    at = rows[rows.indexOf(row) + (key === 'ArrowDown' ? 1 : -1)]
  return at && (at.querySelectorAll('.mark-cell')[i] || at.querySelector('.mark-cell'))
}

document.addEventListener('click', (e) => {
  const b = e.target.closest('.mark-cell')
  if (b) {
    open = b
    for (const c of cells()) c.classList.toggle('is-open', c === b)
  }
  const tap = e.target.closest('[data-tap]')
  if (tap) count(tap.dataset.tap)
  if (e.target.closest('[data-back]')) takeBack()
})

// Taps have a field of their own: what is typed beside them is a figure, and never taken for taps.
const field = () => $('#cell [name=taps]')
const typed = () => $('#cell [name=tries]')
function show() {
  const out = $('#cell [data-count]'),
    pad = $('#cell [data-pad]'),
    t = field()
  if (!out) return
  const n = runs(t.value)
  out.textContent = pad.dataset.pad === 'makes' ? n.good + ' of ' + n.tried : n.run + ' now, best ' + n.best
}
function count(t) {
  if (field()) {
    typed().value = ''
    field().value += t
    show()
  }
}
function takeBack() {
  if (field()) {
    field().value = field().value.slice(0, -1)
    show()
  }
}

document.addEventListener(
  'keydown',
  (e) => {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const b = e.target.closest('.mark-cell')
    if (b && e.key.startsWith('Arrow')) {
      const to = neighbour(b, e.key)
      if (to) {
        e.preventDefault()
        to.focus()
      }
      return
    }
    const typing =
      /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName) && e.target.type !== 'radio' && e.target.type !== 'checkbox'
    const pad = $('#cell [data-pad]')
    if (!pad || typing) return
    const figure = pad.querySelector('[name=figure]:not([type=radio])')
    if (figure && /^[0-9]$/.test(e.key)) {
      figure.focus()
      return
    } // the digit goes there
    if (field() && e.key === ' ' && e.target.tagName !== 'BUTTON') count('1')
    else if (field() && e.key === ' ' && b) count('1')
    else if (field() && e.key.toLowerCase() === 'x') count('0')
    else if (field() && e.key.toLowerCase() === 'u') takeBack()
    else if (/^[1-9]$/.test(e.key) && pad.querySelector(`[name=figure][value="${e.key}"]`))
      pad.querySelector(`[name=figure][value="${e.key}"]`).checked = true
    else if (/^[1-9]$/.test(e.key) && pad.querySelectorAll('[name=point]')[e.key - 1]) {
      const p = pad.querySelectorAll('[name=point]')[e.key - 1]
      p.checked = !p.checked
    } else if (e.key === 'Enter' && b === open && pad.dataset.touched) {
      pad.requestSubmit()
    } else return
    if (e.key !== 'Enter') pad.dataset.touched = '1'
    e.preventDefault()
    e.stopPropagation()
  },
  true,
)

document.addEventListener('input', (e) => {
  if (e.target === typed() && e.target.value && field()) {
    field().value = ''
    show()
  }
})
document.addEventListener(
  'submit',
  (e) => {
    if (e.target.matches('[data-pad]')) next = open && neighbour(open, 'ArrowDown')
  },
  true,
)
document.addEventListener('htmx:afterSwap', (e) => {
  if (e.detail.target?.id !== 'cell') return
  show()
  const kept = $('#cell [role=status] b')
  if (kept && next) {
    const to = next
    next = null
    to.focus()
    to.click()
  } else if (open) open.focus()
})
