// The hall with several devices: two programs on one database, killed and started again, the register, the door, the big screen.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { contrast, device, flashGone, register, sessionOf, station } from './hall.js'
import { watch } from './steps.js'
import { expect, test } from './test.js'

// The phone's own outbox, as it ships (Playwright would take it for another kind of module).
const { Outbox, newID } = await import(
  'data:text/javascript;base64,' + readFileSync(new URL('../client/outbox.js', import.meta.url)).toString('base64')
)

test.describe.configure({ mode: 'serial' })
test.use({ clock: '2026-11-24T17:58:00Z' })

let one, two, session

test.beforeAll(async ({ program }) => {
  one = program
  two = await program.beside().start()
})
test.afterAll(() => two.stop('SIGKILL'))

const quantile = (xs, q) => [...xs].sort((a, b) => a - b)[Math.floor(xs.length * q)]

const floor = async (page) => {
  session ??= await sessionOf(page, 'Tuesday hall')
  await page.goto('/courtside/' + session)
}

let lead, other

test('the register: late with the time, left, hurt, a guest, and the groups dealt again with the fewest moves', async ({
  browser,
}) => {
  lead = await device(browser, one.url, 'ines')
  const end = watch(lead)
  await floor(lead)
  const row = (name) => lead.getByRole('group', { name, exact: true })
  await register(lead, 'Bo Lindahl', '✓')
  const femi = await row('Femi Adeyemi').locator('.reg-who').boundingBox()
  await lead.mouse.move(femi.x + 20, femi.y + 10) // held, a row opens what else there is
  await lead.mouse.down()
  await expect(row('Femi Adeyemi').getByRole('button', { name: 'late', exact: true })).toBeVisible()
  await lead.mouse.up()
  await expect(row('Femi Adeyemi').locator('.reg-state')).toHaveText('') // and was no tap
  await row('Femi Adeyemi').getByRole('button', { name: 'late', exact: true }).tap()
  await expect(lead.locator('.reg-row', { hasText: 'Femi Adeyemi' })).toContainText('late')
  await row('Pia Grant')
    .getByRole('button', { name: /left or hurt/ })
    .tap()
  await lead.locator('.reg-row', { hasText: 'Pia Grant' }).getByRole('button', { name: 'no overhead today' }).tap()
  await expect(lead.locator('.reg-row', { hasText: 'Pia Grant' })).toContainText('hurt: no overhead')
  await register(lead, 'Wen Zhang', 'not here')
  await lead.getByLabel('A guest', { exact: true }).fill('Marisol Vega')
  await lead.getByRole('button', { name: 'Bring in' }).tap()
  await expect(row('Marisol Vega')).toBeVisible()
  await contrast(lead, 'register')
  await expect(lead.locator('.court-gives', { hasText: 'do not fit' })).toContainText('the groups do not fit any more')
  await lead.getByRole('button', { name: 'Deal again, fewest moves' }).tap()
  await expect(lead.locator('.court-gives', { hasText: 'do not fit' })).toBeHidden()
  await expect(lead.locator('.court-news')).toContainText(/Moved: .*Marisol to/)
  // By keys: what a word closes gives the focus back to its row.
  await row('Rui Costa').locator('.reg-open').press('Enter')
  await row('Rui Costa').getByRole('button', { name: 'late', exact: true }).press('Enter')
  await expect(row('Rui Costa')).toContainText('late')
  await expect(row('Rui Costa').locator('.reg-who')).toBeFocused()
  end()
})

test('two programs: a change on one is seen on the other, the clocks agree, and one may be killed', async ({
  browser,
}) => {
  other = await device(browser, two.url, 'tomasz')
  // What happens between the page and its stream is heard too: this stream begins after the start.
  let began
  const start = new Promise((done) => {
    began = done
  })
  await other.route('**/live', async (r) => {
    await start
    await r.continue()
  })
  await floor(other)
  await lead.getByRole('button', { name: 'Start the session' }).tap()
  await expect(lead.locator('.court-now b')).toHaveText('Warm-up')
  began()
  await expect(other.locator('.court-now b')).toHaveText('Warm-up')
  for (const next of ['First look', 'One key', 'Explain', 'Work']) {
    await flashGone(lead)
    await lead.getByRole('button', { name: 'Next now' }).tap()
    await expect(lead.locator('.court-now b')).toHaveText(next)
    await expect(other.locator('.court-now b')).toHaveText(next)
  }
  const offset = (p) => p.evaluate(() => window.Alpine.$data(document.querySelector('.court')).offset.ms)
  const server = async (url) => {
    // the two programs' held clocks begin when each was started, some way apart
    const tries = []
    for (let i = 0; i < 5; i++) {
      const from = Date.now(),
        at = Number(await (await fetch(url + '/time')).text()),
        to = Date.now()
      tries.push([to - from, at - (from + to) / 2])
    }
    return tries.sort((a, b) => a[0] - b[0])[0][1]
  }
  const apart = (await server(one.url)) - (await server(two.url))
  const off = (await offset(lead)) - (await offset(other)) - apart
  console.log(`the two devices' clocks differ by ${Math.abs(off).toFixed(0)} ms`)
  expect(Math.abs(off), 'milliseconds between the two clocks').toBeLessThan(200)
  await flashGone(lead)
  await flashGone(other)
  await station(lead, 1)
  await station(other, 1)
  // From the tap on one to the figure on the other.
  const took = []
  await other.evaluate(() => {
    window.heard = []
    const d = window.Alpine.$data(document.querySelector('.court'))
    window.Alpine.effect(() =>
      window.heard.push([
        JSON.stringify(d.state.tallies).length,
        d.state.tallies.reduce((n, t) => n + t.tries.length, 0),
        performance.timeOrigin + performance.now(),
      ]),
    )
  })
  for (let i = 1; i <= 40; i++) {
    const at = Date.now()
    await lead.locator('.mark-row .good').first().tap()
    await expect
      .poll(() => other.evaluate((n) => window.heard.find((h) => h[1] >= n)?.[2], i), { intervals: [20] })
      .toBeTruthy()
    took.push((await other.evaluate((n) => window.heard.find((h) => h[1] >= n)[2], i)) - at)
  }
  console.log(
    `a tap on one program seen on the other: p50 ${quantile(took, 0.5).toFixed(0)} ms, p95 ${quantile(took, 0.95).toFixed(0)} ms of ${took.length}, tapping included`,
  )
  await two.stop('SIGKILL')
  await expect(other.locator('.sync')).toHaveText('no connection')
  const was = await other.getByRole('timer').innerText()
  await expect(other.getByRole('timer')).not.toHaveText(was) // the clock goes on
  await other.locator('.mark-row .good').nth(1).tap()
  await expect(other.locator('.sync')).toHaveText(/waiting here/)
  await lead.locator('.mark-row .miss').first().tap()
  await expect(lead.locator('.sync')).toHaveText('in step')
  await two.start()
  await expect(other.locator('.sync')).toHaveText('in step', { timeout: 20_000 })
})

test('killed in the middle of a thousand marks from ten devices, its PostgreSQL too: all of them are there once', async () => {
  const drill = (await (await lead.request.get(`/courtside/${session}/state`)).json()).stations[0].drill
  const players = (await (await lead.request.get(`/courtside/${session}/state`)).json()).players.map((p) => p.id)
  const cookie = (await lead.context().cookies()).map((c) => c.name + '=' + c.value).join('; ')
  const acknowledged = new Set(),
    all = new Set()
  const devices = Array.from({ length: 10 }, () => {
    return new Outbox({ put: async () => {}, drop: async () => {} }, async (items) => {
      const r = await fetch(`${one.url}/courtside/${session}/inbox`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Accept: 'application/json', cookie },
        body: JSON.stringify({ items: items.slice(0, 7) }),
        signal: AbortSignal.timeout(15_000),
      })
      if (!r.ok) throw new Error(r.status)
      const { answers } = await r.json()
      for (const a of answers) {
        expect(a.kept, a.why).toBe(true)
        acknowledged.add(a.id)
      }
      return answers
    })
  })
  for (const [k, d] of devices.entries()) {
    for (let i = 0; i < 100; i++) {
      const id = newID()
      all.add(id)
      d.add({
        kind: 'mark',
        id,
        player: players[(k + i) % players.length],
        drill,
        figure: k * 100 + i,
        points: [],
        note: 'thousand',
      })
    }
  }
  const work = async (until) => {
    while (devices.some((d) => d.waiting) && !until()) {
      await Promise.all(devices.map((d) => d.flush()))
      await new Promise((r) => setTimeout(r, 5))
    }
  }
  await work(() => acknowledged.size > 300)
  const postgres = Number(readFileSync(join(one.dir, 'data', 'postmaster.pid'), 'utf8').split('\n')[0])
  const flushing = work(() => false)
  await one.stop('SIGKILL')
  process.kill(postgres, 'SIGKILL')
  await one.start()
  await flushing
  const state = await (await lead.request.get(`/courtside/${session}/state`)).json()
  const kept = state.marks.filter((m) => m.said === 'thousand').map((m) => m.id)
  expect(kept).toHaveLength(1000)
  expect(new Set(kept)).toEqual(all)
  for (const id of acknowledged) expect(all.has(id)).toBe(true)
  await two.stop('SIGKILL')
  await two.start() // its PostgreSQL was away
})

test('the first look: everybody is looked at, and the key that most lack becomes the one of today', async () => {
  await floor(lead)
  await flashGone(lead)
  await lead.getByRole('button', { name: 'Look', exact: true }).tap()
  const rows = lead.locator('section[aria-label="First look"] .mark-row')
  const n = await rows.count(),
    names = await rows.locator('.who b').allInnerTexts()
  const first = (i) => rows.nth(i).locator('.pad-points button').first()
  await first(0).tap() // has it
  for (const i of [1, 2]) {
    await first(i).tap()
    await first(i).tap()
  } // lack it
  for (let i = 3; i < n; i++) await rows.nth(i).locator('.looked').tap() // seen, and nothing said of any key
  expect(await rows.locator('.who b').allInnerTexts(), 'the rows stay where they are').toEqual(names)
  await expect(lead.locator('.court-task')).toContainText('Everybody was looked at.')
  await expect(lead.locator('.court-task')).toContainText(/\d+ of the \d+ of whom it was said lack/)
  await contrast(lead, 'first look')
  const key = (await lead.locator('.court-task').innerText()).match(/“(.*)”/)[1]
  await expect(lead.locator('.sync')).toHaveText('in step')
  await lead.getByRole('button', { name: 'Make it the key of today' }).tap()
  await expect(
    lead.getByRole('button', { name: 'Make it the key of today' }),
    await lead.locator('.court-says').innerText(),
  ).toBeHidden()
  await other.reload() // what one device saw, the other knows
  await other.getByRole('button', { name: 'Look', exact: true }).tap()
  await expect(other.locator('section[aria-label="First look"] .mark-row.is-looked')).toHaveCount(n)
  const screen = await lead.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + session + '/hall')
  await expect(screen.locator('.big-key b')).toHaveText(key)
  await expect(screen.locator('.big-group:visible').first()).toBeVisible()
  const text = await screen.locator('body').innerText()
  for (const name of ['Bo', 'Femi', 'Amara', 'Sana']) expect(text).not.toContain(name) // no names on the wall
  await contrast(screen, 'big screen')
  const seconds = async (p) => {
    const [m, s] = (await p.getByRole('timer').innerText()).split(':')
    return 60 * m + Number(s)
  }
  expect(Math.abs((await seconds(screen)) - (await seconds(lead)))).toBeLessThanOrEqual(1)
  await lead.getByRole('button', { name: /Change now|Next now/ }).tap()
  await expect(screen.locator('.big')).toHaveClass(/is-change/)
  await screen.close()
})

test('a helper without an account comes in by the code, sees first names and what to mark, and nothing else', async ({
  browser,
}) => {
  await lead.goto('/courtside/' + session + '/door')
  await expect(lead.locator('.qr path')).toHaveCount(1)
  await contrast(lead, 'door')
  const code = await lead.locator('.door-code').innerText()
  const helper = await device(browser, one.url)
  await helper.goto('/join')
  await helper.getByLabel('Code').fill('ZZZZZZ')
  await helper.getByRole('button', { name: 'Look it up' }).tap()
  await expect(helper.getByText('No session has this code.', { exact: false })).toBeVisible()
  await helper.getByLabel('Code').fill(code.toLowerCase())
  await helper.getByRole('button', { name: 'Look it up' }).tap()
  await expect(helper.getByRole('heading', { name: 'Help at Tuesday hall' })).toBeVisible()
  await helper.getByLabel('Your first name').fill('Renata')
  await helper.getByRole('button', { name: 'Join' }).tap()
  await expect(helper.locator('.court-task h2')).not.toBeEmpty()
  await contrast(helper, 'helper')
  for (const row of await helper.locator('.mark-row .name').allInnerTexts())
    expect(row.trim().split(' ').length).toBeLessThanOrEqual(2)
  expect(await helper.locator('body').innerText()).not.toMatch(/Lindahl|Adeyemi|Nwosu/)
  await expect(helper.getByRole('button', { name: 'Register' })).toBeHidden()
  await helper.goto('/roster')
  await expect(helper.getByText('That is not yours to do here.', { exact: false })).toBeVisible()
  await lead.goto('/account')
  await expect(lead.locator('body')).not.toContainText('Renata') // nobody who signs in
  await helper.context().close()
})

test('it runs late: what gives is offered, taken, and the end is kept with what really happened', async () => {
  await floor(lead)
  await flashGone(lead)
  for (let i = 0; i < 60 && !(await lead.locator('.court-gives').first().isVisible()); i++)
    await lead.getByRole('button', { name: '+1 min' }).tap()
  await expect(lead.locator('.court-gives').first()).toContainText('too late. What gives?')
  await lead.reload()
  await flashGone(lead)
  const offer = lead.locator('.court-gives').first().getByRole('button').first()
  await expect(offer).toBeVisible()
  await offer.tap()
  await expect(lead.locator('.court-gives').first()).toBeHidden()
  const late = lead.locator('.court-gives').first(),
    more = lead.getByRole('button', { name: '+1 min' })
  for (let i = 0; i < 90 && !/Nothing that is left/.test(await late.textContent()); i++) await more.tap()
  await expect(late).toContainText('Nothing that is left can give so much: end it on time.')
  await expect(late.getByRole('button')).toHaveCount(0)
  await lead.getByRole('button', { name: /^More/ }).first().tap()
  await lead.locator('.court-more').getByRole('button', { name: 'Skip the rest of it' }).tap()
  await lead
    .locator('.court-more')
    .getByRole('button', { name: 'horn' })
    .tap({ timeout: 2000 })
    .catch(() => {})
  await lead.getByRole('button', { name: /^More/ }).first().tap()
  await flashGone(lead)
  await lead.locator('.court-more').getByRole('button', { name: 'End the session' }).tap()
  await lead.getByRole('button', { name: 'End it' }).tap()
  await expect(lead.locator('.court-now b')).toHaveText('Ended')
  await expect(lead.locator('.sync')).toHaveText('in step')
  await lead.goto('/sessions/' + session + '/run')
  await expect(lead.locator('.run-parts')).toContainText('Warm-up')
  await expect(lead.locator('main')).toContainText('Tries, planned and counted')
  await expect(lead.locator('main')).toContainText(/\d+ marks?: .*Ines Okafor/)
  await lead.context().close()
  await other.context().close()
})
