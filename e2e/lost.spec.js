// A phone in the hall is used at random while its network, its server and the program's version come and go and it is loaded again. What it showed is what
// the server has in the end, and what it shows when it is opened again. LOST=7 begins with that seed, STEPS=300 goes on longer.
import { bringSome, setUpClass, shelf, startClub } from './clubs.js'
import { Door } from './door.js'
import { device, flashGone, keptOn, sessionOf, station } from './hall.js'
import { Program } from './program.js'
import { linkOf } from './steps.js'
import { expect, test } from './test.js'
import { told, Wanderer } from './wander.js'

test.use({ clock: '2026-11-24T17:58:00Z' })

// shown is all that the phone knows of what was said and done, without what is worked out from it, as soon as it has read what it kept.
async function shown() {
  const court = document.querySelector('.court')._x_dataStack[0]
  await court.restored
  const { state, series } = court
  const by = (list, say) => Object.fromEntries((list || []).map((x) => [x.id ?? x.player, say(x)]))
  return JSON.parse(
    JSON.stringify({
      said: by(state.players, (p) => [p.said || '', p.minute || 0, p.no || '']),
      tries: { ...by(state.tallies, (t) => t.tries), ...by(Object.values(series), (t) => t.tries) },
      marks: by(state.marks, (m) => [m.player, m.criterion, Boolean(m.struck)]),
      notes: by(state.notes, (n) => [n.player, n.kind, n.says]),
      climbs: by(state.climbs, (k) => [k.unit, k.step]),
      feedback: by(state.feedback, (f) => [f.player, f.how, f.said]),
      points: by(state.points, (x) => [x.place, Boolean(x.undone)]),
      looked: (state.looked || []).map((l) => l.player).sort(),
      clock: by(state.events, (e) => e.do),
    }),
  )
}

// same holds when nothing is gone or another; more may have come.
const same = (now, had) => {
  for (const [what, was] of Object.entries(had)) expect.soft(now[what], what).toMatchObject(was)
}

const seed = Number(process.env.LOST || 1),
  steps = Number(process.env.STEPS || 70)
const allow = [/ERR_|status of 5|Failed to fetch|503|502/] // what a browser says of a network that is not there
const sayAll = (found) => found.map((f) => told(f, f.way.slice(-8))).join('\n\n')

// atStation opens the hall on a phone that keeps it, at the first station while there is work.
async function atStation(phone, session) {
  await phone.goto('/courtside/' + session)
  await expect(phone.locator('.court-now b')).not.toHaveText('')
  const start = phone.getByRole('button', { name: 'Start the session' })
  if (await start.isVisible()) await start.tap()
  for (let n = 0; n < 4 && !(await phone.locator('.court-now b', { hasText: 'Work' }).count()); n++) {
    await flashGone(phone)
    await phone.getByRole('button', { name: 'Next now' }).tap()
    await phone.waitForTimeout(300)
  }
  await isKept(phone)
  await flashGone(phone)
  await station(phone, 1)
}
async function isKept(phone) {
  await phone.evaluate(() => navigator.serviceWorker.ready)
  const kept = () => phone.evaluate(async () => (await (await caches.open('gruppo-hall')).keys()).length)
  await expect.poll(kept, { timeout: 20_000 }).toBeGreaterThan(4)
}

// elsewhere is the session of a club of another sport, west of UTC, that begins in two minutes.
async function elsewhere(phone, players) {
  await startClub(phone, { club: 'Ridge Softball', program: 'Softball', zone: 'America/Los_Angeles' })
  await bringSome(phone, players, 'First steps')
  await shelf(phone)
  const plan = await setUpClass(phone, { name: 'Morning', floor: 'Plain hall', starts: '10:00', places: '60' })
  await phone.locator('#do-propose').click()
  await expect(phone.locator('.plan-read li').first()).not.toContainText('Nothing is planned')
  return plan.split('/').pop()
}

// The walk in the demo is the shorter one for every day; CLUB=60 is a club of another sport with so many players.
const club = Number(process.env.CLUB || 0)

test('a phone loses network, server and version again and again, and what it showed is kept', async ({
  browser,
  program,
}) => {
  test.setTimeout(120_000 + steps * 3_000)
  const door = await new Door(program).open()
  const phone = await device(browser, door.url, club ? '' : 'ines')
  const session = club ? await elsewhere(phone, club) : await sessionOf(phone, 'Tuesday hall')
  const home = '/courtside/' + session
  await atStation(phone, session)
  const walk = new Wanderer(phone, home, { inside: '.court', allow })
  const openAgain = async () => {
    if (new URL(phone.url()).pathname !== home) return
    const had = await phone.evaluate(shown)
    await phone.reload()
    same(await phone.evaluate(shown), had)
  }
  let offline = false
  const found = await walk.walk(seed, steps, async (next) => {
    const r = next()
    if (r < 0.1) await phone.context().setOffline((offline = !offline))
    else if (r < 0.15) await (program.running ? program.stop('SIGKILL') : program.start())
    else if (r < 0.18) door.version++
    else if (r < 0.2) door.lost = !door.lost
    else if (r < 0.27) await openAgain()
  })
  expect(sayAll(found)).toBe('')
  const before = await phone.evaluate(shown)
  const { clock, said, ...taken } = before
  const words = Object.values(said).filter(([word]) => word)
  expect(Object.keys(clock).length).toBeGreaterThan(0)
  expect([...words, ...Object.values(taken).flatMap(Object.keys)].length).toBeGreaterThan(0) // there was something to lose
  await phone.context().setOffline(false)
  door.lost = false
  if (!program.running) await program.start()
  await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 60_000 })
  await phone.reload()
  await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 30_000 })
  const after = await phone.evaluate(shown)
  same(after, before)
  await phone.context().close()
  door.close()
})

test('two phones that are used at random, each with its network coming and going, show the same in the end, and a third too', async ({
  browser,
  clock,
}) => {
  test.setTimeout(120_000 + steps * 3_000)
  const program = await new Program(clock).start() // where nobody was before
  const phones = []
  for (const who of ['ines', 'tomasz']) phones.push(await device(browser, program.url, who))
  const session = await sessionOf(phones[0], 'Tuesday hall')
  const walks = []
  for (const [n, phone] of phones.entries()) {
    await atStation(phone, session)
    const walk = new Wanderer(phone, '/courtside/' + session, { inside: '.court', allow })
    let offline = false
    walks.push(() =>
      walk.walk(2 * seed + n, steps / 2, async (next) => {
        if (next() < 0.15) await phone.context().setOffline((offline = !offline))
      }),
    )
  }
  for (const found of await Promise.all(walks.map((walk) => walk()))) expect.soft(sayAll(found)).toBe('')
  for (const phone of phones) {
    await phone.context().setOffline(false)
    if (new URL(phone.url()).pathname !== '/courtside/' + session) await phone.goto('/courtside/' + session)
    await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 60_000 })
  }
  const third = await device(browser, program.url, 'leila')
  await third.goto('/courtside/' + session)
  await expect(third.locator('.sync')).toHaveText('in step')
  for (const phone of phones)
    await expect.poll(() => phone.evaluate(shown), { timeout: 15_000 }).toEqual(await third.evaluate(shown))
  for (const phone of [...phones, third]) await phone.context().close()
  await program.remove()
})

// A page that is no phone's in the hall, but kept like it: what was said there is what it says when it is opened again, with or without network.
const said = () =>
  Object.fromEntries([
    ...[...document.querySelectorAll('[data-days] button')].map((b) => [
      b.form.elements.task.value + b.value,
      [b.ariaPressed, b.dataset.felt, b.dataset.figure, b.dataset.words],
    ]),
    ...[...document.querySelectorAll('[data-pad] input:not([type=hidden])')]
      .filter((i) => i.ariaInvalid !== 'true')
      .map((i) => [i.name, i.value && Number(i.value.replace(',', '.'))]),
  ])
for (const [what, inside, open] of [
  ['a player’s page at home', '#home-tasks', async (lead) => new URL(await linkOf(lead, 'Amara Nwosu')).pathname],
  [
    'the pad of a test',
    '[data-pad]',
    async (lead) => {
      await lead.goto('/season?class=')
      await lead.getByRole('link', { name: 'Rope 30 s' }).first().click()
      return (await lead.getByRole('link', { name: 'Enter today’s' }).first().getAttribute('href')) + '?day=2026-11-24'
    },
  ],
])
  test(
    what + ' says what was said there, also when network and server come and go and it is opened again',
    async ({ browser, program }) => {
      test.setTimeout(120_000 + steps * 3_000)
      if (!program.running) await program.start()
      const phone = await device(browser, program.url, 'ines')
      const home = await open(phone)
      await phone.goto(home)
      await isKept(phone)
      const walk = new Wanderer(phone, home, { inside, allow })
      let offline = false
      const openAgain = async () => {
        await phone.evaluate(() => document.activeElement?.blur()) // what is being typed is said then
        await phone.waitForTimeout(500) // and what was said before is read
        const had = await phone.evaluate(said)
        expect.soft(Object.keys(had).length).toBeGreaterThan(0)
        await phone.reload()
        await expect.soft.poll(() => phone.evaluate(said), { timeout: 8_000 }).toMatchObject(had)
      }
      const found = await walk.walk(seed, steps / 2, async (next) => {
        const r = next()
        if (r < 0.12) await phone.context().setOffline((offline = !offline))
        else if (r < 0.16) await (program.running ? program.stop('SIGKILL') : program.start())
        else if (r < 0.3) await openAgain()
      })
      expect(sayAll(found)).toBe('')
      await phone.context().setOffline(false)
      if (!program.running) await program.start()
      await openAgain()
      await expect.poll(() => keptOn(phone, 'items'), { timeout: 30_000 }).toEqual([])
      await openAgain()
      await phone.context().close()
    },
  )

test('what has just arrived is still shown when the network goes and the phone is opened again', async ({
  browser,
  program,
}) => {
  const phone = await device(browser, program.url, 'ines')
  const session = await sessionOf(phone, 'Saturday Shore')
  await phone.goto('/courtside/' + session)
  await isKept(phone)
  await expect(phone.locator('.sync')).toHaveText('in step')
  for (const n of [0, 1, 2]) {
    const name = phone.locator('.reg-who').nth(n)
    await name.scrollIntoViewIfNeeded()
    const [answer] = await Promise.all([phone.waitForResponse(/\/inbox$/), name.tap()])
    await answer.finished()
    if (n) await expect.poll(() => keptOn(phone, 'items')).toEqual([]) // the first is opened again before the state that shows it is kept
    await phone.context().setOffline(true)
    await phone.reload()
    for (let i = 0; i <= n; i++) await expect(phone.locator('.reg-who .reg-state').nth(i)).toHaveText('✓')
    await phone.context().setOffline(false)
    await phone.reload()
    await expect(phone.locator('.sync')).toHaveText('in step')
  }
  // a guest is there at once, also without network, and once
  await phone.context().setOffline(true)
  await phone.getByLabel('A guest', { exact: true }).fill('Marisol Vega')
  await phone.getByRole('button', { name: 'Bring in' }).tap()
  const guest = phone.locator('.reg-who', { hasText: 'Marisol Vega' })
  await expect(guest).toHaveCount(1)
  await phone.reload()
  await expect(guest).toHaveCount(1)
  await phone.context().setOffline(false)
  await phone.reload()
  await expect(phone.locator('.sync')).toHaveText('in step')
  await expect(guest).toHaveCount(1)
  // who leaves the hall at once and signs out has nothing waiting
  const [answer] = await Promise.all([phone.waitForResponse(/\/inbox$/), phone.locator('.reg-who').nth(3).tap()])
  await answer.finished()
  await expect(phone.locator('.sync')).toHaveText('in step') // it has read the answer, and has not kept the state yet
  await phone.goto('/account')
  phone.on('dialog', (d) => expect(d.message()).toBe('') && d.accept())
  await phone.getByRole('button', { name: 'Sign out here' }).click()
  await phone.waitForURL('/sign-in')
  await phone.context().close()
})
