// The pad of a test: each figure is kept as soon as it is typed.
import { later, numberOf } from './later.js'
import { newID } from './outbox.js'

function pad(form) {
  const { pad: at, day, key, member } = form.dataset
  const waits = later({ member, key, days: 2, to: at + '/figures', sent: renew })

  // renew takes over what others have said, but for what is being typed
  function renew(page) {
    for (const { name, value } of page.querySelectorAll('[data-pad] input:not([type=hidden])')) {
      const input = form.elements[name]
      if (input && input !== document.activeElement && input.ariaInvalid !== 'true') input.value = value
    }
  }
  form.addEventListener('change', (e) => {
    const input = e.target
    const [player, measure, attempt] = input.name.split(' ')
    const figure = numberOf(input.value, -1e6, 1e6)
    input.setCustomValidity(figure === false ? 'A number.' : '')
    input.setAttribute('aria-invalid', figure === false)
    if (figure === false) return input.reportValidity()
    waits.add({
      kind: 'figure',
      id: newID(),
      day,
      player,
      measure: Number(measure),
      try: Number(attempt),
      figure,
      at: Date.now(),
    })
  })
  // Enter goes on to the next field, as on any list of figures.
  form.addEventListener('keydown', (e) => {
    if (e.key !== 'Enter' || !e.target.matches('input')) return
    e.preventDefault()
    const all = [...form.querySelectorAll('input:not([type=hidden])')]
    all[all.indexOf(e.target) + 1]?.focus()
  })
  waits.restore((i) => {
    const input = form.elements[`${i.player} ${i.measure} ${i.try}`]
    if (input) input.value = i.figure ?? ''
  })
}

const form = document.querySelector('[data-pad]')
if (form) pad(form)
