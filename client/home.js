// A player's page at home: days are ticked and spoken of with or without network. What is said waits on this phone until it has arrived, and arrives once.
import { player } from './diagram.js'
import { Kept, atHome } from './kept.js'
import { Outbox, newID } from './outbox.js'

// figureOf reads a figure as it is typed; nothing is none, and false is what cannot be one.
export function figureOf(text) {
  const t = text.trim().replace(',', '.')
  if (!t) return null
  const x = Number(t)
  return x >= 0 && x <= 100000 ? x : false
}

const stays = 21 * 24 * 3600_000 // as long as the server takes it

export function home(body) {
  const path = body.dataset.path
  const kept = new Kept(atHome, body.dataset.key, Date.now() + stays)
  const post = async (items) => {
    const answer = await fetch(path + '/days', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify({ items }),
    })
    if (!answer.ok) throw Object.assign(new Error(), { status: answer.status })
    return (await answer.json()).answers
  }
  const outbox = new Outbox(kept, post)
  const offline = document.querySelector('[data-offline]')
  const refused = document.querySelector('[data-refused]')

  const dayOf = (b) => ({
    done: b.getAttribute('aria-pressed') === 'true',
    felt: b.dataset.felt,
    figure: b.dataset.figure === '' ? null : Number(b.dataset.figure),
    words: b.dataset.words,
  })
  const buttonOf = (task, day) => document.querySelector(`[data-task="${task}"] [data-days] button[value="${day}"]`)

  // show puts a day on the page as it is by now, and the questions beside it where they are about this day.
  function show(task, day, said, chosen) {
    const b = buttonOf(task, day)
    if (!b) return
    b.setAttribute('aria-pressed', said.done)
    Object.assign(b.dataset, { felt: said.felt, figure: said.figure ?? '', words: said.words })
    const about = b.closest('[data-task]').querySelector('[data-about]')
    if (!about || (!chosen && about.elements.day.value !== day)) return
    about.elements.day.value = day
    about.querySelector('[data-about-day]').textContent = b.getAttribute('aria-label').split(' ')[0]
    for (const f of about.querySelectorAll('[name=felt]')) f.setAttribute('aria-pressed', f.value === said.felt)
    if (about.elements.figure) about.elements.figure.value = said.figure ?? ''
    about.elements.words.value = said.words
  }

  async function flush() {
    const was = outbox.waiting
    const { sent, refused: no } = await outbox.flush()
    offline.hidden = sent || navigator.onLine
    refused.hidden = !no.length
    if (no.length) refused.textContent = no.map((r) => r.why).join(' ')
    if (sent && was && !outbox.waiting) await renew()
  }

  // renew takes over what follows from what was said: how often it was done, what opens next. Not while something is typed.
  async function renew() {
    const tasks = document.getElementById('home-tasks')
    const page = await fetch(location.pathname).catch(() => null)
    if (!page?.ok || outbox.waiting || tasks.contains(document.activeElement?.closest('input'))) return
    const next = new DOMParser().parseFromString(await page.text(), 'text/html').getElementById('home-tasks')
    for (const task of next?.children || []) {
      const old = document.getElementById(task.id)
      const day = old?.querySelector('[data-about] [name=day]')?.value
      const focus = tasks.contains(document.activeElement) && document.activeElement
      old?.replaceWith(task)
      const b = day && buttonOf(task.dataset.task, day)
      if (b) show(task.dataset.task, day, dayOf(b), true)
      if (focus?.name && old.contains(focus)) task.querySelector(`[name="${focus.name}"][value="${focus.value}"]`)?.focus()
    }
    for (const box of tasks.querySelectorAll('[data-diagram]')) player(box)
  }

  function say(task, day, said) {
    const next = { ...dayOf(buttonOf(task, day)), ...said }
    show(task, day, next, true)
    outbox.add({ kind: 'day', id: newID(), task, day, ...next, at: Date.now() })
    flush()
  }

  document.addEventListener('submit', (e) => {
    const form = e.target.closest('[data-days], [data-about]')
    if (!form) return
    e.preventDefault()
    const task = form.elements.task.value
    const by = e.submitter
    if (form.matches('[data-days]')) return say(task, by.value, { done: by.getAttribute('aria-pressed') !== 'true' })
    const typed = form.elements.figure
    const figure = typed ? figureOf(typed.value) : null
    typed?.setCustomValidity(figure === false ? 'A number from 0 to 100000.' : '')
    if (figure === false) return typed.reportValidity()
    const said = { done: true, figure, words: form.elements.words.value.trim() }
    if (by?.name === 'felt') said.felt = by.getAttribute('aria-pressed') === 'true' ? '' : by.value
    say(task, form.elements.day.value, said)
  })
  document.addEventListener('input', (e) => e.target.setCustomValidity?.(''))
  addEventListener('online', flush)
  addEventListener('offline', () => {
    offline.hidden = false
  })
  setInterval(flush, 5000)
  outbox.load().then(() => {
    for (const i of outbox.items) show(i.task, i.day, i, false)
    offline.hidden = navigator.onLine
    return flush()
  })
  navigator.serviceWorker?.register('/sw.js').catch(() => {}) // the open page goes on without
  navigator.serviceWorker?.ready.then((r) =>
    r.active?.postMessage({ keep: [location.href, ...performance.getEntriesByType('resource').map((e) => e.name)] }),
  )
}

if (globalThis.document?.body.dataset.key) home(document.body)
