// Plans of every kind on every page that shows one: no page is without an answer, and none has a script error. Their number and arithmetic are
// looked after by the Go tests; this is what a browser makes of them.
import { expect, test } from './test.js'
import { looked } from './wander.js'
import { bringSome, setUpClass, shelf, startClub } from './clubs.js'
import { device, flashGone } from './hall.js'
import { signIn, watch } from './steps.js'

const stations = { kind: 'stations', title: 'Stations', minutes: 0 }

// first is a plan as the first version of the document kept it: the kinds below are written in that one, which is read for ever.
const first = (p) => {
  const held = p.blocks.find((b) => b.circuit).circuit
  const { way, groups, players } = p.deals[0]
  const blocks = p.blocks.map(({ id, circuit, after, ...b }) => b)
  return { ...held, way, groups, deal: players, seed: p.seed, key: p.key, blocks }
}
const kinds = {
  'no block at all': (p) => ({ ...p, blocks: [], stations: [], deal: [] }),
  'two blocks of stations, for other groups': (_, players, now) => {
    const at = now.blocks.findIndex((b) => b.circuit)
    const stations = now.blocks[at].circuit.stations.map((s, i) => ({ ...s, id: 's' + (20 + i) }))
    const second = { id: 'b20', kind: 'stations', title: 'Second half', minutes: 0 }
    second.circuit = { stations: stations.slice(0, 2), work: 240, change: 0, brief: 60, rounds: 0, deal: 'd2' }
    const deals = [...now.deals, { id: 'd2', way: 'mixed', groups: 2, players: null }]
    return { ...now, deals, blocks: [...now.blocks.slice(0, at + 1), second, ...now.blocks.slice(at + 1)] }
  },
  'a close and nothing else': (p) => ({ ...p, blocks: [{ kind: 'close', title: 'Close', minutes: 5 }], stations: [] }),
  'stations that are not chosen': (p) => ({ ...p, blocks: [stations], stations: [], groups: 3 }),
  'nobody dealt': (p) => ({ ...p, deal: [] }),
  'eight groups at one station': (p) => ({ ...p, groups: 8, stations: p.stations.slice(0, 1), blocks: [stations] }),
  'rounds in three parts, one of them empty': (p) => ({
    ...p,
    rounds: 2,
    blocks: [
      { ...stations, rounds: 1 },
      { kind: 'break', title: 'Drink', minutes: 2 },
      { ...stations, rounds: 1 },
      { ...stations, title: 'The rest' },
    ],
  }),
  'a look, pairs and a ladder without anything in them': (p) => ({
    ...p,
    blocks: [
      { kind: 'look', title: 'Look', minutes: 6 },
      { kind: 'pairs', title: 'Pairs', minutes: 8 },
      { kind: 'ladder', title: 'Ladder', minutes: 9, steps: [] },
      { kind: 'game', title: 'Game', minutes: 9 },
    ],
  }),
  'leaders who move, and one player who does something else': (p, players) => ({
    ...p,
    leaders_move: true,
    leaders_with: [],
    stations: p.stations.map((s) => ({ ...s, side: { [players[0]]: { drill: '', edition: 0 } } })),
  }),
}

test('any plan can be seen: planner, hall, screen, prints, partners, and what happened', async ({ page, browser }) => {
  test.setTimeout(300_000)
  const end = watch(page)
  await signIn(page)
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  const phoneEnd = watch(phone)
  await signIn(phone)
  await page.goto('/sessions')
  const plans = []
  for (const name of ['Saturday Shore', 'Saturday squad', 'Adult beginners'])
    plans.push(
      await page
        .locator('li', { has: page.getByRole('heading', { name }) })
        .locator('.planned a')
        .first()
        .getAttribute('href'),
    )
  const file = await (await page.request.get(plans[0] + '/plan.json')).json()
  const players = file.plan.deals[0].players.flat()
  const read = async (plan, document) => {
    const r = await page.request.post(plan + '/plan.json', {
      maxRedirects: 0,
      multipart: {
        leave: '1',
        file: {
          name: 'plan.json',
          mimeType: 'application/json',
          buffer: Buffer.from(JSON.stringify({ ...file, plan: document })),
        },
      },
    })
    expect(r.status()).toBe(303)
  }
  const answers = async (p, path) => {
    const r = await p.goto(path)
    expect(r.status(), path).toBe(200)
  }
  let n = 0
  for (const [name, make] of Object.entries(kinds)) {
    await test.step(name, async () => {
      const plan = plans[n % plans.length],
        id = plan.split('/').pop(),
        runs = n++ < plans.length
      await read(plan, make(first(file.plan), players, file.plan))
      for (const path of [
        '/print',
        '/print/cards',
        '/print/turns',
        '/print/teams',
        '/teams/0',
        '/partners/0',
        '/more',
      ]) {
        const r = await page.request.get(plan + path) // no script of the plan's runs there
        expect(r.status(), name + ' ' + path).toBeLessThan(/\/(partners|teams)\//.test(path) ? 500 : 300)
      }
      for (const path of [plan, plan + '/what-if', plan + '/run', '/courtside/' + id + '/hall'])
        await answers(page, path)
      await answers(phone, plan)
      await answers(phone, '/courtside/' + id)
      await expect(phone.locator('.court-foot')).toBeVisible()
      for (const tab of await phone.locator('.court-tabs button:visible').all()) await tab.tap()
      if (!runs) return
      await phone.getByRole('button', { name: 'Start the session' }).tap()
      await phone.getByRole('button', { name: 'Start it now' }).tap() // it is another day's
      for (const tab of await phone.locator('.court-tabs button:visible').all()) await tab.tap()
      await phone.reload()
      await expect(phone.locator('.court-foot')).toBeVisible()
      await answers(page, '/courtside/' + id + '/hall')
      await phone.getByRole('button', { name: 'More: sound, skip, helpers, end' }).tap()
      await phone.getByRole('button', { name: 'End the session' }).first().tap()
      await phone.getByRole('button', { name: 'End it' }).tap()
      await answers(phone, '/courtside/' + id)
      await answers(page, plan + '/run')
      await answers(page, plan)
    })
  }
  end()
  phoneEnd()
})

for (const n of [0, 1, 6, 60])
  test(`every kind of block for ${n}: pages, paper, phone and screen, in a club of net games`, async ({
    browser,
    program,
  }) => {
    test.setTimeout(240_000)
    const page = await device(browser, program.url, '', false),
      end = watch(page)
    await startClub(page, { club: 'Quayside Badminton ' + n, program: 'Badminton', family: 'Net and racket games' })
    if (n) await bringSome(page, n)
    await shelf(page)
    const plan = await setUpClass(page, { name: 'Club night', floor: 'Badminton', places: '60', minutes: '120' })
    await page.goto(plan)
    const drills = await page
      .locator('#drill-options')
      .evaluate((t) => [...t.content.querySelectorAll('option')].map((o) => [o.textContent, o.value]))
    const drill = (name) => drills.find((d) => d[0].startsWith(name))[1]
    let version = await page.locator('#plan').getAttribute('data-version')
    const edit = async (what, at, value) => {
      const r = await page.request.post(plan + '/plan', {
        form: { do: what, at, value, version },
        headers: { 'Sec-Fetch-Site': 'same-origin' },
      })
      expect(r.status(), what + ' ' + value).toBeLessThan(400)
      version = (await r.text()).match(/data-version="(\d+)"/)[1] // the plan's page, as one is led back to it
    }
    const add = async (kind) => {
      await edit('add-block', '', kind)
      await page.goto(plan)
      const bar = page.locator(`.bar[data-kind=${kind}]`).last()
      const at = await bar.getAttribute('data-block')
      return { at, id: await page.locator(`[data-block-form="${at}"] form[data-do=title]`).getAttribute('data-at') }
    }
    const see = async (...paths) => {
      for (const path of paths) {
        const r = await page.goto(plan + path)
        expect(r.status(), path).toBe(200)
        expect(await page.evaluate(looked), path).toEqual([]) // as the wanderer looks at it
      }
    }
    if (n === 6) {
      // a small class chooses too: among three, or as many as differ
      await page.goto(plan + '/proposals?shape=circuit&aim=lack')
      expect(await page.locator('.offer').count()).toBeGreaterThan(0)
      expect(await page.locator('.offer').count()).toBeLessThanOrEqual(3)
      await page
        .getByRole('button', { name: /^Take this one/ })
        .first()
        .click()
      await expect(page.locator('.ledger tbody tr')).toHaveCount(6)
      version = await page.locator('#plan').getAttribute('data-version')
    }
    const pairs = await add('pairs')
    await edit('task', pairs.id, drill('Match the throw'))
    await edit('pairing', pairs.id, 'to 5')
    for (const way of ['move on one', 'winner stays', 'by level', 'chosen', 'loser feeds']) {
      await edit('change-by', pairs.id, way)
      await see('/partners/' + pairs.at)
    }
    await edit('pairing', pairs.id, 'courts 3')
    const ladder = await add('ladder')
    await edit('task', ladder.id, drill('Lob and catch'))
    for (const by of ['pair', 'player']) {
      await edit('climb', ladder.id, by)
      await see('/ladder/' + ladder.at)
    }
    const intervals = await add('intervals')
    await edit('exercise', intervals.id, drill('Sprint and rest'))
    const run = await add('run')
    await edit('exercise', run.id, drill('Eight-count routine'))
    await edit('judges', run.id, 'partners')
    const game = await add('game')
    await edit('game-figure', game.id, 'a 4')
    await see(
      '/teams/' + game.at,
      '/routine/' + run.at,
      '/print',
      '/print/pairings',
      '/print/turns',
      '/print/teams',
      '/what-if',
    )
    end()
    const phone = await page.context().newPage(),
      quiet = watch(phone)
    await phone.setViewportSize({ width: 390, height: 844 })
    const id = plan.split('/').pop()
    const segments = (await (await page.request.get('/courtside/' + id + '/state')).json()).segments.length
    await phone.goto('/courtside/' + id)
    await phone.getByRole('button', { name: 'Start the session' }).click()
    if (await phone.getByRole('button', { name: 'Start it now' }).isVisible())
      await phone.getByRole('button', { name: 'Start it now' }).click()
    const screen = await page.context().newPage(),
      still = watch(screen)
    await screen.goto('/courtside/' + id + '/hall')
    for (let i = 0; i < segments; i++) {
      for (const p of [phone, screen])
        expect(
          await p.evaluate(() => document.documentElement.scrollWidth - innerWidth),
          'segment ' + i,
        ).toBeLessThanOrEqual(0)
      await flashGone(phone)
      const on = phone.getByRole('button', { name: / now$/ })
      if (!(await on.isVisible())) break
      await on.click()
      await expect(screen.locator('.big-head')).toHaveText(/./)
    }
    quiet()
    still()
    await page.context().close()
  })
