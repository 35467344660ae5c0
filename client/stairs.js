// The Stairs: dragging time back and seeing everybody move, arrow keys from one player to the next, and dragging somebody to another class.

const $ = (s, root = document) => root.querySelector(s)
const $$ = (s, root = document) => [...root.querySelectorAll(s)]
const still = matchMedia('(prefers-reduced-motion: reduce)').matches

let asked = 0 // of the answers that come late only the last one asked for is shown

// -- one tab stop for all tokens; arrows go along the step and to the steps beside it

function roving(at) {
  const all = $$('.stairs .who')
  const first = at || all.find((t) => t.classList.contains('is-here')) || all[0]
  for (const t of all) t.tabIndex = t === first ? 0 : -1
}
roving()

document.addEventListener('keydown', (e) => {
  const here = e.target.closest?.('.stairs .who')
  const by = { ArrowRight: 1, ArrowLeft: -1, ArrowUp: 2, ArrowDown: -2 }[e.key]
  if (!here || !by) return
  e.preventDefault()
  const all = $$('.stairs .who:not(.is-faint)')
  const steps = [...new Set(all.map((t) => t.dataset.step))]
  let to
  if (Math.abs(by) === 1) to = all[all.indexOf(here) + by]
  else to = all.find((t) => t.dataset.step === steps[steps.indexOf(here.dataset.step) + by / 2])
  if (!to) return
  roving(to)
  to.focus()
})

// -- a token opens beside the picture, without the page being loaded anew

document.addEventListener('click', (e) => {
  const who = e.target.closest?.('.stairs .who')
  if (!who || e.metaKey || e.ctrlKey) return
  e.preventDefault()
  history.replaceState(null, '', who.getAttribute('href'))
  if (who.dataset.why) open(who)
  else show(who.getAttribute('href'), who.id) // a day of the past: who they were then comes with the picture
})

async function open(who) {
  const mine = ++asked
  const answer = await fetch(who.dataset.why, { headers: { 'HX-Request': 'true' } }).catch(() => null)
  if (mine !== asked || !answer) return
  if (!answer.ok) {
    location.assign(who.getAttribute('href'))
    return
  }
  const text = await answer.text()
  const why = new DOMParser().parseFromString(text, 'text/html').querySelector('#why')
  if (mine !== asked || !why) return
  $('#why').replaceWith(why)
  why.dispatchEvent(new CustomEvent('filled', { bubbles: true }))
  $('.stairs .is-here')?.classList.remove('is-here')
  who.classList.add('is-here')
  roving(who)
  who.focus()
}

// -- time

const range = $('[data-back]')
if (range) {
  range.addEventListener('input', () => {
    const back = Number(range.value)
    const url = new URL($('#picture').dataset.at, location.href)
    if (back) url.searchParams.set('back', back)
    const here = $('.stairs .who.is-here')
    if (here) url.searchParams.set('player', here.id.slice(2))
    show(url.pathname + url.search)
  })
}

// show puts the picture of an address in place of the one there is, and lets everybody walk from where they stood. The newest asked for wins.
async function show(url, focus) {
  const mine = ++asked
  const answer = await fetch(url, { headers: { 'HX-Request': 'true' } }).catch(() => null)
  if (mine !== asked) return
  if (!answer?.ok) {
    if (answer) location.assign(url)
    return
  }
  const text = await answer.text()
  if (mine !== asked) return
  const from = new Map(
    $$('.stairs .who')
      .map((t) => [t.id, $('circle', t)])
      .map(([id, c]) => [id, [Number(c.getAttribute('cx')), Number(c.getAttribute('cy'))]]),
  )
  const next = new DOMParser().parseFromString(text, 'text/html').querySelector('#picture')
  if (!next) return
  const list = $('#picture details.across')
  const open = list?.open
  const top = $('.why-panel')?.scrollTop
  $('#picture').replaceWith(next)
  window.htmx.process(next) // its list is asked for when it opens
  const across = $('details.across', next),
    panel = $('.why-panel', next) // neither is there on a day before anybody came
  if (open && across) across.open = true
  if (top && !focus && panel) panel.scrollTop = top
  roving()
  const out = $('.time-back output')
  if (out) out.textContent = next.dataset.day
  const sum = $('#stairs-sum')
  if (sum) sum.textContent = next.dataset.sum
  if (focus) document.getElementById(focus)?.focus()
  if (still) return
  for (const t of $$('.who', next)) {
    const was = from.get(t.id)
    const c = $('circle', t)
    const [x, y] = [Number(c.getAttribute('cx')), Number(c.getAttribute('cy'))]
    if (!was) t.animate([{ opacity: 0 }, { opacity: 1 }], 250)
    else if (was[0] !== x || was[1] !== y)
      t.animate([{ transform: `translate(${was[0] - x}px, ${was[1] - y}px)` }, { transform: 'none' }], {
        duration: 300,
        easing: 'ease-out',
      })
  }
}

// -- places: somebody is dragged to another class

document.addEventListener('dragstart', (e) => {
  const p = e.target.closest?.('[data-player]')
  if (!p) return
  e.dataTransfer.setData('text/plain', p.dataset.player)
  e.dataTransfer.effectAllowed = 'move'
})
for (const type of ['dragover', 'dragleave', 'drop']) {
  document.addEventListener(type, (e) => {
    const k = e.target.closest?.('[data-class]')
    if (!k) return
    if (type !== 'dragleave') e.preventDefault()
    k.classList.toggle('is-over', type === 'dragover')
    if (type !== 'drop') return
    const form = $('#drop')
    const player = e.dataTransfer.getData('text/plain')
    if (!form || !$(`[data-player="${CSS.escape(player)}"]`)) return
    form.elements.player.value = player
    form.elements.to.value = k.dataset.class
    form.requestSubmit()
  })
}
