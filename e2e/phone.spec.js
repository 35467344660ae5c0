// One phone in the hall: without the server for a whole session, with another version in the middle, and every pad.
import { Door } from './door.js'
import { contrast, device, flashGone, keptOn, sessionOf, skipTo, station } from './hall.js'
import { signIn, watch } from './steps.js'
import { expect, test } from './test.js'

test.describe.configure({ mode: 'serial' })
test.use({ clock: '2026-11-24T17:58:00Z' })

let one, two, session
const floor = (page) => page.goto('/courtside/' + session)

test.beforeAll(async ({ browser, program }) => {
  one = program
  two = await program.beside().start()
  const lead = await device(browser, one.url, 'ines')
  session = await sessionOf(lead, 'Tuesday hall')
  await floor(lead)
  await lead.getByRole('button', { name: 'Start the session' }).tap()
  for (const next of ['First look', 'One key', 'Explain', 'Work']) {
    await flashGone(lead)
    await lead.getByRole('button', { name: 'Next now' }).tap()
    await expect(lead.locator('.court-now b')).toHaveText(next)
  }
  await expect(lead.locator('.sync')).toHaveText('in step') // what was tapped last has arrived
  await lead.context().close()
})
test.afterAll(() => two.stop('SIGKILL'))

test('a phone without the server for a session, loaded again twice, with 300 marks: all arrive once', async ({
  browser,
}) => {
  const phone = await device(browser, two.url, 'leila')
  await floor(phone)
  await phone.evaluate(() => navigator.serviceWorker.ready)
  await expect
    .poll(
      () =>
        phone.evaluate(
          async () =>
            (await (await caches.open('gruppo-hall')).keys())
              .map((r) => new URL(r.url).pathname)
              .filter((p) => /client\/courtside-|^\/courtside/.test(p)).length,
        ),
      { timeout: 20_000 },
    )
    .toBeGreaterThan(2)
  await station(phone, 1)
  await phone.locator('.court-task h2').click() // the keys are the page's, not a button's
  const before = (await (await phone.request.get(`/courtside/${session}/state`)).json()).marks.length
  await two.stop('SIGKILL')
  for (let i = 0; i < 300; i++) {
    if (i === 100 || i === 200) {
      await phone.reload()
      await expect(phone.locator('.court-now b')).toHaveText(/Work|Change|Game/)
      await expect(phone.locator('.sync')).toHaveText(new RegExp('^' + i + ' waiting here'))
      await flashGone(phone)
      await station(phone, 1)
      await phone.locator('.court-task h2').click()
    }
    await phone.keyboard.press(i % 3 ? ' ' : 'x')
    await phone.keyboard.press('k')
    if (i % 10 === 9) await phone.keyboard.press('n')
  }
  await expect(phone.locator('.sync')).toHaveText('300 waiting here')
  await phone.getByRole('button', { name: /^More/ }).first().tap()
  await phone.locator('.court-more').getByRole('button', { name: 'End the session' }).tap()
  await expect(phone.getByRole('alertdialog', { name: 'End the session?' })).toContainText(
    '300 not arrived from this phone',
  )
  await phone.getByRole('alertdialog', { name: 'End the session?' }).getByRole('button', { name: 'Go on' }).tap()
  await two.start()
  await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 60_000 })
  const marks = (await (await phone.request.get(`/courtside/${session}/state`)).json()).marks
  expect(marks.length - before).toBe(300)
  expect(new Set(marks.map((m) => m.id)).size).toBe(marks.length)
  await phone.context().close()
})

test('another version in the middle: the phone goes on with its own; what it kept goes on signing out, not before a word about what waits', async ({
  browser,
}) => {
  const door = await new Door(one).open()
  const phone = await device(browser, door.url, 'leila')
  await floor(phone)
  await phone.evaluate(() => navigator.serviceWorker.ready)
  const kept = (store) => keptOn(phone, store)
  const cached = (what) =>
    phone.evaluate(
      async (what) => (await (await caches.open('gruppo-hall')).keys()).filter((r) => r.url.includes(what)).length,
      what,
    )
  // the page itself, with its parts: its drawings may be there before it
  const page = () =>
    phone.evaluate(
      async (path) => (await (await caches.open('gruppo-hall')).keys()).some((r) => new URL(r.url).pathname === path),
      '/courtside/' + session,
    )
  await expect.poll(page, { timeout: 20_000 }).toBe(true)
  const opens = async (version, offline) => {
    await phone.context().setOffline(offline)
    await phone.reload()
    await expect(phone.locator('.court-now b')).toHaveText(/Work|Change|Game/)
    await expect(phone.locator(`script[src*="courtside-"][src$="${version}.js"]`)).toHaveCount(1)
    expect(await phone.locator('script[src*=".v1."]').count()).toBe(version ? 2 : 0)
  }
  // the other version's page is no use without its scripts: where these do not come, the one that is here is shown
  door.version = 1
  door.lost = true
  await opens('', false)
  await opens('', true)
  door.lost = false
  await opens('.v1', false)
  await opens('.v1', true)
  await phone.context().setOffline(false)
  await expect.poll(() => kept('values')).toContain('state')
  // A tap that cannot arrive is not thrown away without a word.
  await station(phone, 1)
  await phone.route('**/inbox', (r) => r.abort())
  await phone.locator('.court-task h2').click()
  await phone.keyboard.press(' ')
  await expect(phone.locator('.sync')).toHaveText('1 waiting here')
  await phone.goto('/account')
  const asked = []
  phone.on('dialog', (d) => (asked.push(d.message()), asked.length === 1 ? d.dismiss() : d.accept()))
  await phone.getByRole('button', { name: 'Sign out here' }).click()
  await expect.poll(() => asked.length).toBe(1)
  expect(asked[0]).toContain('One thing that you tapped in the hall has not arrived yet.')
  expect(await kept('items')).toHaveLength(1)
  await phone.getByRole('button', { name: 'Sign out here' }).click()
  await phone.waitForURL('/sign-in')
  expect([await kept('items'), await kept('values'), await cached('/courtside/')]).toEqual([[], [], 0])
  await phone.context().close()
  door.close()
})

test('every pad by touch and by keys, at 390 × 844, readable in the sun', async ({ browser }) => {
  const page = await device(browser, one.url, 'ines')
  const end = watch(page)
  await floor(page)
  await flashGone(page)
  await station(page, 1)
  const name = await page.locator('.mark-row[data-player]').last().getAttribute('data-player') // whoever is there
  const { players } = await (await page.request.get(`/courtside/${session}/state`)).json()
  await page.goto('/stairs/ladder')
  const add = await page
    .getByRole('link', { name: 'Add a criterion to ' + players.find((p) => p.name === name).stageName })
    .getAttribute('href')
  const measures = [
    ['distance', 'Throws far', '6'],
    ['angle', 'Front knee', '90'],
    ['time', 'Shuttle', '12'],
    ['tries', 'Tries to five', '9'],
    ['hold', 'Stands still', '10'],
    ['count', 'Claps', '20'],
    ['faults', 'Passes and follows', '1'],
    ['grade', 'Looks up', '2'],
  ]
  for (const [measure, wording, want] of measures) {
    await page.goto(add)
    await page.getByLabel('Shows', { exact: true }).fill(wording)
    await page.getByLabel('Skill', { exact: true }).fill('passing')
    await page.locator('[name=measure]').selectOption(measure)
    await page.locator('[name=must]').selectOption('choose') // nobody's readiness alters
    await page.locator('[name=want]').fill(want)
    if (measure === 'count') await page.locator('[name=of]').fill('2')
    if (measure === 'angle') await page.locator('[name=tolerance]').fill('10')
    if (measure === 'grade')
      await page.locator('[name=points]').fill('looks at the ball\nlooks up once\nlooks up all the time')
    await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
    await page.waitForURL(/\/stairs\/ladder/)
  }
  await floor(page)
  await flashGone(page)
  await station(page, 1)
  const does = await page.locator('.court-form').innerText()
  await page
    .getByRole('button', { name: /^(Harder|Easier) for/ })
    .first()
    .tap() // one tap moves the group along
  await expect(page.locator('.court-form')).not.toHaveText(does)
  const mine = page.locator(`.mark-row[data-player="${name}"]`)
  const to = async (wording) => {
    for (let i = 0; i < 24 && !(await mine.locator('.crit').innerText()).includes(wording); i++)
      await mine.locator('.crit').tap()
    await expect(mine.locator('.crit')).toContainText(wording)
  }
  const said = (text) => expect(mine).toContainText(text)
  await to('Throws far')
  await mine.getByRole('slider').fill('6.3')
  await mine.getByRole('button', { name: ': more' }).tap()
  await expect(mine.locator('.pad-figure')).toContainText('6.35')
  await contrast(page, 'distance')
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said('6.35 m ✓')
  await to('Front knee')
  const arm = mine.locator('.pad-angle'),
    b = await arm.boundingBox()
  const scale = Math.min(b.width / 120, b.height / 70),
    x = (u) => b.x + b.width / 2 + (u - 60) * scale,
    y = (u) => b.y + b.height / 2 + (u - 35) * scale
  await page.mouse.move(x(100), y(30))
  await page.mouse.down()
  await page.mouse.move(x(60), y(20), { steps: 4 })
  await page.mouse.up()
  await expect(arm).toHaveAttribute('aria-valuenow', /^(8[5-9]|9[0-5])$/)
  await arm.focus()
  const was = Number(await arm.getAttribute('aria-valuenow'))
  await page.keyboard.press('ArrowUp')
  await expect(arm).toHaveAttribute('aria-valuenow', String(was + 1))
  await contrast(page, 'angle')
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said(was + 1 + '° ✓')
  await to('Shuttle')
  await page.getByRole('button', { name: 'Start all watches' }).tap()
  await page.waitForTimeout(700)
  await mine.locator('.is-watch').tap()
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said(/[01](\.\d)? s ✓/)
  await to('Tries to five')
  for (let i = 0; i < 7; i++) await mine.getByRole('button', { name: ': more' }).tap()
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said('· 7 ✓')
  await to('Claps')
  await mine.getByRole('button', { name: ': start 2 seconds' }).tap()
  await mine.getByRole('button', { name: ': more' }).evaluate((more) => {
    for (let i = 0; i < 5; i++) more.click() // at once: a slow machine taps less than five times in two seconds
  })
  await expect(mine.locator('.pad-figure')).toContainText('time is up', { timeout: 6000 })
  await mine.getByRole('button', { name: ': more' }).tap() // too late
  await expect(mine.locator('.pad-figure')).toContainText('5')
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said('· 5')
  await to('Passes and follows')
  await mine.getByRole('button', { name: 'fall', exact: true }).tap()
  await mine.getByRole('button', { name: ': keep' }).tap()
  await said('1 fault ✓')
  await to('Looks up')
  await contrast(page, 'grade')
  await mine.locator('.who').click({ position: { x: 200, y: 4 } })
  await mine.getByRole('button', { name: /grade 3, looks up all the time/ }).tap()
  await said('grade 3 ✓')
  // By keys: the row that was touched last.
  await page.locator('.court-task h2').click()
  await page.keyboard.press('2')
  await said('grade 2 ✓')
  await to('Tries to five')
  await mine.getByRole('button', { name: ': more' }).tap()
  await page.locator('.court-task h2').click()
  for (const k of ['+', '+', '-', '+', 'k']) await page.keyboard.press(k)
  await said('· 3 ✓')
  // Where it went, the key, notes, and what was tapped last taken back.
  await to('Wall passing')
  await page.getByRole('button', { name: 'Where it went' }).tap()
  await mine.getByRole('button', { name: 'good, high left' }).tap()
  await mine.getByRole('button', { name: 'good, low right' }).tap()
  await contrast(page, 'zones')
  await mine.locator('.pad-figure').tap()
  await said('2 of 2')
  const had = await mine.locator('.has').getAttribute('aria-pressed')
  await mine.locator('.has').tap()
  await expect(mine.locator('.has')).toHaveAttribute('aria-pressed', String(had !== 'true'))
  await mine.locator('.name').tap()
  await mine.getByRole('button', { name: 'Follow up' }).tap()
  await mine.getByLabel('A note').fill('quick wrist')
  await mine.getByRole('button', { name: 'Note', exact: true }).tap()
  await expect(mine.locator('.row-notes')).toContainText('Note: quick wrist')
  await contrast(page, 'notes')
  await expect(page.locator('.sync')).toHaveText('in step')
  const state = await (await page.request.get(`/courtside/${session}/state`)).json()
  const id = state.players.find((p) => p.name === name).id
  expect(
    state.notes
      .filter((n) => n.player === id)
      .map((n) => n.kind)
      .sort(),
  ).toEqual(['follow', 'word'])
  await page.goto('/players/' + id)
  await expect(page.locator('.marks-list')).toContainText('high left 1, low right 1')
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible()
  await page.getByRole('button', { name: /^Done: Note/ }).tap()
  await expect(page.getByText('Ticked the note off')).toBeVisible()
  end()
  await page.context().close()
})

test('pads for pairs and teams, the circuit, a count in a time, and a ladder by mastery', async ({ browser }) => {
  const page = await device(browser, one.url, 'ines')
  const end = watch(page)
  const beginners = await sessionOf(page, 'Adult beginners')
  await page.goto('/sessions/' + beginners + '?tab=all')
  const edit = async (what, at, value) => {
    const was = await page.locator('#plan').getAttribute('data-version')
    const r = await page.request.post('/sessions/' + beginners + '/plan', {
      form: { do: what, at, value, version: was },
      headers: { 'Sec-Fetch-Site': 'same-origin' },
    })
    expect(r.status()).toBeLessThan(400)
    await page.goto('/sessions/' + beginners)
    await expect(page.locator('#plan')).not.toHaveAttribute('data-version', was)
  }
  const drills = Object.fromEntries(
    await page
      .locator('#add-drill option')
      .evaluateAll((o) => o.map((x) => [x.textContent.replace(/ \(.*/, ''), x.value])),
  )
  for (const [i, name] of ['Rally for two', 'Seven against eleven', 'Team of two to twenty'].entries())
    await edit('drill', 's' + (i + 1), drills[name])
  for (const name of ['Seven throws', 'Own wall count']) await edit('add-station', '', drills[name])
  await edit('groups', '', '1')
  await edit('add-block', 'b1', 'ladder')
  const ladder = await page.locator('.bar').first().getAttribute('data-id')
  for (const name of ['Lob and catch', 'Jump and catch']) await edit('task', ladder, drills[name])
  await edit('climb', ladder, 'player')
  await page.goto('/courtside/' + beginners)
  const state = () => page.request.get('/courtside/' + beginners + '/state').then((r) => r.json())
  const plan = await state()
  const kinds = plan.stations.map((s) => s.kind)
  await page.getByRole('button', { name: 'Start the session' }).tap()
  await page.getByRole('button', { name: 'Start it now' }).tap() // Wednesday's
  const on = async (want) => {
    for (let i = 0; i < 30 && !(await page.locator('.court-now b').innerText()).match(want); i++) {
      await flashGone(page)
      await page.getByRole('button', { name: / now$/ }).tap()
    }
    await flashGone(page)
  }
  await on(/work/i)
  const group = plan.groups[0]
  const shown = []
  for (let round = 1; round <= group.route.length; round++) {
    const at = group.route[round - 1]
    await on(/work/i)
    if (at >= 0) {
      await station(page, at + 1)
      const one = page.locator('.mark-row:not([data-player])').first()
      shown.push(kinds[at])
      if (kinds[at] === 'ladder') {
        for (const k of ['✓', '✓', '✓'])
          await one
            .getByRole('button', { name: /rally$/ })
            .filter({ hasText: k })
            .tap()
        await expect(one.locator('.pad-figure')).toHaveText('3') // one, then two: on rung 3
        await contrast(page, 'rally ladder')
        const before = await one.locator('.who b').innerText()
        await page.getByRole('button', { name: 'New partners' }).tap()
        await expect(one.locator('.who b')).not.toHaveText(before)
        await expect(page.locator('.mark-row:not([data-player])', { hasText: 'carried on from 3' })).not.toHaveCount(0)
        await expect(page.locator('.court-note', { hasText: 'rests' })).toBeVisible() // nine players
      } else if (kinds[at] === 'race') {
        for (let i = 0; i < 7; i++) await one.locator('.side').first().tap()
        await expect(one).toContainText('7 : 0')
        await expect(one).toContainText('wins')
        await one.locator('.side').nth(1).tap()
        await page.getByRole('button', { name: 'Take the last tap back' }).tap()
        await expect(one).toContainText('7 : 0')
        await contrast(page, 'race')
      } else if (kinds[at] === 'team') {
        const now = await one.locator('.good').getAttribute('aria-label')
        await one.locator('.good').tap()
        await expect(one.locator('.good')).not.toHaveAttribute('aria-label', now) // the next one's turn
        await one.locator('.good').tap()
        await expect(one.locator('.pad-figure')).toHaveText('2')
        await one.locator('.miss').tap()
        await expect(one.locator('.pad-figure')).toHaveText('0')
        await expect(one).toContainText('best 2')
        await contrast(page, 'team')
      } else {
        const row = page.locator('.mark-row[data-player]').first()
        for (let i = 0; i < 6 && !(await row.locator('.who').innerText()).includes(plan.stations[at].name); i++)
          await row.locator('.crit').tap()
        if (kinds[at] === 'set') {
          for (let i = 0; i < 5; i++) await row.locator('.good').tap()
          await expect(row.locator('.pad-figure')).toContainText('skill 2 of 7')
        } else await expect(row.locator('.pad-figure')).toContainText('s')
        await contrast(page, kinds[at])
      }
    }
    if (round < group.route.length) {
      await flashGone(page)
      await page.getByRole('button', { name: 'Change now' }).tap()
    }
  }
  expect(shown).toEqual(expect.arrayContaining(['ladder', 'race', 'team', 'set']))
  await page.getByRole('button', { name: 'Ladder', exact: true }).tap()
  const climb = page.locator('.climb').first()
  await expect(climb).toBeVisible()
  // seven in a row hold the first step, and they go on by themselves
  const climber = await climb.locator('b').first().innerText(),
    tap = (name) => climb.getByRole('button', { name: climber + ': ' + name }).tap()
  for (const t of 'good good miss good good good good good good'.split(' ')) await tap(t)
  await expect(climb).toContainText('best 6 of 7')
  await expect(climb).toContainText('1 of 2')
  await tap('good')
  await expect(climb).toContainText('2 of 2')
  const tasks = page.locator('.climb-tasks li')
  await expect(tasks.filter({ hasText: 'Jump and catch' })).toContainText('1 here')
  await expect(tasks.filter({ hasText: 'Jump and catch' })).toContainText('Key: Up first')
  await contrast(page, 'ladder')
  await page.getByRole('button', { name: 'Take the last tap back' }).tap()
  await expect(climb).toContainText('1 of 2')
  await tap('it holds, next step')
  await expect(page.locator('.sync')).toHaveText('in step')
  await page.reload()
  await page.getByRole('button', { name: 'Ladder', exact: true }).tap()
  await expect(climb).toContainText('2 of 2')
  await tap('it holds, next step')
  await expect(climb).toContainText(/top.*Fast/s)
  await page.getByRole('button', { name: /^Seen/ }).tap()
  await expect(page.locator('.reg-row.is-looked', { hasText: climber })).toBeVisible()
  await expect(page.locator('.sync')).toHaveText('in step')
  expect((await state()).climbs.length).toBe(4)
  await page.getByRole('button', { name: /^More/ }).first().tap()
  await page.locator('.court-more').getByRole('button', { name: 'End the session' }).tap()
  await page.getByRole('button', { name: 'End it' }).tap()
  await expect
    .poll(async () => (await state()).marks.filter((m) => /rung 3|team of 2|7 : 0/.test(m.said)).length)
    .toBeGreaterThan(4)
  await page.getByRole('link', { name: 'What happened' }).tap()
  await expect(page.locator('li', { hasText: 'Through all 2 steps' })).toContainText(climber)
  end()
  await page.context().close()
})

test('a target that sticks is said at the foot, with one that would not; a tap makes it that', async ({ browser }) => {
  const page = await device(browser, one.url, 'ines'),
    end = watch(page)
  await floor(page)
  await page.evaluate(() => {
    // a voice that only listens
    window.heard = []
    Object.defineProperty(window, 'speechSynthesis', {
      value: { cancel: () => {}, speak: (u) => window.heard.push(u.text) },
    })
  })
  const state = () => page.request.get('/courtside/' + session + '/state').then((r) => r.json())
  for (let i = 0; i < 30 && !(await page.locator('.court-now b').innerText()).match(/work/i); i++) {
    await flashGone(page)
    await page.getByRole('button', { name: / now$/ }).tap()
  }
  await flashGone(page)
  const before = await state()
  const at = before.stations.findIndex((s) => s.kind === 'streak' && s.n >= 6)
  await station(page, at + 1)
  // calm: the clock is a line, and the first player stands in the upper third
  await expect(page.locator('.court.is-calm')).toBeVisible()
  expect((await page.locator('.court-clock').boundingBox()).height).toBeLessThan(60)
  expect((await page.locator('.mark-row').first().boundingBox()).y).toBeLessThan(844 / 3)
  const rows = page.locator('.mark-row[data-player]', { has: page.locator('.miss') }) // others are at another criterion, or through
  expect(await rows.count()).toBeGreaterThan(1)
  for (let i = 0; i < (await rows.count()); i++)
    for (let k = 0; k < 6; k++)
      await rows
        .nth(i)
        .locator(k % 2 ? '.miss' : '.good')
        .first()
        .tap()
  // a swipe is a tap: to the right good, to the left a miss; a rolling thumb is none, and a word that is held says what it means
  const own = rows.filter({ has: page.locator('.pad-figure', { hasText: 'tries' }) }).first()
  const swipe = async (dx, dy = 0) => {
    const b = await own.locator('.name').boundingBox()
    const touch = (type, x, y) =>
      cdp.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] })
    await touch('touchStart', b.x + 100, b.y + 20)
    for (let i = 1; i <= 5; i++) await touch('touchMove', b.x + 100 + (dx * i) / 5, b.y + 20 + (dy * i) / 5)
    await touch('touchEnd')
  }
  const cdp = await page.context().newCDPSession(page)
  const figure = own.locator('.pad-figure')
  const tried = () => figure.innerText().then((t) => Number(t.match(/(\d+) tr/)[1]))
  const was = await tried()
  for (const [dx, dy, more] of [
    [90, 0, 1],
    [-90, 10, 2],
    [30, 0, 2],
  ]) {
    await swipe(dx, dy)
    await expect.poll(tried).toBe(was + more)
  }
  await expect(page.locator('.row-notes')).toHaveCount(0)
  await page.waitForTimeout(400) // the browser takes a tap that follows a swipe at once for part of it
  for (const left of [1, 0]) {
    await page.getByRole('button', { name: 'Take the last tap back' }).click()
    await expect.poll(tried).toBe(was + left)
  }
  await page.locator('[data-means=target]').focus()
  await page.keyboard.press('?')
  await expect(page.locator('.court-means')).toContainText('a miss begins again')
  await page.keyboard.press('Escape')
  await expect(page.locator('.court-means')).toBeHidden()
  // held in the left hand, the buttons stand at the left
  const more = () => page.getByRole('button', { name: /^More/ }).first().tap()
  const x = async () => (await rows.first().locator('.miss').boundingBox()).x
  expect(await x()).toBeGreaterThan(195)
  await more()
  await page.getByRole('button', { name: 'left hand' }).tap()
  await more()
  expect(await x()).toBeLessThan(195)
  await more()
  await page.getByRole('button', { name: 'left hand' }).tap()
  await more()
  const what = page.locator('footer .what-now')
  await expect(what).toContainText(
    /At this rate [0-4] in 10 get there before the signal\. \d in a row: ([78]|9|10) in 10\./,
  )
  await contrast(page, 'what now')
  const aim = what.getByRole('button', { name: /^Make it \d+$/ }),
    other = Number((await aim.innerText()).match(/\d+/)[0]) // the less time is left, the lower
  await aim.tap()
  const asked = (s) => s.forms.map((f) => f.n || s.n) // of a group whose form has a number of its own it is theirs
  await expect.poll(async () => asked((await state()).stations[at])).toContain(other)
  await expect(page.locator('.court-task')).toContainText(other + ' in a row')
  // the signal as words: who goes where
  await page.getByRole('button', { name: /^More/ }).first().tap()
  await page.getByRole('button', { name: 'speak' }).tap()
  await page.getByRole('button', { name: /^More/ }).first().tap()
  await page.getByRole('button', { name: 'Change now' }).tap()
  await expect.poll(() => page.evaluate(() => window.heard.join(' '))).toMatch(/Circles to .+\. Triangles to /)
  end()
})

test('a group that sticks takes the bridge before the drill, every device has it, and it comes back', async ({
  browser,
}) => {
  const page = await device(browser, one.url, 'ines'),
    end = watch(page)
  await floor(page)
  const state = () => page.request.get('/courtside/' + session + '/state').then((r) => r.json())
  const { stations } = await state(),
    at = stations.findIndex((s) => s.bridge)
  await skipTo(page, page.locator('.court-now b', { hasText: /^Work$/i }))
  for (let i = 0; i < 4; i++) {
    await station(page, at + 1)
    if (await page.locator('.mark-row[data-player]').count()) break
    await page.getByRole('button', { name: / now$/ }).tap()
    await skipTo(page, page.locator('.court-now b', { hasText: /^Work$/i }))
  }
  const rows = page.locator('.mark-row[data-player]')
  for (let i = 0; i < (await rows.count()); i++) {
    const row = rows.nth(i)
    for (let k = 0; k < 8 && !(await row.locator('.miss').isVisible()); k++) await row.locator('.crit').tap()
    for (let k = 0; k < 6; k++)
      await row
        .locator(k % 2 ? '.miss' : '.good')
        .first()
        .tap()
  }
  const bridge = page.locator('footer .what-now').getByRole('button', { name: 'Bridge' })
  await bridge.tap()
  const task = page.locator('.court-task h2')
  await expect(task).toHaveText(stations[at].bridge)
  await expect(page.locator('.court-main')).toContainText('The bridge before ' + stations[at].name)
  const other = await device(browser, one.url, 'leila')
  await floor(other)
  await station(other, at + 1)
  await expect(other.locator('.court-task h2')).toHaveText(stations[at].bridge)
  await page.getByRole('button', { name: 'Back to ' + stations[at].name }).tap()
  await expect(task).toHaveText(stations[at].name)
  await expect(other.locator('.court-task h2')).toHaveText(stations[at].name)
  end()
  await other.context().close()
  await page.context().close()
})

test('ninety minutes without network on three phones: one is loaded again, one has a clock two hours wrong, one is closed for good and opened the next day', async ({
  browser,
}) => {
  const hour = 3_600_000
  const phone = async (who, ahead, storageState, slow = 0) => {
    const page = await (
      await browser.newContext({
        baseURL: one.url,
        viewport: { width: 390, height: 844 },
        hasTouch: true,
        storageState,
      })
    ).newPage()
    await page.addInitScript((ahead) => {
      // the phone's own clock, which a test puts forward
      const real = Date,
        add = () => ahead + Number(sessionStorage.getItem('passed') || 0)
      window.Date = class extends real {
        constructor(...at) {
          super(...(at.length ? at : [real.now() + add()]))
        }
        static now() {
          return real.now() + add()
        }
      }
    }, ahead)
    await page.addInitScript((slow) => {
      // a phone that takes its time to read what it kept
      const add = IDBOpenDBRequest.prototype.addEventListener
      IDBOpenDBRequest.prototype.addEventListener = function (what, hear, ...more) {
        add.call(this, what, what === 'success' ? (e) => setTimeout(hear, slow, e) : hear, ...more)
      }
    }, slow)
    if (!storageState) await signIn(page, who)
    return page
  }
  const lead = await phone('ines', 0),
    wrong = await phone('leila', 2 * hour),
    lost = await phone('tomasz', 0)
  const state = (page) => page.request.get('/courtside/' + session + '/state').then((r) => r.json())
  const tries = async () => {
    const sums = {}
    for (const t of (await state(lead)).tallies) sums[t.by] = (sums[t.by] || 0) + t.tries.length
    return sums
  }
  const before = await tries()
  const me = {}
  for (const page of [lead, wrong, lost]) {
    await floor(page)
    me[await page.evaluate(() => JSON.parse(document.getElementById('state').textContent).me.id)] = page
    await page.evaluate(() => navigator.serviceWorker.ready)
    await expect
      .poll(() => page.evaluate(async () => (await (await caches.open('gruppo-hall')).keys()).length), {
        timeout: 20_000,
      })
      .toBeGreaterThan(4)
  }
  const left = (page) => page.locator('.court-time').innerText()
  const seconds = (text) => text.split(':').reduce((sum, part) => 60 * sum + Number(part), 0)
  const clocks = await Promise.all([left(lead), left(wrong)])
  expect(Math.abs(seconds(clocks[0]) - seconds(clocks[1]))).toBeLessThan(3) // the wrong one shows what the hall has
  for (const page of [lead, wrong, lost]) await page.context().setOffline(true)
  for (const part of [0, 1, 2]) {
    for (const page of [lead, wrong, lost]) {
      await flashGone(page)
      await station(page, 1)
      const pad = page.locator('.mark-row[data-swipes] .good').first()
      for (let i = 0; i < 2; i++) await pad.tap()
      await page.evaluate((ms) => sessionStorage.setItem('passed', ms), ((part + 1) * hour) / 2)
    }
    if (part === 0) {
      await lead.reload()
      await expect(lead.locator('.sync')).toHaveText(/\d waiting here|no connection/) // a round may end in that half hour, and close what was begun
    }
  }
  await expect(lost.locator('.sync')).toHaveText(/\d waiting here/)
  const kept = await lost.context().storageState({ indexedDB: true })
  await lost.context().close()
  for (const page of [lead, wrong]) {
    await page.context().setOffline(false)
    await expect(page.locator('.sync')).toHaveText('in step', { timeout: 30_000 })
  }
  const gained = async (page) => {
    const [id] = Object.entries(me).find(([, p]) => p === page)
    return ((await tries())[id] || 0) - (before[id] || 0)
  }
  expect(await gained(lead)).toBe(6)
  expect(await gained(wrong)).toBe(6)
  expect(await gained(lost)).toBe(0)
  const now = (await state(lead)).now
  for (const t of (await state(wrong)).tallies) expect(Date.parse(t.at)).toBeLessThanOrEqual(now) // never two hours ahead
  // the next day, when the session has long ended by itself
  await two.stop('SIGKILL')
  await one.stop()
  one.offset += 24 * hour
  await one.start()
  const next = await phone('tomasz', 24 * hour, kept, 3000)
  await floor(next)
  if (/sign-in/.test(next.url())) {
    await signIn(next, 'tomasz')
    await floor(next)
  }
  await expect(next.locator('.sync')).toHaveText('in step', { timeout: 30_000 })
  const end = watch(next)
  await expect.poll(async () => (await state(next)).itself, { timeout: 70_000 }).toBe(true)
  const [id] = Object.entries(me).find(([, p]) => p === lost)
  const sum = async () => (await state(next)).tallies.filter((t) => t.by === id).reduce((n, t) => n + t.tries.length, 0)
  expect(await sum()).toBe((before[id] || 0) + 6)
  end()
  await next.context().close()
})
