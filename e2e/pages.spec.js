// What broke beside the path: lists filled when opened, plans without stations, sessions of another day, what everybody does, feet and yards.
import { expect, test } from './test.js'
import { bring, setUpClass, shelf, startClub } from './clubs.js'
import { accessible, signIn, watch } from './steps.js'
import { looked } from './wander.js'

// planOf plans a date of a class for one test alone.
const planOf = async (page, name, date) => {
  await page.goto('/sessions')
  const row = page.locator('li', { has: page.getByRole('heading', { name }) })
  if (!date) return row.locator('.planned a').first().getAttribute('href')
  await row.getByLabel(/^Date of the session/).fill(date)
  await row.getByRole('button', { name: 'Plan this date' }).click()
  await page.waitForURL(/sessions\/[0-9a-f]{8}/)
  return new URL(page.url()).pathname
}
// read puts a plan in a session as a file would.
const read = async (page, session, change) => {
  const file = await (await page.request.get(session + '/plan.json')).json()
  const r = await page.request.post(session + '/plan.json', {
    maxRedirects: 0,
    multipart: {
      leave: '1',
      file: {
        name: 'plan.json',
        mimeType: 'application/json',
        buffer: Buffer.from(JSON.stringify({ ...file, plan: change(file.plan) })),
      },
    },
  })
  expect(r.status()).toBe(303)
}
const phoneOf = async (browser, who = 'ines') => {
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage()
  await signIn(phone, who)
  return phone
}

test('every list that is filled when opened has every entry, and each click on one does what it says', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  await page.goto(await planOf(page, 'Saturday Shore', '2026-12-12'))
  await page.locator('.strip .bar').first().click()
  expect(await page.locator('.add-kind').allInnerTexts()).toEqual([
    'Warm-up',
    'First look',
    'One key',
    'Stations',
    'Mastery ladder',
    'Partners',
    'Intervals',
    'Run-through',
    'Game',
    'Drink break',
    'Close',
  ])
  const task = page.locator('.block-form:visible select[id^=task-]')
  await task.click()
  const has = await task.locator('option').count()
  expect(has).toBeGreaterThan(60) // the demo's drills, and none
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('.station-row summary').first().click()
  for (const id of ['drill-0', 'leader-0']) {
    const list = page.locator('#' + id),
      from = await list.getAttribute('data-options')
    await list.click()
    const all = await page.locator('#' + from).evaluate((t) => [...t.content.children].map((o) => o.value))
    expect(
      [...new Set(await list.locator('option').evaluateAll((os) => os.map((o) => o.value).filter(Boolean)))].sort(),
    ).toEqual(all.filter(Boolean).sort())
  }
  end()
})

test('on a slow network what is done while an answer is on its way is done after it: two presses are two minutes, a choice is kept', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  await page.goto(await planOf(page, 'Saturday Shore', '2026-12-26'))
  await page.route(/\/sessions\/.*\/(plan|undo)$/, async (r) => {
    await new Promise((go) => setTimeout(go, 700))
    await r.continue()
  })
  await page.locator('.strip .bar').first().click()
  const minutes = page.locator('.block-form:visible .stepper input').first()
  const was = parseInt(await minutes.inputValue())
  const more = page.getByRole('button', { name: 'Warm-up: a minute more' })
  for (let n = 0; n < 3; n++) await more.click()
  await expect(minutes).toHaveValue(String(was + 3))
  // one step is taken back, and before that is answered another block comes
  await page.getByRole('button', { name: /^Take back/ }).click()
  await page.locator('.add-kind', { hasText: 'Drink break' }).click()
  await expect(page.locator('.strip .bar[data-kind=break]')).toHaveCount(1)
  await expect(page.locator('#plan > .finding[role=alert]')).toHaveCount(0)
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.reload()
  await expect(page.locator('.strip .bar[data-kind=break]')).toHaveCount(1)
  await page.locator('.strip .bar').first().click()
  await expect(minutes).toHaveValue(String(was + 2))
  end()
})

test('a double click takes one block out and puts one in; a link waits for the edits before it, and closing the page warns of them', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  const session = await planOf(page, 'Saturday Shore', '2027-01-02')
  await page.goto(session)
  await page.locator('#propose > summary').click()
  await page.locator('#do-propose').click()
  const bars = page.locator('.strip .bar')
  await expect(bars).toHaveCount(5)
  const breaks = page.locator('.strip .bar[data-kind=break]'),
    add = page.locator('.add-kind', { hasText: 'Drink break' })
  const twice = async (button, between) => {
    const { x, y, width, height } = await button.boundingBox()
    await page.mouse.move(x + width / 2, y + height / 2)
    for (const clickCount of [1, 2]) {
      await page.mouse.down({ clickCount })
      await page.mouse.up({ clickCount })
      await page.waitForTimeout(between)
    }
  }
  for (const between of [20, 300, 450]) {
    // before and after the answer
    const n = await breaks.count()
    await add.scrollIntoViewIfNeeded()
    await twice(add, between)
    await page.waitForTimeout(600)
    await expect(breaks).toHaveCount(n + 1)
  }
  const all = await bars.count()
  await bars.nth(1).click()
  await twice(page.locator('.block-form:visible [data-do=drop-block] button'), 300)
  await page.waitForTimeout(600)
  await expect(bars).toHaveCount(all - 1)
  await expect(page.locator('#plan > .finding[role=alert]')).toHaveCount(0)

  await page.route(/\/sessions\/.*\/plan$/, async (r) => {
    await new Promise((go) => setTimeout(go, 500))
    await r.continue()
  })
  await bars.first().click()
  const minutes = page.locator('.block-form:visible .stepper input').first()
  const was = parseInt(await minutes.inputValue())
  const more = page.getByRole('button', { name: 'Warm-up: a minute more' })
  for (let n = 0; n < 3; n++) await more.click()
  await page.locator('.rail').getByRole('link', { name: 'Sessions' }).click()
  await page.waitForURL('/sessions')
  await page.goto(session)
  await bars.first().click()
  await expect(minutes).toHaveValue(String(was + 3))
  for (let n = 0; n < 2; n++) await more.click()
  const warned = page.waitForEvent('dialog')
  const gone = page.reload()
  expect((await warned).type()).toBe('beforeunload')
  await (await warned).accept()
  await gone
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  end()
})

test('a name that is pressed while its list is being filtered is followed; let go elsewhere, the list is filtered', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  await page.route(/\/roster\?/, async (r) => {
    await new Promise((go) => setTimeout(go, 400))
    await r.continue()
  })
  const pressed = async (letGo) => {
    await page.goto('/roster')
    await page.locator('#q').pressSequentially('ba')
    const name = page.getByRole('link', { name: 'BY Baran Yildiz' })
    await name.hover()
    await page.mouse.down()
    await page.waitForTimeout(1000)
    await letGo()
  }
  await pressed(() => page.mouse.up())
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Baran Yildiz')
  await pressed(async () => {
    await page.mouse.move(5, 700)
    await page.mouse.up()
  })
  await expect(page.locator('#players tbody tr')).toHaveCount(3)
  end()
})

test('what is pressed while the answer puts another in its place is pressed', async ({ page }) => {
  const end = watch(page)
  await signIn(page)
  await page.goto(await planOf(page, 'Tuesday hall'))
  await page.route(/\/sessions\/.*\/plan$/, async (r) => {
    await new Promise((go) => setTimeout(go, 300))
    await r.continue()
  })
  const work = page.getByRole('group', { name: 'Work time of Stations' }).locator('input')
  const more = page.getByRole('button', { name: 'Stations: half a minute more' })
  const was = await work.inputValue()
  await more.hover()
  for (let n = 0; n < 3; n++) {
    await page.mouse.down()
    await page.waitForTimeout(n ? 900 : 20) // the answer to the one before comes while it is held
    await page.mouse.up()
  }
  const after = (text, half) => {
    const [minutes, seconds] = text.split(' ')[0].split(':').map(Number)
    const all = minutes * 60 + seconds + 30 * half
    return `${Math.floor(all / 60)}:${String(all % 60).padStart(2, '0')}`
  }
  await expect(work).toHaveValue(after(was, 3))
  await more.click()
  await page.getByRole('tab', { name: 'Leaders' }).hover()
  await page.mouse.down()
  await page.waitForTimeout(1200)
  await page.mouse.up()
  await expect(page.getByRole('tab', { name: 'Leaders' })).toHaveAttribute('aria-selected', 'true')
  await expect(work).toHaveValue(after(was, 4))
  for (let n = 0; n < 4; n++) await page.getByRole('button', { name: 'Stations: half a minute less' }).click()
  await expect(work).toHaveValue(was)
  end()
})

test('a finger that is lifted when the answer has come presses once', async ({ browser, baseURL }) => {
  const page = await (
    await browser.newContext({ baseURL, hasTouch: true, viewport: { width: 1280, height: 800 } })
  ).newPage()
  await signIn(page)
  await page.goto(await planOf(page, 'Tuesday hall'))
  await page.route(/\/sessions\/.*\/plan$/, async (r) => {
    await new Promise((go) => setTimeout(go, 300))
    await r.continue()
  })
  const work = page.getByRole('group', { name: 'Work time of Stations' }).locator('input')
  const { x, y, width, height } = await page.getByRole('button', { name: 'Stations: half a minute more' }).boundingBox()
  const was = await work.inputValue()
  const touch = await page.context().newCDPSession(page)
  const at = { x: x + width / 2, y: y + height / 2 }
  await page.touchscreen.tap(at.x, at.y)
  await page.waitForTimeout(120)
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [at] })
  await page.waitForTimeout(420)
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await page.waitForTimeout(1500)
  await expect(work).toHaveValue(Number(was.split(':')[0]) + 1 + was.slice(was.indexOf(':')))
  for (let n = 0; n < 2; n++) await page.getByRole('button', { name: 'Stations: half a minute less' }).click()
  await expect(work).toHaveValue(was)
  await page.context().close()
})

test('two taps of a finger take one block out and put one in, at once or while the answer is on its way', async ({
  browser,
  baseURL,
}) => {
  const page = await (
    await browser.newContext({ baseURL, hasTouch: true, viewport: { width: 1280, height: 800 } })
  ).newPage()
  const end = watch(page)
  await signIn(page)
  await page.goto(await planOf(page, 'Thursday hall', '2027-01-07'))
  await page.locator('#propose > summary').tap()
  await page.locator('#do-propose').tap()
  const bars = page.locator('.strip .bar'),
    add = page.locator('.add-kind', { hasText: 'Drink break' })
  await expect(page.locator('.strip .bar.is-stations')).toHaveCount(1)
  await page.route(/\/sessions\/.*\/plan$/, async (r) => {
    await new Promise((go) => setTimeout(go, 900))
    await r.continue()
  })
  const twice = async (button, between) => {
    await button.evaluate((b) => b.scrollIntoView({ block: 'center' }))
    const { x, y, width, height } = await button.boundingBox()
    for (let n = 0; n < 2; n++) {
      await page.touchscreen.tap(x + width / 2, y + height / 2)
      await page.waitForTimeout(between)
    }
    await page.waitForTimeout(2500)
  }
  for (const between of [50, 600]) {
    const n = await bars.count()
    await twice(add, between)
    await expect(bars).toHaveCount(n + 1)
    await bars.nth(1).tap()
    await twice(page.locator('.block-form:visible [data-do=drop-block] button'), between)
    await expect(bars).toHaveCount(n)
  }
  await expect(page.locator('#plan > .finding[role=alert]')).toHaveCount(0)
  end()
  await page.context().close()
})

test('a plan without stations stays in sight while it is edited; a drill goes into a session; a ladder’s steps are inserted, ordered and dropped', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  const session = await planOf(page, 'Saturday squad', '2026-12-12')
  await page.goto(session)
  await page.locator('#propose > summary').click()
  await page.getByText('Mastery ladder', { exact: true }).first().click()
  await page.locator('#do-propose').click()
  const ladder = page.locator('.strip .bar.is-ladder').first()
  await ladder.click()
  await expect(page.locator('#propose')).not.toHaveAttribute('open')
  await page
    .locator('.block-form:visible')
    .getByRole('link', { name: /\d steps/ })
    .click()
  const steps = page.locator('.climb-steps li')
  await expect(steps.first()).toBeVisible()
  const before = await steps.count(),
    name = async (i) => (await steps.nth(i).locator('b').innerText()).replace(/^\d+ /, '')
  const first = await name(0)
  await steps.first().getByRole('button', { name: 'a step later' }).click()
  await expect.poll(() => name(1)).toBe(first)
  await page.getByLabel('after', { exact: true }).selectOption({ index: 0 })
  await page.getByLabel('Add', { exact: true }).selectOption({ label: 'Shadow' })
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(steps).toHaveCount(before + 1)
  expect(await name(1)).toBe('Shadow')
  await steps.nth(1).getByRole('button', { name: 'out of the ladder' }).click()
  await expect(steps).toHaveCount(before)
  // A way of the shelf, from first steps to match play, and each pair at its own pace: the phone has a row for each.
  await page.locator('.climb-way', { hasText: 'Show it to three' }).getByRole('button', { name: 'Take it' }).click()
  await expect(steps).toHaveCount(8)
  await page.getByLabel('They climb').selectOption('by pair')
  await expect(page.locator('.climb-together li').first()).toContainText(' and ')
  const pairs = await page.locator('.climb-together li').count()
  await accessible(page, 'a ladder')
  const phone = await phoneOf(page.context().browser())
  await phone.goto('/courtside/' + session.split('/').pop())
  await phone.getByRole('button', { name: 'Ladder', exact: true }).click()
  await expect(phone.locator('.climb')).toHaveCount(pairs)
  await phone
    .locator('.climb')
    .nth(1)
    .getByRole('button', { name: /it holds/ })
    .click()
  await expect(phone.locator('.climb').nth(1)).toContainText('2 of 8')
  await phone.reload()
  await phone.getByRole('button', { name: 'Ladder', exact: true }).click()
  await expect(phone.locator('.climb').nth(1)).toContainText('2 of 8')
  await expect(phone.locator('.climb').first()).toContainText('1 of 8')
  await phone.context().close()
  await page.goto(session)
  // A drill is put in from the shelf: the session had no stations, now it has one.
  await page.goto('/shelf')
  await page.locator('.drill-card a').first().click()
  await page.getByRole('link', { name: 'Put in a session' }).click()
  await page.getByRole('button', { name: /Put it in Saturday squad, Sat 12 Dec/ }).click()
  await expect(page).toHaveURL(session)
  await expect(page.locator('.strip .bar.is-stations')).toHaveCount(1)
  end()
})

test('the phone: another day is asked about, warm-up and key show what everybody does, back one stays open, the end leads on', async ({
  page,
  browser,
}) => {
  const end = watch(page)
  await signIn(page)
  const session = await planOf(page, 'Saturday Shore', '2026-12-19')
  await read(page, session, (p) => {
    p.blocks.find((b) => b.circuit).circuit.stations[0].target = 6
    return p
  })
  const phone = await phoneOf(browser)
  const phoneEnd = watch(phone)
  await phone.goto('/courtside/' + session.split('/').pop())
  const helperBefore = await page.request.get('/courtside/' + session.split('/').pop())
  expect(helperBefore.status()).toBe(200)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  const ask = phone.getByRole('alertdialog', { name: 'Start it now?' })
  await expect(ask).toContainText('Sat 19 Dec')
  await ask.getByRole('button', { name: 'Not yet' }).tap()
  await expect(phone.getByRole('button', { name: 'Start the session' })).toBeVisible()
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await ask.getByRole('button', { name: 'Start it now' }).tap()
  const flash = async () => {
    if (await phone.locator('.court-flash').isVisible())
      await phone
        .locator('.court-flash')
        .click({ timeout: 3000 })
        .catch(() => {})
  }
  // What everybody does now is in front; the stations come with their round.
  const blocks = await (await phone.request.get(`/courtside/${session.split('/').pop()}/state`)).json()
  for (const s of blocks.segments.slice(0, 6)) {
    await flash()
    await expect(phone.locator('.court-now b')).toBeVisible()
    const task = blocks.tasks.find((t) => t.block === s.block)
    if (s.what !== 'stations' && s.what !== 'look' && task)
      await expect(phone.locator('.court-task h2')).toHaveText(task.name)
    if (s.what === 'stations') await expect(phone.locator('.court-task h2')).toHaveText(blocks.stations[0].name)
    for (const under of await phone.locator('.pad-figure span').allInnerTexts())
      expect(under).not.toMatch(/^of 0$|, to 0/)
    await expect(phone.locator('details:visible p:empty')).toHaveCount(0)
    await phone.getByRole('button', { name: /^(Next|Change) now$/ }).tap()
  }
  await flash()
  await expect(phone.locator('.court-tabs button[aria-label^="Station 1"]')).toBeVisible()
  await phone.locator('.court-tabs button[aria-label^="Station 1"]').tap()
  await expect(phone.locator('.court-task')).toContainText('the drill says')
  await phone.getByRole('button', { name: 'More: sound, skip, helpers, end' }).tap()
  const name = await phone.locator('.court-now b').innerText()
  await phone.getByRole('button', { name: 'Back one' }).tap()
  await expect(phone.getByRole('button', { name: 'Back one' })).toBeVisible()
  await flash()
  await expect(phone.locator('.court-now b')).not.toHaveText(name)
  expect(Number(await phone.locator('.court-bar .done').getAttribute('width'))).toBeLessThan(10)
  await phone.getByRole('button', { name: 'End the session' }).first().tap()
  await phone.getByRole('button', { name: 'End it' }).tap()
  await phone.getByRole('link', { name: 'What happened' }).tap()
  await expect(phone.getByRole('heading', { name: 'Register' })).toBeVisible()
  await phone.goBack()
  await expect(phone.getByRole('link', { name: 'What happened' })).toBeVisible()
  phoneEnd()
  end()
})

test('the sign of being offline is seen, and Today’s lists and the kit list keep their own look', async ({
  page,
  browser,
}) => {
  await signIn(page)
  const session = await planOf(page, 'Tuesday hall')
  const phone = await phoneOf(browser)
  await phone.goto('/courtside/' + session.split('/').pop())
  await phone.context().setOffline(true)
  await phone.evaluate(() => dispatchEvent(new Event('offline')))
  await expect(phone.locator('.sync')).toHaveText('no connection')
  await expect(phone.locator('.sync')).toBeVisible()
  await phone.context().setOffline(false)
  await page.goto('/')
  for (const list of await page.locator('.back-list').all())
    expect(await list.evaluate((e) => getComputedStyle(e).backgroundColor)).toBe('rgba(0, 0, 0, 0)')
  await page.goto(session + '/print/kit')
  expect(
    await page
      .locator('.to-tick')
      .first()
      .evaluate((e) => getComputedStyle(e).boxShadow),
  ).toBe('none')
})

test('three hundred letters without a space widen no page: a search, a place, a note on the phone', async ({
  browser,
}) => {
  const word = 'x'.repeat(300)
  const fits = async (page) =>
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0)
  const open = async (viewport) => {
    const context = await browser.newContext({ viewport })
    const page = await context.newPage()
    await signIn(page)
    return page
  }
  const laptop = await open({ width: 1280, height: 800 })
  await laptop.goto('/shelf?q=' + word)
  await expect(laptop.locator('main')).toContainText(word.slice(0, 40))
  await fits(laptop)
  await laptop.goto('/sessions')
  const plan = await laptop
    .locator('li', { has: laptop.getByRole('heading', { name: 'Tuesday hall' }) })
    .locator('.planned a')
    .first()
    .getAttribute('href')
  await laptop.goto(plan)
  await laptop.getByRole('tab', { name: 'Stations' }).click()
  await laptop.locator('#station-0 > summary').click()
  const place = laptop.locator('#station-0 form[data-place] input').first()
  await place.fill(word)
  await place.press('Enter')
  await expect(laptop.locator('#plan > .finding[role=alert]')).toContainText('is not a length')
  await fits(laptop)
  const phone = await open({ width: 390, height: 844 })
  await phone.goto('/courtside/' + plan.split('/').pop())
  await phone.getByRole('button', { name: /^Station 1/ }).click()
  await phone
    .getByRole('button', { name: /: notes/ })
    .first()
    .click()
  await phone.getByPlaceholder('A few words').first().fill(word)
  await phone.getByPlaceholder('A few words').first().press('Enter')
  await expect(phone.locator('.lately', { hasText: word.slice(0, 40) }).first()).toBeVisible()
  await fits(phone)
  await phone.goto('/marks')
  const list = phone.locator('.marks-list').filter({ has: phone.locator('summary') })
  for (const cell of (await phone.locator('td button').all()).slice(0, 12)) {
    await cell.click()
    await expect(phone.locator('.marks-list')).toBeVisible()
    if (await list.isVisible()) break
    await phone.keyboard.press('Escape')
  }
  await list.locator('summary').first().click()
  await phone.getByLabel('Why?').first().fill(word.slice(0, 200))
  await phone.getByLabel('Why?').first().press('Enter')
  await expect(phone.locator('.marks-list')).toContainText('struck out: ' + word.slice(0, 40))
  const right = await phone.locator('.marks-list').evaluate((e) => e.getBoundingClientRect().right)
  expect(right).toBeLessThanOrEqual(390) // its other marks can be struck out too
  await laptop.context().close()
  await phone.context().close()
})

test('a club of long words: every page is as wide as a phone', async ({ browser }) => {
  test.setTimeout(240_000)
  const word = (n) => 'x'.repeat(n)
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const page = await context.newPage()
  await startClub(page, { club: word(40), program: word(40), family: 'Net and racket games', lead: word(40) })
  await bring(page, 'Name\tStage\n' + [1, 2, 3, 4].map((i) => `${word(40)}${i} ${word(30)}\tFirst rallies`).join('\n'))
  await shelf(page)
  const plan = await setUpClass(page, { name: word(50), length: '60', width: '40' })
  await page.goto(plan)
  await page.locator('#do-propose').click()
  await expect(page.locator('#plan .station-row').first()).toBeAttached()
  // a theme and a test of the day, and what says that they were made
  await page.goto('/season/tests/new')
  await page.getByLabel('Called').fill(word(40))
  await page.getByLabel('Measure').fill(word(40))
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.waitForURL(/\/tests\/[0-9a-f-]{36}/)
  await page.goto('/season')
  await page.getByLabel('The theme in your own words').fill(word(40))
  await page.getByRole('radio', { name: 'own words' }).check({ force: true })
  await page.locator('button.season-day', { hasText: 'planned' }).first().click()
  await expect(page.locator('#undo .toast')).toBeVisible()
  expect.soft(await page.evaluate(looked), 'a theme was put on a day').toEqual([])
  // one page of each kind that a link leads to
  const kind = (at) => at.replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, '…').replace(/=[^&]*/g, '')
  const met = new Set(),
    ahead = ['/', plan, '/roster/new', '/shelf/new']
  while (ahead.length) {
    const at = ahead.shift()
    if (met.has(kind(at)) || /\.(svg|json|csv|xlsx|ics)|download|\/stairs\/ladder\//.test(at)) continue
    met.add(kind(at))
    await page.goto(at)
    expect.soft(await page.evaluate(looked), at).toEqual([])
    const links = await page
      .locator('a[href^="/"]:not([download])')
      .evaluateAll((all) => all.map((a) => a.getAttribute('href')))
    ahead.push(...links.map((l) => l.split('#')[0]))
  }
  expect(met.size).toBeGreaterThan(45)
  // in the hall too, with all that there is more
  await page.goto(plan.replace('sessions', 'courtside'))
  await page.getByRole('button', { name: /^More/ }).click()
  await expect(page.getByRole('link', { name: word(40), exact: true })).toBeVisible()
  expect(await page.evaluate(looked)).toEqual([])
  await context.close()
})
