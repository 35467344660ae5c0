// The planner in the demo's Tuesday hall: propose, pin, drag, shorten, mend, lose somebody, print, and again on a phone.
import { expect, test } from './test.js'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { accessible, signIn, watch } from './steps.js'

test.describe.configure({ mode: 'serial' })
let page, end, plan

test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  end = watch(page)
  await signIn(page)
  await page.goto('/sessions')
  plan = await page
    .locator('li', { has: page.getByRole('heading', { name: 'Tuesday hall' }) })
    .locator('.planned a')
    .first()
    .getAttribute('href')
  await page.goto(plan)
})
test.afterAll(async () => {
  end()
  await page.close()
})

const drills = () => page.locator('.floor .station > title').allTextContents()
const place = (i) => page.locator('#spot-' + i).getAttribute('data-place')
const version = () => page.locator('#plan').getAttribute('data-version')
const changed = async (was) => expect(page.locator('#plan')).not.toHaveAttribute('data-version', was)
const drag = async (target, dx, dy) => {
  const b = await target.boundingBox()
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2)
  await page.mouse.down()
  await page.mouse.move(b.x + b.width / 2 + dx, b.y + b.height / 2 + dy, { steps: 5 })
  await page.mouse.up()
}

test('a plan is proposed, one drill is pinned, and again changes the others', async () => {
  await page.locator('#propose summary').click()
  await page.getByLabel('Station circuit').check()
  await page.getByLabel('For', { exact: true }).selectOption('what they lack')
  await page.getByRole('button', { name: 'Propose it' }).click()
  await expect(page.locator('#propose summary')).toHaveText(/Station circuit/)
  await expect(page.locator('.finding.is-stop')).toHaveCount(0)
  await expect(page.locator('.ledger tbody tr')).toHaveCount(17)
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('#station-1 > summary').click()
  await expect(page.locator('#station-1 .small').first()).not.toBeEmpty() // why
  await page.locator('#pin-station-1').click()
  await expect(page.locator('#pin-station-1')).toHaveAttribute('aria-pressed', 'true')
  const before = await drills()
  let other = before
  for (let i = 0; i < 4 && String(other) === String(before); i++) {
    const was = await version()
    await page.locator('#propose summary').click()
    await page.locator('#do-propose').click()
    await changed(was)
    other = await drills()
    expect(other[1]).toBe(before[1])
  }
  expect(other).not.toEqual(before)
  // What is kept is chosen one after another: the panel stays.
  await expect(page.locator('#propose summary')).toBeFocused()
  await page.locator('#propose summary').click()
  for (const pressed of ['true', 'false'])
    for (const what of ['the leaders', 'the times']) {
      const pin = page.getByRole('button', { name: what })
      await pin.press('Enter')
      await expect(pin).toHaveAttribute('aria-pressed', pressed)
      await expect(pin).toBeFocused()
    }
  await page.keyboard.press('Escape')
  await accessible(page, 'planner')
})

test('three proposals that differ, side by side: one is taken, a station pinned, and three more keep it', async () => {
  await page.goto(plan)
  await page.locator('#propose summary').click()
  await page.locator('.shape-choice', { hasText: 'Station circuit' }).click()
  await page.locator('#aim').selectOption({ label: 'passing' })
  await page.getByRole('button', { name: 'Three to choose from' }).click()
  const offers = page.locator('.offer')
  await expect(offers).toHaveCount(3)
  await expect(offers.locator('h2').first()).toHaveText('Most tries')
  const each = (await offers.locator('dd').evaluateAll((d) => d.map((x) => Number.parseInt(x.textContent)))).filter(
    (_, i) => i % 6 === 0,
  )
  expect(Math.max(...each)).toBe(each[0]) // and it is true
  const lists = await offers.locator('ol').allInnerTexts()
  expect(new Set(lists).size, 'they differ').toBe(3)
  await accessible(page, 'three proposals')
  const active = await offers.first().locator('dd').nth(1).innerText()
  await offers.first().getByRole('button', { name: 'Take this one' }).click()
  await expect(page.locator('#plan')).toBeVisible()
  await expect(page.locator('main')).toContainText(active + ' active') // the very plan that was shown
  await page.getByRole('tab', { name: 'Stations' }).click()
  const name = await page.locator('#station-0 > summary b').nth(1).innerText()
  await page.locator('#station-0 > summary').click()
  await page.locator('#pin-station-0').click()
  await expect(page.locator('#pin-station-0')).toHaveAttribute('aria-pressed', 'true')
  await page.locator('#propose summary').click()
  await page.getByRole('button', { name: 'Three to choose from' }).click()
  await expect(offers).toHaveCount(3)
  for (const words of await offers.locator('ol').allInnerTexts()) expect(words).toContain(name)
  await page.getByRole('link', { name: 'Back to the plan' }).click()
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('#station-0 > summary').click()
  await page.locator('#pin-station-0').click() // as it was, for what comes next
  await expect(page.locator('#pin-station-0')).toHaveAttribute('aria-pressed', 'false')
})

test('a tab that was open is filled when the page is loaded again, and one opened before the page’s script has come', async () => {
  const criteria = page.locator('#criteria')
  const filled = () => expect(criteria).toContainText('Can be marked')
  await page.getByRole('tab', { name: 'Criteria' }).click()
  await filled()
  await page.reload()
  await filled()
  await page.context().clearCookies({ name: 'tab-plan' })
  await page.route('**/client/plan*.js', (r) => setTimeout(() => r.continue(), 500))
  await page.goto(plan, { waitUntil: 'commit' })
  await expect(page.getByRole('tab', { selected: true })).toHaveCount(1) // the tabs can be pressed
  await page.getByRole('tab', { name: 'Criteria' }).click()
  await filled()
  await page.unroute('**/client/plan*.js')
  await page.route('**/sessions/*/plan', (r) => setTimeout(() => r.continue(), 500)) // a tab chosen while a change is on its way stays open
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('#change-more').click()
  await page.getByRole('tab', { name: 'Kit' }).click()
  await page.waitForResponse('**/sessions/*/plan')
  await expect(page.locator('#kit')).toContainText('cone')
  await expect(page.getByRole('tab', { name: 'Kit' })).toHaveAttribute('aria-selected', 'true')
  await page.unroute('**/sessions/*/plan')
  await page.getByRole('tab', { name: 'Ledger' }).click()
  await expect(page.locator('.ledger tbody tr')).toHaveCount(17) // it came anew
})

test('a station is dragged, sized and turned, by pointer, keys and form, and the others stay', async () => {
  const rest = await Promise.all([1, 2].map(place))
  let was = await version()
  await drag(page.locator('#spot-0 .spot'), 40, 12)
  await changed(was)
  const [x, y] = (await place(0)).split(' ').map(Number)
  expect([x * 2, y * 2].every(Number.isInteger) || [0, 6, 9, 20].includes(x)).toBe(true) // half metres, or a line
  expect(await Promise.all([1, 2].map(place))).toEqual(rest)
  was = await version()
  await page.locator('#spot-0').focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await changed(was)
  await expect.poll(async () => Number((await place(0)).split(' ')[1])).toBe(y + 1)
  await expect(page.locator('#spot-0')).toBeFocused()
  was = await version()
  await page.keyboard.press('r')
  await changed(was)
  const [, , turn, l, w] = (await place(0)).split(' ').map(Number)
  was = await version()
  await page.keyboard.press('Shift+ArrowRight')
  await changed(was)
  expect((await place(0)).split(' ').map(Number).slice(2)).toEqual([turn, l + 0.5, w])
  await page.keyboard.press('Enter')
  await page.getByLabel('Station 1, metres from the left').fill('far')
  await page.locator('#station-0').getByRole('button', { name: 'Put there' }).click()
  await expect(page.getByRole('alert').filter({ hasText: '"far" is not a length.' })).toBeVisible()
  await expect(page.getByLabel('Station 1, metres from the left')).toHaveValue('far') // nothing typed is lost
  await expect(page.locator('#station-0 .help.is-danger')).toHaveText('"far" is not a length.')
  await page.getByLabel('Station 1, metres from the left').fill('1.5')
  await page.locator('#station-0').getByRole('button', { name: 'Put there' }).click()
  await expect.poll(async () => (await place(0)).split(' ')[0]).toBe('1.5')
})

test('on the Strip blocks are moved, shortened, split and put in, and the wall says what gives', async () => {
  const bars = page.locator('.strip .bar')
  const minutes = async (name) => Number(await bars.filter({ hasText: name }).first().getAttribute('data-minutes'))
  // By pointer: the game's edge.
  const game = bars.filter({ hasText: 'Game' })
  const long = await minutes('Game')
  let was = await version()
  await drag(game.locator('.edge-grip'), 80, 0)
  await changed(was)
  expect(await minutes('Game')).toBeGreaterThan(long + 4)
  await expect(page.locator('.beyond')).toBeVisible()
  const time = page.locator('.finding.is-stop', { hasText: 'over the booked time' })
  await expect(time.getByRole('button')).not.toHaveCount(0)
  // One mend, taken back and done again by keys.
  was = await version()
  await time.getByRole('button').first().click()
  await changed(was)
  await expect(time).toHaveCount(0)
  await page.locator('h1').click()
  await page.keyboard.press('u')
  await expect(time).toHaveCount(1)
  await page.keyboard.press('y')
  await expect(time).toHaveCount(0)
  // By keys: shorter, later and earlier, split.
  const key = bars.filter({ hasText: 'One k' }).first()
  await key.focus()
  const short = Number(await key.getAttribute('data-minutes'))
  was = await version()
  await page.keyboard.press('[')
  await changed(was)
  await expect(key).toHaveAttribute('data-minutes', String(short - 1))
  const order = () => bars.evaluateAll((all) => all.map((b) => b.dataset.kind).join())
  const first = await order()
  was = await version()
  await page.keyboard.press('Alt+ArrowLeft')
  await changed(was)
  expect(await order()).not.toBe(first)
  was = await version()
  await page.keyboard.press('Alt+ArrowRight')
  await changed(was)
  expect(await order()).toBe(first)
  const count = await bars.count()
  await page.locator('.bar.is-stations').focus()
  await page.keyboard.press('s')
  await expect(page.getByLabel('Split after')).toBeFocused()
  await page.getByLabel('Split after').selectOption('round 2')
  await expect(bars).toHaveCount(count + 1)
  await page.keyboard.press('Escape')
  await page.locator('.bar.is-stations').first().focus()
  was = await version()
  await page.keyboard.press('i') // to the small set above the Strip
  await expect(page.getByRole('button', { name: 'Warm-up', exact: true })).toBeFocused()
  await page.getByRole('button', { name: 'Drink break', exact: true }).press('Enter')
  await changed(was)
  await expect(page.locator('.bar.is-break')).toHaveCount(1)
  // The rounds shorter.
  await page.locator('.bar.is-stations').first().click() // the break is the chosen one now
  was = await version()
  await page.getByRole('button', { name: 'Stations: half a minute less' }).click()
  await changed(was)
  // The middle of a block moves it.
  was = await version()
  await drag(page.locator('.bar.is-break > rect').first(), -420, 0)
  await changed(was)
  expect((await order()).indexOf('break')).toBeLessThan((await order()).indexOf('stations'))
})

test('the whole class at a glance: four groups and eight, on a laptop, a wide screen and a phone, by keys alone; a block is dragged in', async () => {
  await page.goto(plan)
  // A shape that is dragged onto the clock stands where it was dropped; beside it nothing happens.
  const kinds = () => page.locator('.bar').evaluateAll((bars) => bars.map((b) => b.dataset.kind))
  const before = await kinds(),
    was = await version()
  const chip = await page.getByRole('button', { name: 'Partners', exact: true }).boundingBox()
  const dropAt = async (x, y) => {
    await page.mouse.move(chip.x + 20, chip.y + 10)
    await page.mouse.down()
    await page.mouse.move(x, y, { steps: 6 })
    await page.mouse.up()
  }
  await dropAt(chip.x, chip.y + 500)
  const game = await page.locator('.bar.is-game').boundingBox()
  await dropAt(game.x + 6, game.y + 20)
  await changed(was)
  const at = before.indexOf('game')
  expect(await kinds()).toEqual([...before.slice(0, at), 'pairs', ...before.slice(at)])
  await expect(page.locator('.block-title:visible')).toHaveValue('Partners') // and is the one that is set up next
  await page.getByRole('button', { name: /^Take back/ }).click()
  await expect(page.locator('.bar')).toHaveCount(before.length)

  const fits = async (what) => {
    await page.evaluate(() => document.fonts.ready)
    const over = await page.evaluate(() => {
      const frame = [...document.querySelectorAll('.floor, .strip, .side, .findings')].map((e) =>
        e.getBoundingClientRect(),
      )
      return {
        page: document.documentElement.scrollHeight - innerHeight,
        wide: document.documentElement.scrollWidth - innerWidth,
        low: Math.max(...frame.map((r) => r.bottom)) - innerHeight,
        floor: document.querySelector('.floor-map').getBoundingClientRect().height > 200,
        words: [...document.querySelectorAll('.visit')].filter((v) =>
          [...v.querySelectorAll('text')].some(
            (t) => t.getBBox().x + t.getBBox().width > v.querySelector('rect').getBBox().x + v.getBBox().width + 1,
          ),
        ).length,
      }
    })
    expect(over, what).toEqual({ page: 0, wide: 0, low: expect.any(Number), floor: true, words: 0 })
    expect(over.low, what).toBeLessThanOrEqual(0)
  }
  await fits('four groups at 1280')
  await page.setViewportSize({ width: 1920, height: 1080 })
  await fits('four groups at 1920')
  // By keys: to the block, to its groups, and the ledger opens wide.
  await page.locator('.bar.is-stations').first().focus()
  const more = page.getByRole('button', { name: 'Stations: one group more' })
  for (let groups = 5; groups <= 8; groups++) {
    await more.focus()
    await page.keyboard.press('Enter')
    await expect(page.locator('.group-row')).toHaveCount(groups)
  }
  await fits('eight groups at 1920')
  await page.setViewportSize({ width: 1280, height: 800 })
  await fits('eight groups at 1280')
  await page.locator('#wide').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('columnheader', { name: 'Seen by' })).toBeVisible()
  await expect(page.locator('.floor')).toBeHidden()
  await page.keyboard.press('Enter')
  await expect(page.locator('.floor')).toBeVisible()
  // Before the stations the groups stand at the edge, and on no station's name.
  await page.locator('.bar').first().focus()
  const edge = await page.locator('.floor-map .sand').boundingBox()
  for (const group of await page.locator('.tokens').all())
    await expect.poll(async () => (await group.boundingBox()).y).toBeGreaterThan(edge.y + edge.height - 6)
  // On a phone it is read first.
  await page.setViewportSize({ width: 390, height: 844 })
  await expect(page.locator('.plan-read')).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBe(0)
  await page.locator('#edit-plan').focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('.strip')).toBeVisible()
  await accessible(page, 'the plan on a phone')
  await page.setViewportSize({ width: 1280, height: 800 })
  for (let groups = 7; groups >= 4; groups--) {
    await page.getByRole('button', { name: /^Take back/ }).click()
    await expect(page.locator('.group-row')).toHaveCount(groups)
  }
})

test('a change is on screen within a tenth of a second of the key, as the browser sees it', async () => {
  // Measured and printed, not judged here: a loaded machine would fail what a free one passes.
  const times = []
  for (let i = 0; i < 20; i++) {
    const was = await version()
    times.push(
      await page.evaluate(
        ([was, which]) =>
          new Promise((done) => {
            const t = performance.now()
            const see = new MutationObserver(() => {
              if (document.querySelector('#plan')?.dataset.version !== was) {
                see.disconnect()
                requestAnimationFrame(() => done(performance.now() - t))
              }
            })
            see.observe(document.querySelector('#main'), { childList: true })
            document.querySelector('[id^=work-' + which + ']').click()
          }),
        [was, i % 2 ? 'more' : 'less'],
      ),
    )
  }
  times.sort((a, b) => a - b)
  console.log(
    `edited view on screen: p50 ${times[10].toFixed(0)} ms, p95 ${times[18].toFixed(0)} ms, most ${times[19].toFixed(0)} ms`,
  )
  expect(times[0]).toBeGreaterThan(0)
})

test('what if Bea leaves and a child is absent: shown, then taken, in one step that can be taken back', async () => {
  await page.getByRole('link', { name: 'What if…' }).click()
  await page.getByLabel('Aino Laine').check()
  await page.getByLabel('A leader leaves').selectOption('Bea Lindqvist')
  await page.getByLabel('Leaves after how many minutes').fill('50')
  await page.getByRole('button', { name: 'Show what changes' }).click()
  await expect(
    page.getByRole('heading', { name: 'If Aino Laine is not there and Bea Lindqvist leaves at 18:50' }),
  ).toBeVisible()
  await accessible(page, 'what if')
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.locator('.head > p')).toContainText('16 of 19 coming')
  await page.getByRole('tab', { name: 'Leaders' }).click()
  await expect(page.locator('#leaders')).toContainText('leaves at 18:50')
})

test('the cards are printed four to a sheet, with everything a helper needs and nothing about a child', async () => {
  const names = await drills()
  for (const paper of ['cards', 'pairings', 'turns', 'teams', 'kit']) {
    await page.goto(plan + '/print/' + paper)
    await accessible(page, paper)
  }
  await page.goto(plan + '/print/cards')
  const pdf = await getDocument({ data: new Uint8Array(await page.pdf({ format: 'A4', printBackground: true })) })
    .promise
  let text = ''
  for (let i = 1; i <= pdf.numPages; i++)
    text += (await (await pdf.getPage(i)).getTextContent()).items.map((it) => it.str).join(' ') + '\n'
  text = text.replace(/\s+/g, ' ')
  expect(pdf.numPages).toBe(Math.ceil(names.length / 4))
  for (const name of names) expect(text).toContain(name.replace(/\s+/g, ' '))
  for (const words of ['Who comes', 'Count', 'first aid', 'local law come first']) expect(text).toContain(words)
  for (const child of ['Tove', 'Nygaard', 'Bo Lindahl']) expect(text).not.toContain(child)
  await page.goto(plan + '/print')
  const sheet = await getDocument({ data: new Uint8Array(await page.pdf({ format: 'A4' })) }).promise
  expect(sheet.numPages).toBe(1)
  const svg = await page.request.get(plan + '/floor.svg')
  expect(svg.headers()['content-type']).toContain('image/svg+xml')
  const blank = await page.context().newPage() // outside the program's own policy, as a file is
  expect(
    await blank.evaluate(
      (s) => new DOMParser().parseFromString(s, 'image/svg+xml').querySelector('parsererror')?.textContent ?? '',
      await svg.text(),
    ),
  ).toBe('')
  await blank.close()
  await page.goto(plan)
})

test('the plan is saved as a file, read into another session, and copied to another date', async () => {
  const names = await drills()
  const file = page.waitForEvent('download')
  await page.locator('summary', { hasText: 'Print' }).click()
  await page.getByRole('link', { name: 'Plan as a file' }).click()
  const path = await (await file).path()
  await page.goto('/sessions')
  await page
    .locator('li', { has: page.getByRole('heading', { name: 'Thursday hall' }) })
    .locator('.planned a')
    .first()
    .click()
  const thursday = await drills()
  await page.getByRole('link', { name: /^More: copy/ }).click()
  await accessible(page, 'plans in and out')
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('Choose a plan file first.')).toBeVisible()
  await page.getByLabel('Plan file').setInputFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format": "gruppo-plan", "version": 1, "plan": {'),
  })
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('it breaks off or is damaged at line 1', { exact: false })).toBeVisible()
  await page.getByLabel('Plan file').setInputFiles(path)
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect.poll(drills).toEqual(names)
  await page.getByRole('button', { name: /^Take back/ }).click()
  await expect.poll(drills).toEqual(thursday)
  await page.goto(plan + '/more')
  await page.getByLabel('To', { exact: true }).selectOption('Saturday Shore')
  await page.getByLabel('On', { exact: true }).fill('2026-12-12')
  await page.getByRole('button', { name: 'Copy it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Saturday Shore')
  await expect(page.locator('.findings')).toContainText('no such place left on the floor') // a gym is not a hall
  await page.goto(plan)
})

test('two classes in one hall: the zones that are booked keep them apart', async () => {
  await page.goto('/sessions')
  await page.getByRole('link', { name: 'Sea Hall A' }).last().click()
  await accessible(page, 'a place')
  await page.getByLabel('zone 3: Name').fill('sea half')
  await page.getByLabel('zone 3: long').fill('60')
  await page.getByLabel('zone 3: wide').fill('5')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('There are two zones of this name.')).toBeVisible()
  await expect(page.getByText('The zone reaches beyond the floor of 40 × 20 m.')).toBeVisible()
  await expect(page.getByLabel('zone 3: long')).toHaveValue('60')
  // A second class at the same time in the same hall.
  await page.goto('/sessions/class/new')
  await page.getByLabel('Name', { exact: true }).fill('Tuesday late comers')
  await page.getByLabel('Weekday').selectOption('Tuesday')
  await page.getByLabel('Starts at').fill('19:00')
  await page.getByLabel('Place', { exact: true }).selectOption('Sea Hall A, only town half')
  for (const tick of await page.locator('input[name=player]:checked').all()) await tick.uncheck()
  await page.getByRole('button', { name: 'Set it up' }).click()
  const late = page.locator('li', { has: page.getByRole('heading', { name: 'Tuesday late comers' }) })
  await late.getByRole('button', { name: 'Plan this date' }).click()
  await expect(page.locator('.findings')).toContainText('Tuesday hall has this place from 18:00 to 19:30')
  await page.goto(plan)
  await expect(page.locator('.findings')).toContainText('Tuesday late comers has this place from 19:00')
  // The hall moves into the other half, and both fit.
  await page.getByRole('link', { name: 'What if…' }).click()
  await page.getByLabel('Moved to').selectOption('Sea Hall A, sea half')
  await page.getByRole('button', { name: 'Show what changes' }).click()
  await expect(page.getByRole('heading', { name: 'If moved to Sea Hall A, sea half' })).toBeVisible()
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.locator('.floor .zone')).toHaveCount(1)
  await expect(page.locator('.findings')).not.toContainText('has this place')
  await page.getByRole('button', { name: /^Take back/ }).click()
  await expect(page.locator('.floor .zone')).toHaveCount(0)
  // What the club has.
  await page.goto('/sessions/kit')
  await accessible(page, 'kit')
  await page.getByLabel('Kit 1: how many').fill('lots')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('How many: a whole number', { exact: false })).toBeVisible()
  await expect(page.getByLabel('Kit 1: how many')).toHaveValue('lots')
  await page.goto(plan)
})

test('the same on a phone: propose, shorten, mend and take back', async ({ browser }) => {
  const phone = await (
    await browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      isMobile: true,
      storageState: await page.context().storageState(),
    })
  ).newPage()
  const fine = watch(phone)
  await phone.goto(plan)
  await phone.locator('#propose summary').tap()
  await phone.getByLabel('Pairs practice').check()
  await phone.locator('#do-propose').tap()
  await expect(phone.locator('#propose summary')).toHaveText(/Pairs practice/)
  await expect(page.locator('#propose summary')).toHaveText(/Pairs practice/) // the laptop sees it
  await accessible(phone, 'planner on a phone')
  await expect(phone.locator('.plan-read')).toContainText('With a partner') // it is read first
  await expect(phone.locator('.strip')).toBeHidden()
  await phone.getByRole('button', { name: 'Change the plan' }).tap()
  await phone.locator('.bar.is-pairs').first().tap()
  await phone.locator('[data-block-form]:visible').getByRole('link', { name: 'Pairings' }).tap()
  await expect(phone.getByRole('heading', { name: 'Who meets whom' })).toBeVisible()
  await accessible(phone, 'pairings on a phone')
  await phone.goBack()
  await phone.getByRole('button', { name: /^Take back/ }).tap()
  await expect(phone.locator('#propose summary')).toHaveText(/Station circuit/)
  await phone.getByRole('button', { name: 'Only read it' }).tap()
  await phone.locator('#spot-0').tap() // a station that is tapped is changed
  await expect(phone.locator('#station-0')).toHaveAttribute('open', '')
  await phone.goto(plan + '/what-if')
  await accessible(phone, 'what if on a phone')
  fine()
  await phone.context().close()
})
