// Anybody may wander through the whole program, in any sport, at both sizes, and meets nothing that breaks, hides or misleads.
// A short walk with fixed seeds is part of make test; make wander SEEDS=20 STEPS=300 goes on longer, from SEED=1. WHO=lead, CLUB=demo and SIZE=phone keep to one.
import { expect, test } from './test.js'
import { bring, names, setUpClass, startClub } from './clubs.js'
import { signIn } from './steps.js'
import { Wanderer, told } from './wander.js'

const long = Boolean(process.env.SEEDS || process.env.STEPS)
const seeds = Number(process.env.SEEDS || 1),
  steps = Number(process.env.STEPS || 12),
  from = Number(process.env.SEED || 1)
const sizes = { laptop: { width: 1280, height: 800 }, phone: { width: 390, height: 844 } }
const only = (wish, list) => (wish ? list.filter((x) => wish.split(',').includes(x)) : list)

const first = {
  'Ball games': 'First steps',
  'Net and racket games': 'First rallies',
  'Apparatus and routines': 'Shapes',
}
const clubs = {
  demo: null,
  none: {
    club: 'Tidewell Athletics',
    program: 'Athletics',
    family: 'Running, jumping, throwing',
    zone: 'America/St_Johns',
    players: 0,
  },
  one: {
    club: 'Copperhill Primary',
    program: 'Badminton',
    family: 'Net and racket games',
    zone: 'Europe/Berlin',
    players: 1,
    floor: 'Badminton',
  },
  twelve: {
    club: 'Larkfield Gymnastics',
    program: 'Gymnastics',
    family: 'Apparatus and routines',
    zone: 'Pacific/Auckland',
    players: 12,
  },
  sixty: {
    club: 'Millrace Softball',
    program: 'Softball',
    imperial: true,
    zone: 'America/Los_Angeles',
    players: 60,
    floor: 'Softball infield',
  },
}

// ready makes a club as far as its players allow, and gives the way in of each role: a signed-in state and the address to begin at.
async function ready(browser, name) {
  const context = await browser.newContext()
  const page = await context.newPage()
  const ways = {}
  const as = async (role, how, home = '/') => {
    const c = await browser.newContext()
    const p = await c.newPage()
    await how(p)
    ways[role] = { state: await c.storageState(), home }
    await c.close()
  }
  if (name === 'demo') {
    await signIn(page)
    await as('lead', (p) => signIn(p))
    await as('coach', (p) => signIn(p, 'tomasz'))
    await as('helper', (p) => signIn(p, 'bea'))
  } else {
    const c = clubs[name]
    await startClub(page, c)
    if (c.players) {
      const stages = [first[c.family || 'Ball games'], '']
      await bring(
        page,
        'Name\tBirth year\tStage\n' +
          names(c.players)
            .map((n, i) => `${n}\t${2010 + (i % 8)}\t${stages[i % 2]}`)
            .join('\n'),
      )
      await setUpClass(page, { name: 'Evening group', floor: c.floor, places: '60' })
    }
    ways.lead = { state: await context.storageState(), home: '/' }
    for (const role of ['coach', 'helper']) {
      await page.goto('/account')
      await page.locator('#name').fill('Sky ' + role)
      const email = `${role}-${Date.now()}@${name}.example`
      await page.getByLabel('E-mail').fill(email)
      await page.getByLabel('They are').selectOption(role)
      await page.getByRole('button', { name: 'Bring them in' }).click()
      const link = new URL(await page.locator('.fresh-link').innerText()).pathname
      await as(role, async (p) => {
        await p.goto(link)
        await p.getByLabel('Choose a password').fill('harbour lamps at dusk')
        await p.getByRole('button', { name: 'Keep it and go in' }).click()
        await p.waitForURL('/')
      })
    }
  }
  const players = await page
    .goto('/roster')
    .then(() => page.locator('a[href^="/players/"]').evaluateAll((as) => as.map((a) => a.getAttribute('href'))))
  if (players.length) {
    await page.goto(players[0])
    await page.getByText('Make a link').first().click()
    await page.getByLabel('For', { exact: true }).fill('family')
    await page.getByRole('button', { name: 'Make a link' }).click()
    ways.guardian = {
      state: { cookies: [], origins: [] },
      home: new URL(await page.locator('.fresh-link').innerText()).pathname,
    }
  }
  ways.nobody = { state: { cookies: [], origins: [] }, home: '/sign-in' }
  await context.close()
  return ways
}

// What a worker keeps from walk to walk: the clubs it made, and what was touched and met in each by a role at a size.
const made = {},
  been = {}

for (const club of only(process.env.CLUB, long ? Object.keys(clubs) : ['demo', 'twelve']))
  test.describe(club, () => {
    test.describe.configure({ mode: 'default' }) // a club's walks come one after another, beside those of other clubs
    const roles = ['lead', 'coach', 'helper', 'guardian', 'nobody'].filter((r) => r !== 'guardian' || club !== 'none')
    for (const [i, who] of only(process.env.WHO, roles).entries()) {
      // the short walk takes each role at one size here, and at the other one in the other club
      const here = long ? Object.keys(sizes) : [Object.keys(sizes)[(i + (club === 'demo')) % 2]]
      for (const size of only(process.env.SIZE, here))
        for (let seed = from; seed < from + seeds; seed++)
          test(`${who} on a ${size} wanders, seed ${seed}`, async ({ browser }) => {
            test.setTimeout(90_000 + steps * 2_000)
            const { state, home } = (made[club] ??= await ready(browser, club))[who]
            const seen = (been[[club, who, size]] ??= { touched: new Map(), met: new Set() })
            const context = await browser.newContext({
              viewport: sizes[size],
              hasTouch: size === 'phone',
              storageState: state,
            })
            context.setDefaultTimeout(15_000)
            const slow = (i + seed) % 2 // what is sent takes its time
            if (slow)
              await context.route(
                () => true,
                async (r) => {
                  if (r.request().method() === 'POST') await new Promise((go) => setTimeout(go, 400))
                  await r.continue().catch(() => {}) // the page went on
                },
              )
            const w = new Wanderer(await context.newPage(), home, seen)
            const found = []
            for (const f of await w.walk(seed, steps)) found.push(told(f, await w.shortest(f)))
            await context.close()
            const kinds = [...seen.touched.values()].reduce((n, set) => n + set.size, 0)
            if (seed === from + seeds - 1) console.log(`${kinds} of ${seen.met.size} kinds of control were touched`)
            expect(found.join('\n\n')).toBe('')
          })
    }
  })
