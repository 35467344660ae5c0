// The drawing board: a pointer, or keys alone, make a drawing of figures; the server draws it, so that it looks here as it does everywhere.
import * as D from './drawing.js'
import { figure, grid, metres, stepOf, unit } from './place.js'

const $ = (s, root = document) => root.querySelector(s)
const $$ = (s, root = document) => [...root.querySelectorAll(s)]
const box = $('#draw')
const letters = {
  select: 'v',
  player: 'p',
  coach: 'h',
  ball: 'b',
  cone: 'c',
  hoop: 'o',
  mat: 'm',
  goal: 'g',
  beam: 'e',
  target: 't',
  box: 'x',
  area: 'a',
  run: '1',
  carry: '2',
  pass: '3',
  shot: '4',
  lift: '5',
  line: '6',
  distance: '7',
}
const sized = {
  hoop: ['across', ''],
  mat: ['long', 'wide'],
  goal: ['deep', 'wide'],
  beam: ['long', 'wide'],
  box: ['long', 'wide'],
  area: ['long', 'wide'],
}
const isWay = (t) => D.ways.includes(t) || D.marks.includes(t)

if (box) {
  const doc = $('#draw-save [name=doc]')
  const key = 'gruppo-draw-' + box.dataset.id
  const first = JSON.parse(doc.value)
  first.things ||= []
  const history = new D.History(first)
  const kept = sessionStorage.getItem(key)
  if (kept && kept !== JSON.stringify(first)) history.keep(JSON.parse(kept)) // a page that was left with something on the board
  let tool = 'select',
    step = 0,
    chosen = null,
    points = [],
    cursor = null,
    dragging = null,
    asked = 0
  const d = () => history.now
  const svg = () => $('#board svg.diagram')
  const hint = (says) => {
    $('#draw-hint').textContent = says
  }

  for (const b of $$('[data-tool]')) {
    b.querySelector('kbd').textContent = (letters[b.dataset.tool] || '').toUpperCase()
  }

  // -- the board

  async function redraw() {
    const text = JSON.stringify(d())
    doc.value = text
    sessionStorage.setItem(key, text)
    const mine = ++asked
    try {
      const r = await fetch('/shelf/drawing', {
        method: 'POST',
        headers: { 'HX-Request': 'true' },
        body: new URLSearchParams({ doc: text, step: D.ways.length && (d().steps || []).length ? step : 0 }),
      })
      const html = await r.text()
      if (mine !== asked) return
      if (!r.ok) {
        hint(new DOMParser().parseFromString(html, 'text/html').body.textContent.replace('×', '').trim())
        return
      }
      const focused = document.activeElement?.closest('#board')
      $('#board-place').innerHTML = html
      ready()
      if (focused) svg().focus()
    } catch {
      if (mine === asked)
        hint(
          'No connection: the board shows what was there before. What you did is kept, and drawn as soon as the connection is back.',
        )
    }
  }

  function ready() {
    const s = svg()
    s.setAttribute('tabindex', '0')
    s.setAttribute('role', 'application')
    s.setAttribute('aria-label', 'Drawing board. ' + s.getAttribute('aria-label'))
    overlay()
  }

  const k = () => Number(svg().dataset.k)
  const toUnits = (p) => [(p[0] - d().x) * k(), (p[1] - d().y) * k()]
  const people = () =>
    $$('.d-thing', svg())
      .filter((t) => t.dataset.m && /is-(player|coach|ball)/.test(t.getAttribute('class')))
      .map((t) => t.dataset.m.split(',').map(Number))
  const lines = () => ({
    xs: (svg().dataset.snapX || '').split(' ').filter(Boolean).map(Number),
    ys: (svg().dataset.snapY || '').split(' ').filter(Boolean).map(Number),
  })
  const snapTo = (p) => D.snap(d(), p, { ...lines(), people: isWay(tool) ? people() : [] })
  function under(e) {
    const s = svg(),
      m = s.getScreenCTM().inverse(),
      q = new DOMPoint(e.clientX, e.clientY).matrixTransform(m)
    return [d().x + q.x / k(), d().y + q.y / k()]
  }

  // overlay shows the cursor, the way that is being drawn and what is chosen.
  function overlay() {
    const s = svg()
    s.querySelector('.d-over')?.remove()
    const g = document.createElementNS('http://www.w3.org/2000/svg', 'g')
    g.setAttribute('class', 'd-over')
    const make = (name, attrs) => {
      const e = document.createElementNS('http://www.w3.org/2000/svg', name)
      for (const [a, v] of Object.entries(attrs)) e.setAttribute(a, v)
      g.append(e)
    }
    const all = cursor && points.length ? [...points, cursor] : points
    if (all.length) make('polyline', { points: all.map((p) => toUnits(p).join(',')).join(' ') })
    for (const p of points) {
      const [x, y] = toUnits(p)
      make('circle', { cx: x, cy: y, r: 3 })
    }
    if (cursor && document.activeElement === s) {
      const [x, y] = toUnits(cursor)
      make('path', { d: `M${x - 9} ${y}H${x + 9}M${x} ${y - 9}V${y + 9}` })
    }
    if (chosen?.kind === 'thing') {
      const t = $(`.d-thing[data-thing="${chosen.i}"]`, s)
      if (t) {
        const [x, y] = t.getAttribute('transform').match(/-?[\d.]+/g)
        make('circle', { class: 'ring', cx: x, cy: y, r: 16 })
      }
    }
    if (chosen?.kind === 'way') {
      const t =
        chosen.step === 'marks'
          ? $(`.d-mark[data-mark="${chosen.i}"] .d-way`, s)
          : $(`.d-trace[data-trace="${chosen.i}"] .d-way`, s)
      if (t) make('path', { class: 'ring', d: t.getAttribute('d') })
    }
    s.append(g)
  }

  function keep(next) {
    if (history.keep(next)) {
      redraw()
      side()
    }
  }
  function go(next) {
    chosen = null
    points = []
    step = Math.min(step, Math.max(0, (next.steps || []).length - 1))
    redraw()
    side()
    tabs()
  }

  function pick(t) {
    tool = t
    points = []
    for (const b of $$('[data-tool]')) b.setAttribute('aria-checked', b.dataset.tool === t)
    hint(
      t === 'select'
        ? 'Tap a mark to choose it; drag it to move it.'
        : isWay(t)
          ? 'Drag from start to end, or tap point by point and twice at the end.'
          : 'Tap where it stands.',
    )
    overlay()
  }

  function choose(c) {
    chosen = c
    side()
    overlay()
  }
  const everything = () => [
    ...d().things.map((_, i) => ({ kind: 'thing', i })),
    ...((d().steps || [])[step]?.traces || []).map((_, i) => ({ kind: 'way', step, i })),
    ...(d().marks || []).map((_, i) => ({ kind: 'way', step: 'marks', i })),
  ]
  function nextChosen(by) {
    const all = everything(),
      at = all.findIndex((c) => chosen && c.kind === chosen.kind && c.i === chosen.i && c.step === chosen.step)
    if (!all.length) return
    choose(all[(at + by + all.length) % all.length])
    if (chosen.kind === 'thing') {
      const t = d().things[chosen.i]
      cursor = [t.x, t.y]
    }
    hint('Chosen: ' + called(chosen))
  }
  const called = (c) => {
    const t = c.kind === 'thing' ? d().things[c.i] : D.way(d(), c.step, c.i)
    return t.kind + (t.no ? ' ' + t.no : '') + (t.says ? ', ' + t.says : '')
  }

  function remove() {
    if (!chosen) return
    const next = chosen.kind === 'thing' ? D.remove(d(), chosen.i) : D.removeWay(d(), chosen.step, chosen.i)
    chosen = null
    keep(next)
  }

  // set puts a thing down, or a point of a way; a second tap on the same spot ends the way.
  function set(at) {
    if (!isWay(tool)) {
      if (tool === 'select') return
      keep(D.add(d(), tool, at))
      choose({ kind: 'thing', i: d().things.length - 1 })
      return
    }
    const last = points[points.length - 1]
    if (last && Math.hypot(last[0] - at[0], last[1] - at[1]) < 0.2) return end()
    if (points.length >= 12) return end()
    points.push(at)
    hint(points.length === 1 ? 'Where to? Tap twice, or Enter twice, at the end.' : 'On, or twice here to end it.')
    overlay()
  }
  function end() {
    if (points.length > 1) {
      const next = D.draw(d(), step, tool, points)
      const to = D.where(tool, step)
      points = []
      keep(next)
      choose({ kind: 'way', step: to, i: (to === 'marks' ? next.marks : next.steps[step].traces).length - 1 })
      tabs()
    }
    points = []
    overlay()
  }

  // -- pointer

  $('#board-place').addEventListener('pointerdown', (e) => {
    if (!e.target.closest('svg.diagram') || e.button) return
    svg().focus({ preventScroll: true })
    const raw = under(e),
      at = snapTo(raw)
    if (tool === 'select') {
      const t = e.target.closest('.d-thing[data-thing]'),
        w = e.target.closest('.d-trace, .d-mark')
      if (t && t.dataset.m) {
        const i = Number(t.dataset.thing)
        choose({ kind: 'thing', i })
        if (step === 0) dragging = { i, el: t, from: raw, was: [d().things[i].x, d().things[i].y] }
        else hint('Things are moved at the first step; here they go where the ways of the steps before took them.')
      } else if (w)
        choose(
          w.matches('.d-mark')
            ? { kind: 'way', step: 'marks', i: Number(w.dataset.mark) }
            : { kind: 'way', step: Number(w.dataset.step), i: Number(w.dataset.trace) },
        )
      else choose(null)
      return
    }
    if (isWay(tool) && !points.length) dragging = { line: true, from: at }
    set(at)
  })
  addEventListener('pointermove', (e) => {
    if (!dragging && !(isWay(tool) && points.length)) return
    const raw = under(e)
    if (dragging?.el) {
      const [x, y] = toUnits([dragging.was[0] + raw[0] - dragging.from[0], dragging.was[1] + raw[1] - dragging.from[1]])
      dragging.el.setAttribute('transform', `translate(${x} ${y})`)
      dragging.moved = true
      e.preventDefault()
      return
    }
    cursor = snapTo(raw)
    overlay()
  })
  addEventListener('pointerup', (e) => {
    const was = dragging
    dragging = null
    if (!was) return
    const raw = under(e)
    if (was.el) {
      if (was.moved)
        keep(
          D.move(
            d(),
            was.i,
            D.snap(d(), [was.was[0] + raw[0] - was.from[0], was.was[1] + raw[1] - was.from[1]], lines()),
          ),
        )
      return
    }
    const at = snapTo(raw)
    if (Math.hypot(at[0] - was.from[0], at[1] - was.from[1]) > 0.6) {
      set(at)
      end()
    }
  })

  // -- keys, when the drawing has the focus

  $('#board-place').addEventListener('keydown', (e) => {
    if (e.target !== svg()) return
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
    const letter = Object.keys(letters).find((t) => letters[t] === e.key.toLowerCase())
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z') {
      go(e.shiftKey ? history.redo() : history.undo())
    } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'y') {
      go(history.redo())
    } else if (e.ctrlKey || e.metaKey || e.altKey) return
    else if (by) {
      const far = (e.shiftKey ? 4 : 1) * grid()
      if (tool === 'select' && chosen?.kind === 'thing' && step === 0) {
        const t = d().things[chosen.i]
        const to = [
          Math.min(Math.max(t.x + by[0] * far, d().x), d().x + d().l),
          Math.min(Math.max(t.y + by[1] * far, d().y), d().y + d().w),
        ]
        keep(D.move(d(), chosen.i, to))
        cursor = to
      } else {
        cursor ||= [d().x + Math.round(d().l) / 2, d().y + Math.round(d().w) / 2]
        cursor = [
          Math.min(Math.max(cursor[0] + by[0] * far, d().x), d().x + d().l),
          Math.min(Math.max(cursor[1] + by[1] * far, d().y), d().y + d().w),
        ]
        overlay()
      }
      const [left, top] = [cursor[0] - d().x, cursor[1] - d().y].map(figure)
      hint(`${left} ${unit()} from the left, ${top} ${unit()} from the top`)
    } else if (e.key === 'Enter') {
      if (cursor) set(snapTo(cursor))
    } else if (e.key === 'Escape') {
      points = []
      choose(null)
      pick('select')
    } else if (e.key === 'Delete' || e.key === 'Backspace') remove()
    else if (e.key === ']') nextChosen(1)
    else if (e.key === '[') nextChosen(-1)
    else if (e.key.toLowerCase() === 'r') {
      if (chosen?.kind === 'thing') keep(D.turn(d(), chosen.i))
    } else if (e.key.toLowerCase() === 'n') newStep()
    else if (letter) pick(letter)
    else return
    e.preventDefault()
    e.stopPropagation()
  })
  $('#board-place').addEventListener('focusin', overlay)
  document.addEventListener('keydown', (e) => {
    if (
      (e.ctrlKey || e.metaKey) &&
      e.key.toLowerCase() === 'z' &&
      !/INPUT|TEXTAREA/.test(e.target.tagName) &&
      e.target !== svg()
    ) {
      e.preventDefault()
      go(e.shiftKey ? history.redo() : history.undo())
    }
  })

  // -- steps, the chosen one, the floor

  function newStep() {
    if ((d().steps || []).length >= D.mostSteps) return hint(`A drawing has at most ${D.mostSteps} steps.`)
    keep(D.addStep(d()))
    step = d().steps.length - 1
    chosen = null
    redraw()
    tabs()
    side()
    hint('Step ' + (step + 1) + ': everybody stands where the step before took them.')
  }

  function tabs() {
    const at = $('#draw-steps'),
      steps = d().steps || []
    at.replaceChildren()
    for (let i = 0; i < Math.max(1, steps.length); i++) {
      const b = Object.assign(document.createElement('button'), { type: 'button', textContent: 'Step ' + (i + 1) })
      b.setAttribute('aria-pressed', i === step)
      b.addEventListener('click', () => {
        step = i
        chosen = null
        points = []
        redraw()
        tabs()
        side()
      })
      at.append(b)
    }
    const plus = Object.assign(document.createElement('button'), {
      type: 'button',
      textContent: '+ step',
      disabled: steps.length >= D.mostSteps,
    })
    plus.addEventListener('click', newStep)
    const says = Object.assign(document.createElement('input'), {
      className: 'input is-small',
      value: steps[step]?.says || '',
      placeholder: 'What happens in this step',
      maxLength: 120,
    })
    says.setAttribute('aria-label', 'What happens in step ' + (step + 1))
    says.addEventListener('change', () => {
      if (!(d().steps || [])[step]) keep(D.addStep(d()))
      keep(D.sayStep(d(), step, says.value))
    })
    at.append(plus, says)
    if (steps.length) {
      const out = Object.assign(document.createElement('button'), { type: 'button', textContent: '×' })
      out.setAttribute('aria-label', 'Take step ' + (step + 1) + ' out')
      out.addEventListener('click', () => {
        keep(D.removeStep(d(), step))
        go(d())
      })
      at.append(out)
    }
  }

  function side() {
    const at = $('#draw-chosen')
    at.replaceChildren(Object.assign(document.createElement('h2'), { textContent: 'Chosen' }))
    if (!chosen) {
      at.append(
        Object.assign(document.createElement('p'), {
          className: 'quiet',
          textContent: 'Nothing. Tap a mark, or press ] on the drawing.',
        }),
      )
      return
    }
    const t = chosen.kind === 'thing' ? d().things[chosen.i] : D.way(d(), chosen.step, chosen.i)
    if (!t) return
    at.append(Object.assign(document.createElement('p'), { textContent: called(chosen) }))
    const row = Object.assign(document.createElement('div'), { className: 'inline small-inputs' })
    const field = (label, value, number, put) => {
      const l = Object.assign(document.createElement('label'), { textContent: label + ' ' })
      const i = Object.assign(document.createElement('input'), {
        className: 'input is-small' + (number ? ' is-min' : ''),
        value: value ?? '',
      })
      if (number) i.inputMode = 'decimal'
      i.addEventListener('change', () => {
        const n = number && (i.value.trim() ? number(i.value) : 0)
        if (number && !Number.isFinite(n)) {
          hint(`“${i.value}” is not a number.`)
          return
        }
        keep(put(number ? n : i.value.trim()))
      })
      l.append(i)
      row.append(l)
    }
    const count = (text) => Number(text.replace(',', '.'))
    const long = (label, value, put) => field(label, value === undefined ? '' : figure(value), metres, put)
    if (chosen.kind === 'thing') {
      const set = (name) => (v) => D.change(d(), chosen.i, { [name]: v || undefined })
      if (t.kind === 'player') field('number', t.no, count, (v) => set('no')(Math.min(99, Math.max(0, Math.round(v)))))
      field(t.kind === 'player' ? 'role' : 'says', t.says, false, set('says'))
      long('from the left', t.x, (v) => D.move(d(), chosen.i, [v, t.y]))
      long('from the top', t.y, (v) => D.move(d(), chosen.i, [t.x, v]))
      if (sized[t.kind]) {
        long(sized[t.kind][0], t.l, set('l'))
        if (sized[t.kind][1]) long(sized[t.kind][1], t.w, set('w'))
      }
      field('turned', t.turn || 0, count, (v) => D.change(d(), chosen.i, { turn: ((Math.round(v) % 360) + 360) % 360 }))
    } else field('says', t.says, false, (v) => D.changeWay(d(), chosen.step, chosen.i, { says: v || undefined }))
    at.append(row)
    const out = Object.assign(document.createElement('button'), {
      type: 'button',
      className: 'button is-small',
      textContent: 'Take it out',
    })
    out.addEventListener('click', remove)
    at.append(out)
  }

  for (const b of $$('[data-tool]')) b.addEventListener('click', () => pick(b.dataset.tool))
  $('[data-draw=undo]').addEventListener('click', () => go(history.undo()))
  $('[data-draw=redo]').addEventListener('click', () => go(history.redo()))
  const view = () => {
    for (const i of $$('[data-window]')) i.value = figure(d()[i.dataset.window])
  }
  for (const i of $$('[data-window]'))
    i.addEventListener('change', () => {
      const n = metres(i.value)
      if (!Number.isFinite(n) || ('lw'.includes(i.dataset.window) && (n < 2 || n > 140))) {
        hint(`The part that is shown is ${figure(2)} to ${figure(140)} ${unit()} long and wide.`)
        return
      }
      keep({ ...d(), [i.dataset.window]: n })
      view()
    })
  $('#draw-floor').addEventListener('change', (e) => {
    const o = e.target.selectedOptions[0]
    const plain = ['hall', 'field'].includes(o.value)
    keep({ ...d(), floor: o.value, ...(plain ? {} : { x: 0, y: 0, l: Number(o.dataset.l), w: Number(o.dataset.w) }) })
    view()
  })
  stepOf(Number($('#draw').dataset.step))
  $('#draw-save').addEventListener('submit', () => {
    doc.value = JSON.stringify(d())
    sessionStorage.removeItem(key)
  })
  ready()
  tabs()
  side()
  view()
  if (history.at) {
    redraw()
    hint('What was on the board when you left is still there. Undo takes it back.')
  }
}
