// A drawing that plays: one step after the other, everybody along their way. Where motion is not wanted the steps change without it.
const still = () => matchMedia('(prefers-reduced-motion: reduce)').matches
const speed = 130 // units a second

export function player(box) {
  const svg = box.querySelector('svg.diagram')
  const things = [...svg.querySelectorAll('.d-thing[data-at]')]
  const at = things.map((t) => t.dataset.at.split(' ').map((p) => p.split(',').map(Number)))
  const byIndex = new Map(things.map((t, k) => [t.dataset.thing, k]))
  const traces = [...svg.querySelectorAll('.d-trace')]
  const says = [...box.querySelectorAll('template[data-step-says]')].map((t) => t.content.textContent)
  const word = box.querySelector('[data-says]')
  const stand = (k, p) => things[k].setAttribute('transform', `translate(${p[0]} ${p[1]})`)
  let run = 0

  function show(step) {
    // a number, or 'all'
    run++
    for (const b of box.querySelectorAll('[data-show]')) b.setAttribute('aria-pressed', b.dataset.show === String(step))
    for (const t of [...traces, ...svg.querySelectorAll('.d-no')])
      t.classList.toggle('is-off', step !== 'all' && t.dataset.step !== String(step))
    things.forEach((_, k) => stand(k, at[k][step === 'all' ? 0 : step] || at[k][0]))
    if (word) word.textContent = step === 'all' ? '' : says[step] || ''
  }

  async function play() {
    show('all')
    const mine = ++run
    const wait = (ms) => new Promise((r) => setTimeout(r, ms))
    for (let step = 0; step < says.length; step++) {
      show(step)
      run = mine
      const own = traces.filter((t) => t.dataset.step === String(step))
      const turns = Math.max(0, ...own.map((t) => Number(t.dataset.turn))) + 1
      for (let turn = 0; turn < turns; turn++) {
        const now = own.filter((t) => Number(t.dataset.turn) === turn && t.dataset.movers)
        if (still() || !now.length) {
          await wait(900)
          if (run !== mine) return
          continue
        }
        const going = now.map((t) => {
          const p = t.querySelector('.d-way:not(.is-under)')
          return { p, length: p.getTotalLength(), movers: t.dataset.movers.split(' ').map((i) => byIndex.get(i)) }
        })
        const ms = Math.max(600, ...going.map((g) => (1000 * g.length) / speed))
        const from = performance.now()
        for (;;) {
          const part = Math.min(1, (performance.now() - from) / ms)
          for (const g of going) {
            const q = g.p.getPointAtLength(g.length * part)
            g.movers.forEach((k, n) => stand(k, n ? [q.x + 9, q.y + 7] : [q.x, q.y]))
          }
          await new Promise(requestAnimationFrame)
          if (run !== mine) return
          if (part === 1) break
        }
      }
      await wait(350)
      if (run !== mine) return
    }
    await wait(700)
    if (run === mine) show('all')
  }

  box.addEventListener('click', (e) => {
    const b = e.target.closest('[data-show]')
    if (b) show(b.dataset.show === 'all' ? 'all' : Number(b.dataset.show))
    if (e.target.closest('[data-play]')) play()
  })
}

for (const box of globalThis.document?.querySelectorAll('[data-diagram]') || []) player(box)
