// Plans of every kind on every page that shows one: no page is without an answer, and none has a script error. Their number and arithmetic are
// looked after by the Go tests; this is what a browser makes of them.
import { expect, test } from './test.js'
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
        plan,
        plan + '/print',
        plan + '/print/cards',
        plan + '/print/turns',
        plan + '/print/teams',
        plan + '/teams/0',
        plan + '/what-if',
        plan + '/more',
        plan + '/run',
        plan + '/partners/0',
        '/courtside/' + id + '/hall',
      ]) {
        const r = await page.goto(path)
        expect(r.status(), name + ' ' + path).toBeLessThan(/\/(partners|teams)\//.test(path) ? 500 : 300)
      }
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
