// A player's page at home: days are ticked and spoken of with or without network. What is said waits on this phone until it has arrived, and arrives once.
import { player } from './diagram.js'
import { atHome } from './kept.js'
import { later, numberOf } from './later.js'
import { newID } from './outbox.js'

export function home(body) {
  const { key, path } = body.dataset
  const waits = later({ member: atHome, key, days: 21, to: path + '/days', sent: renew }) // as long as the server takes it

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

  // unkept reports whether something stands in the questions about a day that was typed and not kept yet.
  function unkept(task) {
    const about = task?.querySelector('[data-about]')
    if (!about) return false
    const { day, figure, words } = about.elements
    const said = dayOf(buttonOf(about.elements.task.value, day.value))
    return words.value.trim() !== said.words || (figure && numberOf(figure.value) !== said.figure)
  }

  // renew takes over what follows from what was said: how often it was done, what opens next. Not while something is typed.
  function renew(page) {
    const tasks = document.getElementById('home-tasks')
    if (tasks.contains(document.activeElement?.closest('input'))) return
    const next = page.getElementById('home-tasks')
    for (const task of next?.children || []) {
      const old = document.getElementById(task.id)
      if (unkept(old)) continue
      const day = old?.querySelector('[data-about] [name=day]')?.value
      const focus = tasks.contains(document.activeElement) && document.activeElement
      const unfolded = [...(old?.querySelectorAll('details[open] > summary') || [])].map((s) => s.textContent)
      for (const s of task.querySelectorAll('details > summary'))
        if (unfolded.includes(s.textContent)) s.parentElement.open = true
      old?.replaceWith(task)
      const b = day && buttonOf(task.dataset.task, day)
      if (b) show(task.dataset.task, day, dayOf(b), true)
      if (focus?.name && old.contains(focus))
        task.querySelector(`[name="${focus.name}"][value="${focus.value}"]`)?.focus()
    }
    for (const box of tasks.querySelectorAll('[data-diagram]')) player(box)
  }

  function say(task, day, said) {
    const next = { ...dayOf(buttonOf(task, day)), ...said }
    show(task, day, next, true)
    waits.add({ kind: 'day', id: newID(), task, day, ...next, at: Date.now() })
  }

  document.addEventListener('submit', (e) => {
    const form = e.target.closest('[data-days], [data-about]')
    if (!form) return
    e.preventDefault()
    const task = form.elements.task.value
    const by = e.submitter
    if (form.matches('[data-days]')) {
      // a day that is ticked is looked at first; tapped again it is not done after all
      const about = form.closest('[data-task]').querySelector('[data-about]')
      const said = dayOf(by)
      if (said.done && about && about.elements.day.value !== by.value) return show(task, by.value, said, true)
      return say(task, by.value, { done: !said.done })
    }
    const typed = form.elements.figure
    const figure = typed ? numberOf(typed.value) : null
    typed?.setCustomValidity(figure === false ? 'A number from 0 to 100000.' : '')
    if (figure === false) return typed.reportValidity()
    const said = { done: true, figure, words: form.elements.words.value.trim() }
    if (by?.name === 'felt') said.felt = by.getAttribute('aria-pressed') === 'true' ? '' : by.value
    say(task, form.elements.day.value, said)
  })
  document.addEventListener('input', (e) => e.target.setCustomValidity?.(''))
  waits.restore((i) => show(i.task, i.day, i, false))
}

if (globalThis.document?.body.dataset.key) home(document.body)
