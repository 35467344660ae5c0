// The wanderer: it takes random ways through the pages, and says what no way may ever meet. The same seed in the same club takes the same way.
// It uses mouse and keys, clicks twice where once would do, and every other walk is on a slow network.
// Three times of four it turns to what it has not touched yet, so that a few hundred steps come by nearly every kind of control there is.

// numbers between 0 and 1, the same for a seed (mulberry32)
const random = (seed) => () => {
  seed = (seed + 0x6d2b79f5) | 0
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed)
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296
}

// a pause without a word to the browser
const pause = (ms) => new Promise((done) => setTimeout(done, ms))
// within waits a minute for what a page is asked to do, since one whose script never ends would be waited for in silence.
const within = async (work) => {
  let bell
  const minute = new Promise((_, no) => (bell = setTimeout(no, 60_000, new Error('no answer for a minute'))))
  return Promise.race([work, minute]).finally(() => clearTimeout(bell))
}

// What would end the walk for others: a way may lead to these forms, and leaves them alone.
const leaveAlone = ['/account/password', '/sign-out', '/sign-out-everywhere', '/end']

const numbers = ['0', '1', '7', '10', '10', '12', '45', '-3', '2.5', '1,5', '60', '999999999', 'ten', '']
const texts = [
  'a',
  'Blue team',
  'O’Brien & Sons',
  '<b>bold</b>',
  '名前 Ünïcode',
  '  ',
  'x'.repeat(300),
  'Donaudampfschifffahrtsgesellschaft',
  '=1+1',
  '2015',
  '',
]
const dates = ['2026-11-25', '2026-11-24', '2027-02-28', '2024-02-29', '']
const keys = [
  '?',
  'Escape',
  'Tab',
  'Enter',
  'Space',
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  '[',
  ']',
  'd',
  'n',
  '/',
  'x',
  'u',
  'z',
  '1',
  's',
  'i',
  'Delete',
  'Alt+ArrowRight',
  'g t',
  'g r',
  'g d',
  'g s',
  'g m',
  'g l',
]

// pick gives one of the things on the page that can be used, by three numbers from 0 to 1: whether it may be a link, which it is, and whether it shall be of a kind
// that was not touched yet. It says how to find it again, what it is, and which kinds there are.
function pick([leaveAlone, links, which, fresh, touched, inside]) {
  const pattern = (href) => {
    const u = new URL(href, location)
    const at = u.pathname.replace(/[0-9a-f]{8}-[0-9a-f-]{27}|\/for\/.*|\/in\/.*/g, '…')
    return at + '?' + [...new Set(u.searchParams.keys())].sort().join('&')
  }
  // the kind of a control: the same for all rows of a list
  const kindOf = (el, href) => {
    if (href) return 'a ' + pattern(href)
    const form = el.closest('form'),
      action = form ? pattern(el.getAttribute('formaction') || form.getAttribute('action') || '') : ''
    const named = (el.name || el.type || '').replace(/\d+|[0-9a-f]{8}-[0-9a-f-]{27}/g, '')
    const word = el.localName === 'button' && !form ? el.className.baseVal || el.className : ''
    return [el.localName, action, form?.dataset.do || '', named, word].join(' ')
  }
  const path = (el) => {
    const parts = []
    for (let e = el; e && e !== document.body; e = e.parentElement) {
      if (e.id && !/^\d/.test(e.id)) {
        parts.unshift('#' + CSS.escape(e.id))
        break
      }
      parts.unshift(e.localName + ':nth-child(' + ([...e.parentNode.children].indexOf(e) + 1) + ')')
    }
    return parts.join('>')
  }
  const asks = (d) => d.matches(':modal') || (d.matches('[role=alertdialog]') && d.checkVisibility())
  const modal = [...document.querySelectorAll('dialog, [role=alertdialog]')].find(asks)
  const usable = []
  for (const el of (modal || document).querySelectorAll(
    'a[href], button, summary, input, select, textarea, [role=button], [tabindex="0"]',
  )) {
    if (
      el.disabled ||
      el.matches('.skip') ||
      el.type === 'hidden' ||
      el.type === 'password' ||
      el.closest('[inert]') ||
      !el.checkVisibility({ visibilityProperty: true, opacityProperty: false })
    )
      continue
    const r = el.getBoundingClientRect()
    if (r.width < 1 || r.height < 1) continue
    const href = el.localName === 'a' ? (el.href.baseVal ?? el.href) : ''
    if (inside && (href || !el.closest(inside))) continue
    if (href && !href.startsWith('/') && new URL(href, location).origin !== location.origin) continue
    const form = el.closest('form'),
      action = el.getAttribute('formaction') || form?.getAttribute('action') || ''
    if (leaveAlone.some((a) => action === a || (a === '/end' && action.endsWith(a)))) continue
    usable.push({ el, href, kind: kindOf(el, href) })
  }
  const untouched = fresh < 0.75 ? usable.filter((u) => !touched.includes(u.kind)) : []
  const forms = links < 0.65 ? usable.filter((u) => !u.href) : [],
    among = untouched.length ? untouched : forms.length ? forms : usable
  if (!among.length) return null
  const { el, kind: touches } = among[Math.floor(which * among.length)]
  const kind =
    el.localName === 'select'
      ? 'select'
      : el.localName === 'textarea'
        ? 'fill'
        : el.localName === 'input' &&
            !['checkbox', 'radio', 'submit', 'button', 'file', 'image', 'range', 'color'].includes(el.type)
          ? 'fill'
          : el.type === 'file'
            ? 'file'
            : el.type === 'range'
              ? 'range'
              : 'click'
  return {
    touches,
    kinds: [...new Set(usable.map((u) => u.kind))],
    sel: path(el),
    kind,
    type: el.type || '',
    numeric: /numeric|decimal/.test(el.inputMode) || el.type === 'number',
    options: kind === 'select' ? [...el.options].filter((o) => !o.disabled).map((o) => o.value) : [],
    text: (el.getAttribute('aria-label') || el.textContent || el.name || el.value || '')
      .trim()
      .replace(/\s+/g, ' ')
      .slice(0, 50),
  }
}

// reach scrolls a thing into view and says where a finger would touch it, or what covers it.
function reach(sel) {
  const el = document.querySelector(sel)
  if (!el?.checkVisibility({ visibilityProperty: true, opacityProperty: false })) return null // it went meanwhile
  el.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' })
  const boxes = [...el.getClientRects()],
    r = boxes.find((b) => b.width > 0 && b.height > 0) || el.getBoundingClientRect()
  const x = Math.max(1, Math.min(innerWidth - 2, r.x + r.width / 2)),
    y = Math.max(1, Math.min(innerHeight - 2, r.y + r.height / 2))
  const on = document.elementFromPoint(x, y)
  const own =
    on &&
    (el === on ||
      el.contains(on) ||
      on.contains(el) ||
      on.closest('label')?.control === el ||
      (el.labels && [...el.labels].some((l) => l.contains(on))))
  const closes = on?.closest('details[open], .toast, .court-more, .skip, .court-flash, .is-up') // what the next tap closes
  return {
    x,
    y,
    covered: own || closes ? '' : on ? on.outerHTML.slice(0, 120) : 'nothing there',
    small: Math.min(r.width, r.height),
  }
}

// looked says what is wrong with the page as it stands.
export function looked() {
  if (document.contentType !== 'text/html') return []
  if (document.URL.startsWith('chrome-error:')) return [] // the browser's own word, as when one goes back to what a form answered
  const wrong = []
  if (!document.body || (document.body.innerText.trim().length < 10 && !document.querySelector('svg')))
    wrong.push('a blank page')
  const wide = document.documentElement.scrollWidth - innerWidth
  if (wide > 1) {
    const kept = (e) => /auto|hidden|scroll|clip/.test(getComputedStyle(e).overflowX) // what is in it scrolls in it
    const inside = (e) => e && e !== document.body && (kept(e) || inside(e.parentElement))
    const widest = [...document.querySelectorAll('body *')]
      .filter((e) => e.checkVisibility({ contentVisibilityAuto: true }) && getComputedStyle(e).position !== 'fixed')
      .filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && !inside(e.parentElement))
      .pop()
    const called = widest && widest.localName + '.' + (widest.getAttribute('class') || '')
    const says = widest?.textContent.trim().replace(/\s+/g, ' ').slice(0, 60)
    wrong.push('wider than the window' + (widest ? ': ' + called + ' “' + says + '”' : ''))
  }
  for (const h of document.querySelectorAll('main h2, main h3, main dt')) {
    // a heading has something under it
    if (!h.checkVisibility() || h.closest('header, summary, .findings, .head, [class$=head], li, [role=dialog]'))
      continue
    let has = false
    const next = h.tagName === 'H2' ? /^H[12]$/ : /^(H[123]|DT)$/
    for (let e = h.nextElementSibling; e && !has && !next.test(e.tagName); e = e.nextElementSibling)
      has =
        e.textContent.trim() !== '' ||
        Boolean(e.querySelector('svg, img, input, select')) ||
        /^(svg|IMG|INPUT)$/.test(e.tagName)
    if (!has) wrong.push('nothing under the heading ' + h.textContent.trim())
  }
  // a word that fits is not broken, on a button or in a heading
  const at = document.createRange()
  for (const b of document.querySelectorAll('button, a.button, summary, label, h1, h2, h3')) {
    if (!b.checkVisibility()) continue
    const words = document.createTreeWalker(b, NodeFilter.SHOW_TEXT)
    for (let t; (t = words.nextNode());)
      for (const m of t.data.matchAll(/[^\s–/-]+/g)) {
        if (m[0].length < 2 || m[0].length > 14) continue
        at.setStart(t, m.index)
        at.setEnd(t, m.index + m[0].length)
        const lines = new Set([...at.getClientRects()].filter((r) => r.width).map((r) => Math.round(r.top / 4)))
        if (lines.size > 1) wrong.push('a broken word: ' + m[0] + ' on ' + b.textContent.trim().slice(0, 40))
      }
  }
  // nothing to press or to fill is cut off by what it stands in, or stands outside of the window
  const holders = new Map()
  const holder = (e) => {
    if (!e || e === document.body) return null
    if (!holders.has(e)) holders.set(e, getComputedStyle(e).overflowX === 'visible' ? holder(e.parentElement) : e)
    return holders.get(e)
  }
  for (const b of document.querySelectorAll('button, a.button, summary, select, input, textarea')) {
    const r = b.getBoundingClientRect()
    if (!b.checkVisibility() || r.width < 2) continue
    const by = holder(b.parentElement)
    if (by && /auto|scroll/.test(getComputedStyle(by).overflowX)) continue
    const { left, right } = by ? by.getBoundingClientRect() : { left: 0, right: innerWidth }
    if (right - left > 1 && (r.right > right + 1 || r.left < left - 1))
      wrong.push('cut off: ' + (b.textContent.trim() || b.name || b.className).slice(0, 40))
  }
  for (const c of document.querySelectorAll('[role=timer]')) {
    at.selectNodeContents(c)
    if (at.getBoundingClientRect().right > innerWidth + 1) wrong.push('a clock over the edge: ' + c.textContent)
  }
  for (const d of document.querySelectorAll('svg[role=img], img')) {
    const { width, height } = d.getBoundingClientRect()
    if (d.checkVisibility() && width < 1 !== height < 1)
      wrong.push('a drawing that nobody sees: ' + (d.getAttribute('aria-label') || d.getAttribute('alt')))
  }
  if ([...document.querySelectorAll('main p')].some((p) => p.textContent === 'One moment…' && p.checkVisibility()))
    wrong.push('a part that never comes')
  // grammar, by one rule for all pages (internal/web/grammar_test.go has the same): one of many, a word or a figure that is missing, a space before a mark
  for (const line of (document.body?.innerText || '').split(/[\n\t]/)) {
    const said = line.match(
      /(^|[^.,:–−\d-])1 (turns|points|courts|areas|tries|players|minutes|weeks|days|rounds|marks|drills|stations|groups|balls|letters|faults|falls|sessions|children|forms|skills|people|steps|pairs|places|notes|keys|classes|stages|strokes|things|dates)\b|\p{L} :(\s|$)|\b(for|of|to|with|and) [.,;](\s|$)|,\s*,|·\s*·|“\s*”|\p{L} \.(\s|$)/u,
    )
    if (said) wrong.push('grammar: “' + said[0].trim() + '” in ' + line.slice(0, 60))
  }
  if (/\bundefined\b|\bNaN\b|\[object |<nil>|%!|map\[/.test(document.body?.innerText || ''))
    wrong.push(
      'a word of the machine: ' +
        document.body.innerText.match(/.{0,40}(\bundefined\b|\bNaN\b|\[object |<nil>|%!|map\[).{0,20}/)[0],
    )
  return wrong
}

// figures gives what stands in the fields of the page's forms, by a name that the same field has again when the page was read anew; and that name of one field.
function figures(sel) {
  const out = {}
  let one = ''
  for (const el of document.querySelectorAll('form input, form select')) {
    if (!el.name || el.type === 'hidden' || ['checkbox', 'radio', 'file'].includes(el.type)) continue
    const form = el.form,
      key =
        [
          form.getAttribute('action') || location.pathname,
          form.dataset.do || '',
          form.dataset.at || '',
          ...[...form.querySelectorAll('input[type=hidden]')]
            .filter((h) => !/version|^to$/.test(h.name))
            .map((h) => h.name + '=' + h.value),
        ].join(' ') +
        ' ' +
        el.name
    out[key] = key in out ? null : el.value
    if (sel && el === document.querySelector(sel)) one = key
  }
  return { out, one }
}

export class Wanderer {
  // touched is what the walks before have touched, by page; met is every kind of control on every page they came by. Who wanders inside of something keeps to
  // its buttons and fields, and follows no link.
  constructor(page, home, { allow = [], touched = new Map(), met = new Set(), inside = '' } = {}) {
    Object.assign(this, {
      page,
      home,
      allow,
      touched,
      met,
      inside,
      findings: [],
      now: [],
      way: [],
      inflight: new Set(),
    })
    const say = (what) => {
      if (!this.allow.some((a) => a.test(what))) this.now.push(what)
    }
    page.on('pageerror', (e) => say('script: ' + e.message.split('\n')[0]))
    page.on('console', (m) => {
      if (m.type() === 'error' && !/status of 4\d\d|ERR_ABORTED|ERR_INTERNET|Failed to fetch/.test(m.text()))
        say('console: ' + m.text().slice(0, 200))
    })
    page.on('dialog', (d) => d.accept().catch(() => {}))
    page.on('download', (d) => d.cancel().catch(() => {}))
    page.on('popup', (p) => p.close().catch(() => {}))
    const mind = (r) => !/\/live$/.test(r.url())
    page.on('request', (r) => {
      if (mind(r)) this.inflight.add(r)
    })
    for (const done of ['requestfinished', 'requestfailed']) page.on(done, (r) => this.inflight.delete(r))
    page.on('response', (r) => {
      const path = new URL(r.url()).pathname
      if (r.status() >= 500) say(`${r.status()} at ${r.request().method()} ${path}`)
      if (r.request().isNavigationRequest() && r.frame() === page.mainFrame())
        this.answered = { status: r.status(), path, method: r.request().method() }
      if (r.request().method() === 'POST')
        Object.assign(this, { posted: r.status(), sent: r.request().postData() ?? '' })
    })
  }

  async settle() {
    await pause(20)
    const until = Date.now() + 15_000
    while (this.inflight.size && Date.now() < until) await pause(10)
    if (this.inflight.size)
      this.now.push('no answer after 15 s: ' + [...this.inflight].map((r) => new URL(r.url()).pathname).join(', '))
    this.inflight.clear()
    await this.page.waitForLoadState('load', { timeout: 10_000 }).catch(() => {})
  }

  // act does one step; it answers false when it could not be done.
  async act(a) {
    const { page } = this
    Object.assign(this, { answered: null, posted: null, sent: '' })
    this.typed ??= {}
    switch (a.do) {
      case 'go':
        await page.goto(a.to, { waitUntil: 'load' }).catch((e) => {
          if (!/ERR_ABORTED|Download|interrupted by another/.test(e.message)) throw e
        })
        break
      case 'back':
        await page.goBack({ timeout: 10_000 }).catch(() => {})
        if (!page.url().startsWith('http')) await page.goto(this.home)
        break
      case 'reload':
        await page.reload({ timeout: 15_000 }).catch(() => {})
        break
      case 'key':
        for (const k of a.key.split(' ')) await page.keyboard.press(k)
        this.typed = {} // a letter may have gone into the field
        break
      case 'select':
        await page.evaluate(
          ([s, v]) => {
            const e = document.querySelector(s)
            if (e) {
              e.value = v
              e.dispatchEvent(new Event('input', { bubbles: true }))
              e.dispatchEvent(new Event('change', { bubbles: true }))
            }
          },
          [a.sel, a.value],
        )
        break
      case 'fill':
      case 'click': {
        const at = await page.evaluate(reach, a.sel)
        if (!at) return false
        if (at.covered) {
          // after a moment it may be free: a message that goes away, a panel that opens
          await pause(400)
          const again = await page.evaluate(reach, a.sel)
          if (!again) return false
          if (again.covered && a.do === 'click') {
            this.now.push('cannot be touched: ' + a.text + ' under ' + again.covered)
            return true
          }
          Object.assign(at, again)
        }
        if (a.do === 'click') {
          if (a.key) {
            await page.evaluate((sel) => document.querySelector(sel).focus(), a.sel)
            await page.keyboard.press(a.key)
            break
          }
          for (const clickCount of a.twice ? [1, 2] : [1]) {
            await page.mouse.move(at.x, at.y)
            await page.mouse.down({ clickCount })
            await page.mouse.up({ clickCount })
            if (a.twice) await pause(a.twice)
          }
          break
        }
        if (a.numeric) {
          const { out, one } = await page.evaluate(figures, a.sel)
          const before = this.typed[one]?.[0] ?? out[one]
          delete this.typed[one]
          if (one && out[one] !== null && /^\d+$/.test(a.value)) this.typed[one] = [before, a.value]
        }
        await page.evaluate(
          ([s, v]) => {
            const e = document.querySelector(s)
            e.focus()
            if (e.type === 'date' || e.type === 'time') {
              e.value = v
              e.dispatchEvent(new Event('change', { bubbles: true }))
            } else e.select?.()
          },
          [a.sel, a.value],
        )
        if (!/date|time/.test(a.type)) {
          await page.keyboard.press('Delete')
          await Promise.race([page.keyboard.insertText(a.value), pause(10_000)]) // never answered where the page went on meanwhile
        }
        if (a.enter) await page.keyboard.press('Enter')
        break
      }
    }
    await this.settle()
    return true
  }

  // check looks at the page after a step; it gives what is wrong with it.
  async check(a) {
    const wrong = this.now.splice(0)
    const look = () => this.page.evaluate(looked).catch(() => [])
    let seen = await look()
    if (seen.includes('a part that never comes')) {
      await pause(1000)
      seen = await look()
    }
    wrong.push(...seen)
    if (this.answered?.status === 404 && a.do === 'click')
      wrong.push('leads to 404: ' + a.text + ' → ' + this.answered.path)
    const others = /Somebody.* (changed|moved)/ // but one is alone
    if (
      a.twice &&
      this.posted &&
      (await this.page
        .getByText(others)
        .count()
        .catch(() => 0))
    )
      wrong.push('what one did oneself is called somebody else’s')
    if (this.posted && this.posted < 400) {
      const has = (await this.page.evaluate(figures).catch(() => null))?.out ?? {}
      for (const [key, [was, typed]] of Object.entries(this.typed)) {
        const kept = has[key]
        const sent = this.sent.includes(typed) // else it was never asked for
        if (kept && sent && kept !== was && Number(kept.replace(',', '.')) !== Number(typed))
          wrong.push(`typed ${typed}, kept ${kept}: ${key}`)
      }
    }
    if (this.posted || this.typedAt !== this.page.url()) Object.assign(this, { typed: {}, typedAt: this.page.url() })
    return wrong.map((w) => w.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, '…'))
  }

  async choose(next) {
    const { page } = this
    if (!page.url().startsWith('http')) return { do: 'go', to: this.home }
    const r = next()
    if (r < 0.02 && !this.inside) return { do: 'back' }
    if (r < 0.04) return { do: 'reload' }
    if (r < 0.06) return { do: 'go', to: this.home }
    if (r < 0.12) return { do: 'key', key: keys[Math.floor(next() * keys.length)] }
    const one = (xs) => xs[Math.floor(next() * xs.length)]
    const here = new URL(page.url()).pathname.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, '…')
    const touched = this.touched.get(here) ?? this.touched.set(here, new Set()).get(here)
    const c = await page
      .evaluate(pick, [leaveAlone, next(), next(), next(), [...touched], this.inside])
      .catch(() => null)
    if (!c) return { do: 'go', to: this.home }
    touched.add(c.touches)
    for (const k of c.kinds) this.met.add(here + ' ' + k)
    if (c.kind === 'select') return { do: 'select', sel: c.sel, value: one(c.options) ?? '', text: c.text }
    if (c.kind === 'fill')
      return {
        do: 'fill',
        sel: c.sel,
        type: c.type,
        numeric: c.numeric,
        value: /date/.test(c.type)
          ? one(dates)
          : c.type === 'time'
            ? one(['18:00', '23:59', ''])
            : c.numeric
              ? one(numbers)
              : one(texts),
        enter: next() < 0.5,
        text: c.text,
      }
    if (c.kind === 'range') return { do: 'select', sel: c.sel, value: String(Math.floor(next() * 100)), text: c.text }
    if (c.kind === 'file') return { do: 'key', key: 'Tab' }
    const how = next()
    if (how < 0.15)
      return { do: 'click', sel: c.sel, text: c.text, key: /checkbox|radio/.test(c.type) ? 'Space' : 'Enter' }
    return { do: 'click', sel: c.sel, text: c.text, twice: how < 0.35 ? 20 + Math.floor(200 * next()) : 0 }
  }

  // walk goes so many steps from a seed; it gives what it found, each thing once. What happens meanwhile is by the same numbers.
  async walk(seed, steps, meanwhile = async () => {}) {
    const next = random(seed)
    await this.act({ do: 'go', to: this.home })
    this.now.length = 0
    const way = [],
      found = new Map()
    for (let n = 0; n < steps; n++) {
      await meanwhile(next)
      const url = this.page.url(),
        a = await this.choose(next)
      way.push({ url, ...a })
      await within(this.act(a)).catch((e) => {
        // the page went on by itself before it was touched, or by going back to a form that was sent, which a browser does not do unasked
        if (/context was destroyed|interrupted by another navigation/.test(e.message)) return
        throw new Error(told({ what: e.message, at: url, seed, step: n }, way.slice(-6)), { cause: e })
      })
      for (const w of await this.check(a)) {
        const at = new URL(url).pathname.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, '…')
        const key = w + ' @ ' + at
        if (!found.has(key)) found.set(key, { what: w, at, seed, step: n, way: way.slice() })
      }
      if (/\/sign-in/.test(this.page.url()) && !/sign-in|join|start/.test(this.home)) {
        await this.again?.()
        await this.act({ do: 'go', to: this.home })
        this.now.length = 0
      }
    }
    this.findings.push(...found.values())
    return [...found.values()]
  }

  // shortest finds the shortest end of a way that meets the same again, from the address where that end begins.
  async shortest(f) {
    for (const length of [1, 2, 3, 5, 8, 13, 21].filter((l) => l <= f.way.length)) {
      const end = f.way.slice(-length)
      await this.act({ do: 'go', to: end[0].url })
      this.now.length = 0
      for (const a of end) {
        await this.act(a).catch(() => {})
        if ((await this.check(a)).includes(f.what)) return end
      }
    }
    return f.way
  }
}

// told says a finding as a person would take the way.
export const told = (f, way) =>
  `${f.what}\n    at ${f.at}, seed ${f.seed}, step ${f.step}:\n` +
  [
    `    open ${new URL(way[0].url).pathname}${new URL(way[0].url).search}`,
    ...way.map(
      (a) =>
        '    ' +
        [
          a.do,
          a.to || a.key || '',
          a.text || '',
          a.value !== undefined ? `“${a.value.slice(0, 40)}”` : '',
          a.enter ? 'Enter' : '',
          a.twice ? `twice in ${a.twice} ms` : '',
        ]
          .filter(Boolean)
          .join(' '),
    ),
  ]
    .slice(-14)
    .join('\n')
