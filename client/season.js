// The season: a chosen theme is put on days by tapping or drawing over them, a day is dragged to another of its class, and
// keys go from day to day. What a drag means is sent as a form; the server answers with the page.

const $ = (s, root = document) => root.querySelector(s)
const $$ = (s, root = document) => [...root.querySelectorAll(s)]
const form = $('#season-set')
const days = () => $$('.season button[data-day]')
const chosen = () => form?.elements.theme && [...form.elements.theme].find((r) => r.checked)

// -- sending; the day that was worked on has the focus again when the page is back

function send(action, values) {
  const f = Object.assign(document.createElement('form'), { method: 'post', action, hidden: true })
  for (const [name, value] of values) f.append(Object.assign(document.createElement('input'), { name, value }))
  document.body.append(f)
  f.submit()
}
const remember = (day, theme) =>
  sessionStorage.setItem('season', JSON.stringify({ day, theme, x: $('.season-scroll').scrollLeft }))
const fields = () => [...new FormData(form)].filter(([name]) => name !== 'cell')
function put(cells, theme) {
  const values = theme === undefined ? fields() : [['theme', theme]]
  remember(cells[0].value, chosen()?.value)
  send(form.action, [...values, ...cells.map((c) => ['cell', c.value])])
}

// -- keys: arrows from day to day, a digit for the theme at that place, Delete leaves open

document.addEventListener('keydown', (e) => {
  const here = e.target.closest?.('button[data-day]')
  if (!here || e.ctrlKey || e.metaKey || e.altKey) return
  const row = here.closest('tr'),
    at = here.closest('td').cellIndex
  const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[e.key]
  if (step) {
    const rows = $$('.season tbody tr')
    let r = rows.indexOf(row),
      c = at
    for (let to = null; !to;) {
      r += step[0]
      c += step[1]
      if (!rows[r]?.cells[c]) return
      to = $('button[data-day]', rows[r].cells[c])
      if (to) to.focus()
    }
    return e.preventDefault()
  }
  const radio = /^[1-9]$/.test(e.key) && $$('input[name=theme]', form)[Number(e.key) - 1]
  if (radio && radio.value !== 'words') {
    e.preventDefault()
    return put([here], radio.value)
  }
  if (e.key === 'Delete' || e.key === 'Backspace') {
    e.preventDefault()
    put([here], '')
  }
})

// -- pointer: with a theme chosen, drawing over days paints them; without, a day is dragged to another of its row

let busy = null
document.addEventListener('pointerdown', (e) => {
  const day = !e.button && e.pointerType !== 'touch' && e.target.closest?.('button[data-day]')
  if (!day) return
  e.preventDefault()
  day.focus()
  busy = { day, paint: !!chosen(), over: new Set([day]), to: day }
})
document.addEventListener('pointerover', (e) => {
  const day = busy && e.target.closest?.('button[data-day]')
  if (!day) return
  busy.to = day
  if (busy.paint) busy.over.add(day)
  for (const d of days())
    d.classList.toggle('is-over', busy.paint ? busy.over.has(d) : d === day && d !== busy.day && same(d, busy.day))
})
const same = (a, b) => a.closest('tr') === b.closest('tr')
document.addEventListener('pointerup', () => {
  if (!busy) return
  const { day, paint, over, to } = busy
  busy = null
  for (const d of days()) d.classList.remove('is-over')
  if (paint && over.size > 1) return put([...over])
  if (!paint && to !== day && same(to, day)) {
    remember(to.value)
    send(form.action.replace('/themes', '/move'), [
      ['from', day.value],
      ['to', to.value],
    ])
  }
})

// -- a tap sends the form by itself; it says what is missing

form?.addEventListener('submit', (e) => {
  if (!chosen()) {
    e.preventDefault()
    $('.season-chips').classList.add('is-asked')
    $('input[name=theme]', form).focus()
    return
  }
  if (e.submitter?.value) remember(e.submitter.value, chosen().value)
})
$('#season-words')?.addEventListener('focus', () => {
  $('input[value=words]', form).checked = true
})

const was = JSON.parse(sessionStorage.getItem('season') ?? 'null')
sessionStorage.removeItem('season')
if (was) {
  $('.season-scroll').scrollLeft = was.x
  const radio = was.theme !== undefined && $$('input[name=theme]', form).find((r) => r.value === was.theme)
  if (radio && was.theme !== 'words') radio.checked = true
  days()
    .find((d) => d.value === was.day)
    ?.focus()
} else $('.season th.is-now')?.scrollIntoView({ inline: 'center', block: 'nearest' })
