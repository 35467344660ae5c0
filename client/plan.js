// The planner: pointing, dragging and keys on the Floor and the Strip, and what others change meanwhile. What a drag means is
// sent as an edit; the server works it out and answers with the plan.
import { newest } from './live.js'
import { grid, parse, sized, snapped, turned, words, stepOf } from './place.js'

const $ = (s, root = document) => root.querySelector(s)
const $$ = (s, root = document) => [...root.querySelectorAll(s)]
const plan = () => $('#plan')
const url = () => '/sessions/' + plan().dataset.session

// htmx makes the round trip; the answer is the whole plan, put in as it is. Matching it with the old one element by element and
// looking for htmx's attributes in it, as htmx's own swap does, would take longer than the server needs to work the plan out.
window.htmx.defineExtension('whole', {
  isInlineSwap: (style) => style === 'whole',
  handleSwap: (style, target, fragment, info) => {
    if (style !== 'whole') return false
    info.elts.push(fragment.firstElementChild)
    target.replaceWith(fragment)
    // before htmx puts the focus back: what is hidden cannot have it
    unfold()
    followBlock()
    return []
  },
})
let asking = 0,
  heard = 0, // answers on their way, and the newest version that was spoken of meanwhile
  turn = Promise.resolve()
let others = 0 // how often the plan became another than what this page had made of it
const seen = () => {
  const version = plan().dataset.version,
    then = others
  return () => (then === others ? plan().dataset.version : version) // of an edit: as the plan was seen, and as this page has edited it since
}
// ask takes one after the other: what is done while an answer is on its way is done after it. Its values are worked out when it is its turn.
async function ask(verb, path, values = () => ({})) {
  asking++
  const before = turn
  turn = (async () => {
    await before.catch(() => {}) // it has said so itself
    const tab = $('.tabs-row [aria-selected=true]')?.getAttribute('aria-controls') // the only one that has to be filled now
    const was = plan().dataset.version
    const all = { ...values(), tab }
    await window.htmx.ajax(verb, path, { source: '#plan', target: '#plan', swap: 'whole', values: all })
    const now = plan()?.dataset.version
    if ((verb === 'GET' && now !== was) || $('#plan > .finding[role=alert]')) others++
  })()
  try {
    await turn
  } finally {
    asking--
  }
  if (asking) return
  const other = heard > Number(plan()?.dataset.version) // somebody else's, newer than the answer
  heard = 0
  if (other) read()
}

// A link waits for what waits for its turn; who closes the page all the same is asked.
document.addEventListener(
  'click',
  async (e) => {
    const link = e.target.closest?.('a[href]:not([target], [download])')
    const here = link?.hash && link.pathname === location.pathname
    if (!asking || !link || here || e.button || e.ctrlKey || e.metaKey || e.shiftKey) return
    e.preventDefault()
    while (asking) await turn.catch(() => {})
    location.href = link.href
  },
  true,
)
addEventListener('beforeunload', (e) => asking > 1 && e.preventDefault()) // the server goes on with what it has been sent

// What is pressed again takes nothing out and puts nothing in: the second half of a double click or tap, wherever it lands, and what was pressed already
// while its answer is on its way.
const pressed = new Set()
let last = { at: -1000, x: 0, y: 0 }
document.addEventListener(
  'click',
  (e) => {
    const near = Math.hypot(e.clientX - last.x, e.clientY - last.y) < 24
    const half = e.detail > 1 || (e.detail && near && e.timeStamp - last.at < 400) // a finger's taps are not counted
    last = { at: e.timeStamp, x: e.clientX, y: e.clientY }
    const once = e.target.closest?.('#plan [data-do] button:not([name]), [data-add]')
    if (!once) return
    if (!asking) pressed.clear()
    if (half || pressed.has(once)) {
      e.preventDefault()
      e.stopPropagation()
    }
    pressed.add(once)
  },
  true,
)

// What is held while an answer puts another in its place is pressed there: the browser knows of no click on what is gone.
// (A finger's tap it gives to what stands there when it is lifted.)
let finger = null
addEventListener(
  'pointerdown',
  (e) => (finger = e.target.closest?.('#plan :is(button, summary, a, [role=button])[id]')),
  true,
)
addEventListener(
  'pointerup',
  (e) => {
    const now = finger && !finger.isConnected && e.pointerType !== 'touch' && document.getElementById(finger.id)
    if (now && now.contains(e.target)) now.dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true }))
    finger = null
  },
  true,
)

let busy = null // a drag
// send is an edit; a value that is worked out is so at its turn.
function send(action, at, value) {
  for (const t of $$('#undo .toast')) t.remove() // what was made before is not the last thing any more
  const version = seen()
  return ask('POST', url() + '/plan', () => ({
    version: version(),
    do: action,
    at,
    value: typeof value === 'function' ? value() : value,
  }))
}

// -- what is shown: a moment of the session, a block's settings, a group lit

let moment = -1,
  block = -1, // where the block is whose settings are shown
  chosen = '' // and which it is
function showMoment(i) {
  const all = $$('.round-at')
  if (!all.length) return
  if (i < 0 || i >= all.length)
    i = Math.max(
      0,
      all.findIndex((m) => m.dataset.label.includes('Round 1')),
    )
  if (i < all.length - 1 && all[i].dataset.label.endsWith('Change') && i === moment) i++ // walking is seen in passing
  moment = i
  for (const t of $$('.tokens')) {
    const spot = (t.dataset.spots || '').split(' ')[i]
    if (spot) t.setAttribute('transform', `translate(${spot.replace(',', ' ')})`)
  }
  const circuit = all[i].dataset.circuit // the stations of one block of stations are on the floor at a time
  if (circuit >= 0)
    for (const el of $$('.floor [data-circuit]')) el.classList.toggle('is-elsewhere', el.dataset.circuit !== circuit)
  for (const el of $$('.floor-courts')) el.classList.toggle('is-elsewhere', el.dataset.of !== all[i].dataset.of)
  $('.floor-map')?.classList.toggle('has-courts', Boolean($('.floor-courts:not(.is-elsewhere)')))
  for (const el of $$('.strip [data-moment]')) el.classList.toggle('is-shown', Number(el.dataset.moment) === i)
  const name = $('[data-moment-name]')
  if (name) name.textContent = all[i].dataset.label
}

function showBlock(i) {
  const forms = $$('[data-block-form]')
  if (!forms.length) return
  if (!forms.some((f) => Number(f.dataset.blockForm) === i))
    i = Number(($('.bar.is-stations') || $('.bar')).dataset.block)
  block = i
  chosen = idOf(i)
  for (const f of forms) f.hidden = Number(f.dataset.blockForm) !== i
  for (const b of $$('.bar')) b.classList.toggle('is-chosen', Number(b.dataset.block) === i)
}

// followBlock goes on with the block that was shown, wherever it is by now.
function followBlock() {
  const now = $$('.bar').find((b) => b.dataset.id === chosen)
  showBlock(now ? Number(now.dataset.block) : block)
}

let stationNext = null
function openStation(i) {
  const spot = $('#spot-' + i)
  if (spot?.classList.contains('is-elsewhere'))
    showMoment($$('.round-at').findIndex((m) => m.dataset.circuit === spot.dataset.circuit))
  if (!$('#tab-stations').checkVisibility()) edits(true) // on a phone
  $('#tab-stations').click()
  const d = $('#station-' + i)
  if (!d) {
    stationNext = i
    return
  } // it comes with its tab
  for (const o of $$('.station-row[open]')) if (o !== d) o.open = false
  d.open = true
  d.scrollIntoView({ block: 'nearest' })
}

let lit = null
function light(group) {
  if (group === lit) return
  lit = group
  for (const el of $$('#plan [data-group], #plan [data-path]')) {
    const g = el.dataset.group ?? el.dataset.path
    el.classList.toggle('is-lit', group !== null && g === group)
    el.classList.toggle('is-dim', group !== null && g !== group)
  }
}

document.addEventListener('pointerover', (e) => {
  if (!plan() || busy) return
  const m = e.target.closest?.('.strip [data-moment]')
  if (m) showMoment(Number(m.dataset.moment))
  const bar = e.target.closest?.('.bar')
  if (bar && bar.dataset.kind !== 'stations') showMoment(momentOf(bar))
  const group = e.target.closest?.('.ledger [data-group], .strip .group-row, .floor .tokens')
  light(group ? group.dataset.group : null)
})
const momentOf = (bar) => {
  // the moment under the block's middle
  const r = bar.querySelector('rect').getBoundingClientRect(),
    x = r.x + r.width / 2
  return $$('.round-at').findIndex((m) => {
    const b = m.getBoundingClientRect()
    return b.x <= x && x <= b.right
  })
}
document.addEventListener('focusin', (e) => {
  const v = e.target.closest?.('.visit'),
    bar = e.target.closest?.('.bar')
  if (v) showMoment(Number(v.dataset.moment))
  if (bar) {
    showBlock(Number(bar.dataset.block))
    showMoment(momentOf(bar))
  }
  if (e.target.matches?.('[data-options]')) fill(e.target)
})
document.addEventListener('pointerdown', (e) => {
  if (e.target.matches?.('[data-options]')) fill(e.target)
})
function fill(select) {
  const now = select.value
  const from = document.getElementById(select.dataset.options)
  if (!from || select.dataset.filled) return
  select.dataset.filled = '1'
  for (const o of [...from.content.cloneNode(true).children])
    if (o.value !== now) {
      o.value = (select.dataset.before ?? '') + o.value
      select.append(o)
    }
}

// -- keys

document.addEventListener(
  'keydown',
  (e) => {
    if (!plan() || e.ctrlKey || e.metaKey || /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return
    const station = e.target.closest?.('.floor .station'),
      bar = e.target.closest?.('.bar')
    const done = () => {
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    if (station && stationKey(e, station)) return done()
    if (bar) {
      const at = Number(bar.dataset.block)
      const press = (id) => {
        const b = document.getElementById(id + at)
        if (b) b.click()
        return true
      }
      if (e.altKey && (e.key === 'ArrowLeft' || e.key === 'ArrowRight')) {
        focusAfter(at + (e.key === 'ArrowLeft' ? -1 : 1))
        press(e.key === 'ArrowLeft' ? 'earlier-' : 'later-')
        return done()
      }
      if ((e.key === '[' || e.key === ']') && bar.dataset.kind !== 'stations') {
        press(e.key === '[' ? 'min-less-' : 'min-more-')
        return done()
      }
      if (e.key === 's' && bar.dataset.kind !== 'stations') {
        press('halve-')
        return done()
      }
      if (e.key === 's' || e.key === 'i') {
        const more = $('#more-' + at)
        if (e.key === 's' && more) more.open = true
        ;(e.key === 's' ? $('#split-' + at) : $('[data-add]'))?.focus()
        return done()
      }
      if (e.key === 'Delete') {
        press('drop-')
        return done()
      }
    }
    if (!e.altKey && (e.key === 'ArrowLeft' || e.key === 'ArrowRight') && e.target.closest?.('.strip')) {
      const all = $$('.strip .bar, .strip .visit')
      const to = all[all.indexOf(e.target) + (e.key === 'ArrowRight' ? 1 : -1)]
      if (to) {
        to.focus()
        return done()
      }
    }
    if ((e.key === 'Enter' || e.key === ' ') && e.target.closest?.('.visit')) {
      showMoment(Number(e.target.closest('.visit').dataset.moment))
      return done()
    }
  },
  true,
)
let focusNext = ''
const focusAfter = (i) => {
  focusNext = 'bar-' + Math.max(0, i)
}

// -- the Floor

const placeOf = (s) => parse(s.dataset.place)
const put = (s, p) => send('spot', s.dataset.id, words(p))

let nudge = null
function stationKey(e, s) {
  let p = nudge?.station === s ? nudge.p : placeOf(s)
  const far = grid(),
    step = { ArrowLeft: [-far, 0], ArrowRight: [far, 0], ArrowUp: [0, -far], ArrowDown: [0, far] }[e.key]
  if (step) {
    p = e.shiftKey ? sized({ ...p, l: p.l + step[0], w: p.w + step[1] }) : { ...p, x: p.x + step[0], y: p.y + step[1] }
  } else if (e.key === 'r' || e.key === 'R') {
    p = turned(p)
  } else if (e.key === 'Enter' || e.key === ' ') {
    openStation(s.dataset.station)
    return true
  } else if (e.key === 'Delete') {
    send('drop-station', s.dataset.id, '')
    return true
  } else return false
  if (nudge) clearTimeout(nudge.timer)
  nudge = {
    station: s,
    p,
    timer: setTimeout(() => {
      nudge = null
      put(s, p)
    }, 250),
  } // several presses are one change
  draw(s, p)
  return true
}

// draw shows a place before the server has worked it out.
function draw(s, p) {
  const map = s.ownerSVGElement,
    k = Number(map.dataset.scale),
    was = placeOf(s),
    box = $('.spot', s)
  s.setAttribute('transform', `translate(${(p.x - was.x) * k} ${(p.y - was.y) * k})`)
  box.setAttribute('width', p.l * k)
  box.setAttribute('height', p.w * k)
  s.classList.add('is-moving')
}

const lines = (map, axis) => map.dataset[axis].split(' ').filter(Boolean).map(Number)
const snap = (map, p) => snapped(p, lines(map, 'snapX'), lines(map, 'snapY'))

document.addEventListener('pointerdown', (e) => {
  if (!plan() || e.button || e.pointerType === 'touch') return // a finger scrolls and taps; its moves are made by the forms
  const s = e.target.closest?.('.floor .station'),
    bar = e.target.closest?.('.bar')
  if (s) return dragStation(e, s)
  if (bar) dragBar(e, bar)
})

function follow(e, move, drop) {
  busy = { x: e.clientX, y: e.clientY, moved: false }
  const on = (ev) => {
    const dx = ev.clientX - busy.x,
      dy = ev.clientY - busy.y
    if (!busy.moved && Math.hypot(dx, dy) < 4) return
    busy.moved = true
    ev.preventDefault()
    move(dx, dy)
  }
  const off = (ev) => {
    removeEventListener('pointermove', on)
    removeEventListener('pointerup', off)
    removeEventListener('pointercancel', off)
    const moved = busy.moved
    busy = null
    drop(moved && ev.type === 'pointerup')
  }
  addEventListener('pointermove', on)
  addEventListener('pointerup', off)
  addEventListener('pointercancel', off)
}

function dragStation(e, s) {
  const map = s.ownerSVGElement,
    was = placeOf(s),
    k = Number(map.dataset.scale) * map.getScreenCTM().a
  const sizing = e.target.classList.contains('grip')
  e.preventDefault()
  s.focus()
  let p = was
  if (e.target.classList.contains('turn-grip')) return put(s, turned(was))
  follow(
    e,
    (dx, dy) => {
      p = sizing
        ? sized({ ...was, l: was.l + dx / k, w: was.w + dy / k })
        : snap(map, { ...was, x: was.x + dx / k, y: was.y + dy / k })
      draw(s, p)
    },
    (moved) => {
      if (!moved) return openStation(s.dataset.station)
      if (words(p) !== words(was)) put(s, p)
      else s.removeAttribute('transform')
    },
  )
}

// -- the Strip: the middle of a block moves it, its right edge makes it longer or shorter

function dragBar(e, bar) {
  const map = bar.ownerSVGElement,
    at = Number(bar.dataset.block),
    minutes = Number(bar.dataset.minutes)
  const scale = map.getBoundingClientRect().width / map.viewBox.baseVal.width,
    k = Number(map.dataset.perMinute) * scale
  const sizing = e.target.classList.contains('edge-grip')
  let to = minutes,
    place = at
  follow(
    e,
    (dx) => {
      if (sizing) {
        to = Math.max(1, minutes + Math.round(dx / k))
        $('rect', bar).setAttribute('width', Math.max(4, to * Number(map.dataset.perMinute) - 3))
        $('.who', bar).textContent = to + ' min'
        return
      }
      bar.setAttribute('transform', `translate(${dx / scale} 0)`)
      bar.classList.add('is-moving')
      place = $$('.bar').filter((o) => o !== bar && middle(o) < middle(bar)).length
    },
    (moved) => {
      if (!moved) return
      if (sizing && to !== minutes) return send('minutes', bar.dataset.id, to)
      if (!sizing && place !== at) {
        focusAfter(place)
        return send('move-block', bar.dataset.id, place)
      }
      bar.removeAttribute('transform')
    },
  )
}

// -- blocks are added from the small set above the Strip: a tap puts one after the chosen block, a drag where it is dropped

const idOf = (i) => $('#bar-' + i)?.dataset.id
const middle = (el) => {
  const r = el.getBoundingClientRect()
  return r.x + r.width / 2
}
function add(kind, before) {
  focusAfter(before)
  block = before
  chosen = ''
  if (!$('.bar')) return send('add-block', '', kind)
  return idOf(before) ? send('add-block', idOf(before), kind) : send('add-block', 'after ' + idOf(before - 1), kind)
}
function dragKind(e, chip) {
  const ghost = Object.assign(chip.cloneNode(true), { className: 'add-kind is-dragged' }),
    map = $('.strip-map')
  let before = -1
  follow(
    e,
    (dx, dy) => {
      if (!ghost.isConnected) document.body.append(ghost)
      ghost.style.translate = `${e.clientX + dx + 8}px ${e.clientY + dy + 8}px`
      const box = map.getBoundingClientRect(),
        x = e.clientX + dx,
        y = e.clientY + dy
      before = x >= box.x && x <= box.right && y >= box.y && y <= box.bottom ? 0 : -1
      if (!before) before = $$('.bar').filter((b) => middle(b) < x).length
      for (const b of $$('.bar'))
        b.classList.toggle('is-after', before >= 0 && Number(b.dataset.block) === before - (before > 0 ? 1 : 0))
    },
    (moved) => {
      ghost.remove()
      for (const b of $$('.bar')) b.classList.remove('is-after')
      if (!moved) return
      dropped = true // the click that ends a drag adds nothing
      setTimeout(() => (dropped = false))
      if (before >= 0) add(chip.dataset.add, before)
    },
  )
}
let dropped = false
document.addEventListener('pointerdown', (e) => {
  const chip = plan() && !e.button && e.pointerType !== 'touch' && e.target.closest?.('[data-add]')
  if (chip) dragKind(e, chip)
})
document.addEventListener('click', (e) => {
  const chip = e.target.closest?.('[data-add]')
  if (chip && !dropped) add(chip.dataset.add, Math.max(0, block) + ($('.bar') ? 1 : 0))
})

// -- forms of the page that are sent as edits

// the open tab comes when it is not here yet; one may have been opened before this script was here
const fillTab = () => {
  if ($('[role=tabpanel]:not([hidden]) [data-later]')) read()
}
document.addEventListener('opened', fillTab)
// typed is a figure beside its − and +: taken when it was changed, or by Enter; a time may be typed as 5:30.
const seconds = (text) => {
  const [m, s] = text.trim().split(':')
  return s === undefined ? text.trim() : String(60 * Number(m) + Number(s))
}
document.addEventListener('change', (e) => {
  if (!e.target.matches('#plan [data-typed]')) return
  const { typed, clock } = e.target.dataset,
    form = e.target.form
  const now = clock === undefined ? e.target.value.trim() : seconds(e.target.value)
  send(form.dataset.do, form.dataset.at, (typed + ' ' + now).trim())
})
document.addEventListener('keydown', (e) => {
  if (e.key !== 'Enter' || !e.target.matches?.('#plan [data-typed]')) return
  e.preventDefault() // the first button of its form is a step down
  e.target.blur()
})
document.addEventListener('submit', (e) => {
  if (e.target.matches('#plan [data-do]')) {
    e.preventDefault()
    if (e.submitter?.ariaDisabled === 'true') return // it is as low, or as high, as can be
    if (e.target.dataset.do === 'mend') focusNext = 'findings'
    if (e.target.dataset.do === 'drop-block') focusAfter(Math.min(block, $$('.bar').length - 2)) // not to the next “×”
    const field = e.submitter?.name ? e.submitter : e.target.elements.value
    const before = field?.tagName === 'INPUT' ? (field.dataset.before ?? '') : '' // a list's options carry it themselves
    const { at } = e.target.dataset
    const value = () => {
      const now = field === e.submitter && document.getElementById(field.id)
      return now && now.form?.dataset.at === at ? now.value : before + (field?.value ?? '') // a step goes on from where it is by then
    }
    return send(e.target.dataset.do, at, value)
  }
  if (e.target.matches('#plan form[method=post]') && e.submitter?.formMethod !== 'get') {
    e.preventDefault()
    if (e.target.matches('.propose')) focusNext = 'shape'
    const values = Object.fromEntries(new FormData(e.target, e.submitter)),
      version = seen()
    return ask('POST', e.target.getAttribute('action'), () =>
      'version' in values ? { ...values, version: version() } : values,
    )
  }
  if (!e.target.matches('[data-place]')) return
  e.preventDefault()
  const field = e.target.elements,
    n = (k) => field[k].value.trim() || 'nothing',
    turn = field.turn.value
  const was = placeOf($('#spot-' + e.target.dataset.place)),
    quarter = (Number(turn) - was.turn) % 180 !== 0
  const own = ['l', 'w'].every((k) => field[k].value === field[k].defaultValue)
  const [l, w] = quarter && own ? [n('w'), n('l')] : [n('l'), n('w')]
  send('place', e.target.dataset.id, [n('x'), n('y'), turn, l, w].join('|')) // as it is typed: feet, yards or metres
})
document.addEventListener('change', (e) => {
  if (!e.target.matches('[data-player]')) return
  const [deal, group] = e.target.value.split(' ')
  send('player', deal, e.target.dataset.player + ' ' + group)
})
document.addEventListener('click', (e) => {
  const pin = e.target.closest?.('[data-pin]')
  if (pin) return unfolded(() => send('pin', '', pin.dataset.pin))
  const tapped = e.pointerType === 'touch' && e.target.closest?.('.floor .station')
  if (tapped) return openStation(tapped.dataset.station)
  const here = e.target.closest?.('[data-open-station]')
  if (here) return openStation(here.dataset.openStation)
  if (e.target.id === 'wide') return widen(!wide)
  if (e.target.id === 'edit-plan') return edits(!editing)
  const sort = e.target.closest?.('[data-sort] th button')
  if (sort) return sortBy(sort.closest('th'))
  for (const d of $$('.pop[open]'))
    if (!d.contains(e.target) && !(d.id === 'propose' && !$('.floor .station'))) d.open = false
})
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape')
    for (const d of $$('.pop[open]')) {
      d.open = false
      $('summary', d).focus()
    }
})

let wide = false, // the ledger over the floor, with all its figures
  editing = sessionStorage.getItem('edits') === url(), // on a phone the plan is read first; who changes it goes on after a look elsewhere
  sorted = null
function widen(so) {
  wide = so
  if (wide && $('#ledger').hidden) $('#tab-ledger').click()
  plan().classList.toggle('is-wide', wide)
  $('#wide').setAttribute('aria-pressed', wide)
}
function edits(so) {
  editing = so
  sessionStorage.setItem('edits', so ? url() : '')
  plan().classList.toggle('is-editing', editing)
  const b = $('#edit-plan')
  b.setAttribute('aria-expanded', editing)
  b.textContent = editing ? 'Only read it' : 'Change the plan'
}
function sortBy(th, down = !(sorted?.at === th.cellIndex && sorted.down)) {
  sorted = { at: th.cellIndex, down }
  const body = $('tbody', th.closest('table')),
    i = th.cellIndex
  const value = (r) => r.cells[i].dataset.v ?? r.cells[i].textContent.trim()
  const rows = [...body.rows].sort((a, b) => {
    const x = value(a),
      y = value(b)
    return (isNaN(x) || isNaN(y) || x === '' || y === '' ? x.localeCompare(y) : x - y) * (down ? -1 : 1)
  })
  for (const o of $$('th', th.closest('tr'))) o.removeAttribute('aria-sort')
  th.setAttribute('aria-sort', down ? 'descending' : 'ascending')
  body.append(...rows)
}

// -- others: when somebody else changes the plan it is read again, unless something is being typed

let later = false
function listen() {
  const source = new EventSource(url() + '/live')
  source.onmessage = (e) => {
    const [what, version] = e.data.split(' ')
    if ((what !== 'plan' && what !== 'again' && what !== 'hello') || !plan() || version === plan().dataset.version)
      return
    if (asking) {
      heard = newest(heard, what, version)
      return
    } // most likely this page's own change; its answer is coming
    if (
      busy ||
      nudge ||
      (/^(INPUT|SELECT|TEXTAREA)$/.test(document.activeElement?.tagName) && plan().contains(document.activeElement))
    ) {
      later = true
      return
    }
    read()
  }
}
function read() {
  later = false
  return unfolded(() => ask('GET', url()))
}
// unfolded does what closes no panel: somebody else's change is read, or something is pinned.
let unfolding = false
async function unfolded(does) {
  unfolding = true
  try {
    await does()
  } finally {
    unfolding = false
  }
}
document.addEventListener('focusout', () => {
  if (later)
    setTimeout(() => {
      if (later && !plan().contains(document.activeElement)) read()
    }, 100)
})

// What was typed into one of the plan's forms stays there when it could not be kept, with the sentence that says why.
let typed = null
const names = (form) =>
  (form.dataset.do ?? form.dataset.place ?? form.getAttribute('action')) +
  ' ' +
  (form.dataset.at ?? form.elements.member?.value ?? '')
document.addEventListener(
  'submit',
  (e) => {
    if (e.target.closest('#plan'))
      typed = { form: names(e.target), fields: $$('input:not([type=hidden])', e.target).map((f) => f.value) }
  },
  true,
)
function keepTyped() {
  const says = $('#plan > .finding[role=alert] > span'),
    form = typed && $$('#plan form').find((f) => names(f) === typed.form)
  if (says && form && typed.fields.length) {
    const fields = $$('input:not([type=hidden])', form)
    fields.forEach((f, i) => {
      f.value = typed.fields[i] ?? f.value
    })
    form.append(
      Object.assign(document.createElement('p'), { className: 'help is-danger', textContent: says.textContent }),
    )
    fields[0]?.focus()
  }
  typed = null
}

let openRows = [],
  held = '' // what had the focus, where its id does not find it again: there is none, or its block has moved
const looks = (el) => el.tagName + (el.getAttribute('aria-label') || el.textContent.trim())
document.addEventListener('htmx:beforeSwap', (e) => {
  if (e.detail.target?.id !== 'plan') return
  const on = document.activeElement
  held = plan().contains(on) ? looks(on) : ''
  openRows = $$('.station-row[open], .units[open], .block-more[open]' + (unfolding ? ', .pop[id][open]' : '')).map(
    (d) => d.id,
  )
})
function unfold() {
  for (const id of openRows) {
    const d = document.getElementById(id)
    if (d) d.open = true
  }
  openRows = []
}
document.addEventListener('htmx:afterSwap', () => {
  if (plan()) show()
})
function show() {
  lit = null
  showMoment(moment)
  followBlock()
  widen(wide)
  edits(editing)
  if (stationNext !== null && $('#station-' + stationNext)) {
    const i = stationNext
    stationNext = null
    openStation(i)
  }
  const th = sorted && $$('.ledger th')[sorted.at]
  if (th) sortBy(th, sorted.down)
  keepTyped()
  if (focusNext) {
    document.getElementById(focusNext)?.focus()
    focusNext = ''
  }
  if (held && document.activeElement === document.body)
    $$('#plan :is(button, a, summary, input, select)')
      .find((el) => el.checkVisibility() && looks(el) === held)
      ?.focus()
  held = ''
}
stepOf(Number(plan()?.dataset.step))
show()
listen()
fillTab()
