// What every page shares: keys, tabs, the planner's rounds, small comforts of forms. Nothing here decides anything.

import { sweep, waiting } from './kept.js'

const $ = (s, root = document) => root.querySelector(s)
const $$ = (s, root = document) => [...root.querySelectorAll(s)]
const typing = (e) => /^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName) && e.target.type !== 'checkbox'

// -- keys: G and a letter goes to a place, / searches, ? lists, and data-key presses a button.

let going = false
document.addEventListener('keydown', (e) => {
  if (e.ctrlKey || e.metaKey || e.altKey) return
  if (e.key === 'Escape') return closeToasts()
  if (typing(e) || document.body.classList.contains('court-body')) return
  if (going) {
    going = false
    const link = $(`[data-go="${CSS.escape(e.key)}"]`)
    if (link) {
      e.preventDefault()
      link.click()
    }
    return
  }
  if (e.key === 'g') {
    going = true
    setTimeout(() => {
      going = false
    }, 1500)
    return
  }
  if (e.key === '/') {
    const s = $('[data-search]')
    if (s) {
      e.preventDefault()
      s.focus()
    }
    return
  }
  if (e.key === '?') {
    e.preventDefault()
    return help()
  }
  if (e.defaultPrevented) return
  const b = $(`[data-key="${CSS.escape(e.key)}"]`)
  if (b) {
    e.preventDefault()
    b.click()
  }
})

function help() {
  const d = $('#keys-help')
  if (!d) return
  const rows = [
    [
      'G then a letter',
      'go to a place: ' +
        $$('[data-go]')
          .map((a) => a.dataset.go.toUpperCase() + ' ' + a.textContent)
          .join(', '),
    ],
    ['/', 'search'],
    ['?', 'this list'],
  ]
  for (const b of $$('[data-key]'))
    rows.push([b.dataset.key.toUpperCase(), (b.getAttribute('aria-label') || b.textContent).trim()])
  if ($('.strip'))
    rows.push(
      ['← →', 'along the Strip'],
      ['[ ]', 'shorten or lengthen: the block you are on, else the rounds'],
      ['Alt ← →', 'move the block you are on'],
      ['S, I, Delete', 'split the block you are on, insert after it, take it out'],
      ['arrows on a station', 'move it half a metre; with Shift size it; R turns it; Delete takes it out'],
    )
  d.replaceChildren()
  const h = document.createElement('h2')
  h.id = 'keys-title'
  h.textContent = 'Keys'
  const t = document.createElement('table')
  for (const [k, what] of rows) {
    const tr = t.insertRow()
    tr.insertCell().append(Object.assign(document.createElement('kbd'), { textContent: k }))
    tr.insertCell().textContent = what
  }
  const close = Object.assign(document.createElement('button'), { className: 'button', textContent: 'Close' })
  close.addEventListener('click', () => d.close())
  d.append(h, t, close)
  d.showModal()
}

// -- tabs: which one was chosen last goes along with what is asked for, so that the server fills it.

const chosen = {} // on this page: a change that was on its way when a tab was chosen opens no other
function tabs(root = document) {
  for (const box of $$('[data-tabs]', root)) {
    const all = $$('[role=tab]', box)
    const open = (tab, focus) => {
      for (const t of all) {
        t.setAttribute('aria-selected', t === tab)
        t.tabIndex = t === tab ? 0 : -1
        $('#' + t.getAttribute('aria-controls')).hidden = t !== tab
      }
      if (focus) tab.focus()
      tab.dispatchEvent(new CustomEvent('opened', { bubbles: true }))
    }
    const choose = (tab, focus) => {
      chosen[box.dataset.tabs] = tab.id
      document.cookie = `tab-${box.dataset.tabs}=${tab.getAttribute('aria-controls')}; path=/; SameSite=Lax`
      open(tab, focus)
    }
    for (const t of all) {
      t.addEventListener('click', () => choose(t))
      t.addEventListener('keydown', (e) => {
        const to = all[(all.indexOf(t) + { ArrowRight: 1, ArrowLeft: all.length - 1 }[e.key]) % all.length]
        if (to) {
          e.preventDefault()
          e.stopPropagation()
          choose(to, true)
        }
      })
    }
    open(all.find((t) => t.id === (chosen[box.dataset.tabs] || box.dataset.first)) || all[0]) // as the server filled it
  }
}

// -- forms

// What is on its way is not sent again: on a slow network a second press would make two of what was asked for. Another button of
// the form, or other words in it, are something else. The planner's edits wait for each other instead (plan.js).
const sent = new Map() // by form, what it sent
const goes = (form, so) => {
  if (so) sent.set(form, so)
  else sent.delete(form)
}
const said = (e) => new URLSearchParams(new FormData(e.target, e.submitter)).toString()
const posts = (e) =>
  (e.submitter?.getAttribute('formmethod') || e.target.method) === 'post' || e.target.hasAttribute('hx-post')
addEventListener(
  'submit',
  (e) => {
    if (!sent.has(e.target) || sent.get(e.target) !== said(e)) return
    e.preventDefault()
    e.stopImmediatePropagation()
  },
  true,
)
addEventListener('submit', (e) => {
  const asked = e.target.hasAttribute('hx-post') // htmx sends it, and says when it is answered
  if (e.defaultPrevented ? !asked : !posts(e)) return
  goes(e.target, said(e))
  if (!asked) setTimeout(() => goes(e.target, ''), 20_000) // the server gives up before
})
document.addEventListener('htmx:afterRequest', (e) => sent.has(e.target) && goes(e.target, ''))
addEventListener('pageshow', () => sent.clear()) // somebody came back to it

document.addEventListener('click', (e) => {
  // a button that fills fields in: name=value;…
  const b = e.target.closest?.('[data-fill]')
  if (!b) return
  const form = $(b.dataset.fillIn)
  for (const part of b.dataset.fill.split(';')) {
    const [name, value] = part.split('=')
    if (name && form.elements[name]) form.elements[name].value = value
  }
  form.dispatchEvent(new Event('change', { bubbles: true }))
})

document.addEventListener('change', (e) => {
  if (e.target.matches('[data-submit]') && (e.target.value || !e.target.querySelector('option[selected][value=""]')))
    e.target.form.requestSubmit()
  if (e.target.matches('input[type=file][data-most]')) fileNote(e.target)
  if (e.target.matches('[data-all]'))
    for (const b of $$(`[name="${e.target.dataset.all}"]`, e.target.form)) b.checked = e.target.checked
})
// parts of a form that belong to one choice of another field: data-for="program=a|b"; those of other choices are away and are not sent
function parts(form) {
  for (const el of $$('[data-for]', form)) {
    const [name, value] = el.dataset.for.split('=')
    el.hidden = !value.split('|').includes(form.elements[name].value)
  }
  for (const field of $$('[data-for] :is(input, select, textarea)', form))
    field.disabled = Boolean(field.closest('[data-for][hidden]'))
}
for (const form of $$('form[data-parts]')) {
  parts(form)
  form.addEventListener('change', () => parts(form))
}
// a field that was refused is marked, and told by what stands beside it
const refusedField = (word) =>
  word.dataset.field &&
  $(`[name="${CSS.escape(word.dataset.field)}"]:not([type=hidden])`, word.closest('form') || document)
let words = 0
function markRefused(root) {
  for (const word of $$('.help.is-danger[data-field]', root)) {
    word.id ||= 'refused-' + ++words
    const field = refusedField(word)
    field?.setAttribute('aria-invalid', 'true')
    field?.setAttribute('aria-describedby', word.id)
  }
}
markRefused(document)
document.addEventListener('htmx:load', (e) => markRefused(e.target))
// and it is seen at once, however far down it stands
const refused = $('.help.is-danger')
if (refused) {
  for (let d = refused.closest('details'); d; d = d.parentElement.closest('details')) d.open = true
  const typed = $$('input:not([type=hidden]), select, textarea', refused.closest('form') || document)
  const before = typed.findLast((f) => f.compareDocumentPosition(refused) & Node.DOCUMENT_POSITION_FOLLOWING)
  const field = refusedField(refused) || before
  field?.focus({ preventScroll: true })
  refused.scrollIntoView({ block: 'center' })
}
// a line that can be there again: whoever fills the last one gets another
document.addEventListener('change', (e) => {
  const lines = e.target.closest('[data-again]'),
    last = lines?.lastElementChild
  if (!last?.contains(e.target) || !e.target.matches('select') || !e.target.value || lines.children.length > 30) return
  const more = last.cloneNode(true),
    n = lines.children.length
  for (const s of $$('select', more)) s.selectedIndex = 0
  for (const x of $$('[id]', more)) x.id = x.id.replace(/\d+$/, n)
  for (const x of $$('[for]', more)) x.htmlFor = x.htmlFor.replace(/\d+$/, n)
  for (const x of $$('input', more)) x.value = x.defaultValue
  lines.append(more)
})
// two who choose each other: tap one and then the other, or drag one onto the other; the same name twice lets go
let chooser = null
function choose(b) {
  const form = b.closest('[data-choose]')
  if (!chooser || !form.contains(chooser)) {
    chooser = b
    b.setAttribute('aria-pressed', 'true')
    return
  }
  form.elements.player.value = chooser.dataset.player
  form.elements.partner.value = chooser === b ? '' : b.dataset.player
  chooser = null
  form.requestSubmit()
}
document.addEventListener('click', (e) => {
  const b = e.target.closest?.('[data-choose] [data-player]')
  if (b) choose(b)
})
document.addEventListener('dragstart', (e) => {
  const b = e.target.closest?.('[data-choose] [data-player]')
  if (b) chooser = b
})
document.addEventListener('dragover', (e) => {
  if (chooser && e.target.closest?.('[data-choose] [data-player]')) e.preventDefault()
})
document.addEventListener('drop', (e) => {
  const b = e.target.closest?.('[data-choose] [data-player]')
  if (!b || !chooser || b === chooser) return
  e.preventDefault()
  choose(b)
})
document.addEventListener('dragend', () => {
  chooser = null
})
document.addEventListener('click', (e) => {
  for (const sheet of $$('.is-up'))
    // by its own button, or a tap beside it
    if (e.target.matches('.sheet-close') || !sheet.contains(e.target)) sheet.classList.remove('is-up')
  if (e.target.matches('[data-close]')) e.target.closest('.toast').remove()
  if (e.target.matches('[data-print]')) print()
})
document.addEventListener('submit', (e) => {
  if (e.target.getAttribute('action')?.startsWith('/sign-out')) {
    e.preventDefault()
    leave(e.target)
    return
  }
  if (!e.target.matches('[data-import]')) return
  const file = $('input[type=file]', e.target)
  if (file && !fileNote(file)) return e.preventDefault()
  const w = $('.working', e.target)
  if (w) w.hidden = false
})

// What a tap opened comes up from the bottom of a phone, and goes by its own button, a tap beside it, or Escape.
for (const filled of ['htmx:afterSettle', 'filled'])
  document.addEventListener(filled, (e) => {
    const sheet = e.target.closest?.('[data-sheet]')
    if (!sheet || !matchMedia('(max-width: 900px)').matches) return
    if (!$('.sheet-close', sheet)) {
      const close = Object.assign(document.createElement('button'), { type: 'button', className: 'sheet-close' })
      close.textContent = '×'
      close.setAttribute('aria-label', 'Close')
      sheet.prepend(close)
    }
    sheet.classList.add('is-up')
  })
document.addEventListener('keydown', (e) => {
  if (e.key === 'Escape') for (const s of $$('.is-up')) s.classList.remove('is-up')
})

// The day is drawn wider than a phone: it begins where the next session is.
const next = $('.day-bar.is-next')
if (next) {
  const box = next.closest('.day-box')
  box.scrollLeft = next.getBoundingClientRect().left - box.getBoundingClientRect().left - 120
}

// leave signs out; what the hall kept on this device goes with it.
async function leave(form) {
  const n = await waiting().catch(() => 0)
  const lost = n === 1 ? 'One thing that you tapped in the hall has' : n + ' things that you tapped in the hall have'
  if (n && !confirm(lost + ' not arrived yet. Open the session to send it first. Sign out all the same?')) return
  await sweep('').catch(() => {}) // a browser that keeps nothing has nothing to forget
  await window.caches?.delete('gruppo-hall')
  form.submit()
}

// fileNote says at the file what is wrong with it, before it is sent.
function fileNote(input) {
  const f = input.files[0],
    note = $('[data-file-note]', input.form),
    most = Number(input.dataset.most)
  const bad = f && f.size > most * 1024 * 1024
  note.classList.toggle('is-danger', Boolean(bad))
  note.textContent = bad
    ? `${f.name} is ${Math.round(f.size / 1048576)} MB; ${input.dataset.what || 'a list of players'} is at most ${most} MB.`
    : f
      ? `${f.name}, ${Math.max(1, Math.round(f.size / 1024))} KB`
      : note.textContent
  return !bad
}

function closeToasts() {
  for (const t of $$('.toast')) t.remove()
}

function say(text) {
  const n = $('#notice')
  if (!n) return
  n.innerHTML =
    '<div class="toast is-bad"><span></span><button class="toast-close" aria-label="Close this message" data-close>×</button></div>'
  $('span', n).textContent = text
}
// A list is not changed under a finger, or what it pressed would be gone before it lets go: it is asked for again then.
let under = null
const held = new Set()
addEventListener('pointerdown', (e) => (under = e.target), true)
for (const up of ['pointerup', 'pointercancel'])
  addEventListener(
    up,
    () => {
      under = null
      setTimeout(() => {
        for (const form of held) window.htmx.trigger(form, 'change')
        held.clear()
      })
    },
    true,
  )
document.addEventListener('htmx:beforeSwap', (e) => {
  const form = e.detail.requestConfig.elt
  if (!form.matches('form[hx-get]') || !e.detail.target.contains(under)) return
  e.preventDefault()
  held.add(form)
})
document.addEventListener('htmx:sendError', () =>
  say('No connection. Nothing was changed and nothing you typed is lost: try again in a moment.'),
)
document.addEventListener('htmx:timeout', () => say('The server does not answer. Try again in a moment.'))
document.addEventListener('htmx:afterSwap', (e) => {
  if (e.detail.target?.id === 'plan' || $('#plan')) tabs()
})

for (const z of $$('[data-own-zone]')) if (!z.value) z.value = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
tabs()

// Whatever page is opened: what the hall kept here for somebody else, or too long ago, goes.
if (document.body.dataset.member) sweep(document.body.dataset.member).catch(() => {})

// A drill has one pace: tries a minute and seconds for each are two ways to type it, and each shows the other.
document.addEventListener('input', (e) => {
  const other = { pace: 'try', try: 'pace' }[e.target.name],
    field = other && e.target.form?.elements[other]
  const n = Number(String(e.target.value).replace(',', '.'))
  if (field?.matches?.('input') && n > 0) field.value = String(Math.round(600 / n) / 10)
})
