// One class all the way, in a new club: roster, stages, plan, hall, marks, step up.
import { expect, test } from './test.js'
import { accessible, watch } from './steps.js'
import { register } from './hall.js'

test.describe.configure({ mode: 'serial' })

const list = `\ufeffName;Born;Stage;Side;Keep with;Keep apart
Amal Rahmani;2015;First steps;right;Bruno Keel;
Bruno Keel;2015;First steps;left;;
Chiara Lott;2014;First steps;right;;Dov Arens
Dov Arens;2016;First steps;right;;
Eirik Strand;2015;First steps;;;
Fumiko Ota;2014;First steps;;;
Goran Ilic;2044;First steps;;;
مريم نوري;2015;First steps;;;
Ivana Pek;2015;First Moon;;;
`

let lead, phone, end
test.beforeAll(async ({ browser }) => {
  lead = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  end = watch(lead)
})
test.afterAll(() => end())

const box = (name) => lead.getByLabel(name, { exact: true })

test('a club is started and says what to do first', async () => {
  await lead.goto('/sign-in')
  await accessible(lead, 'sign-in')
  await lead.getByRole('link', { name: 'Start a club' }).click()
  await lead.getByRole('button', { name: 'Start the club' }).click()
  await expect(lead.getByText('What is your club or school called?')).toBeVisible()
  await box('Club or school').fill('Harbour Lights')
  await box('Sport or activity').fill('Ball games')
  await box('Your name').fill('Petra Quill')
  await box('E-mail').fill('petra@harbour.example')
  await box('Password').fill('short')
  await box('Time zone').fill('Europe/Lisbon')
  await lead.getByRole('button', { name: 'Start the club' }).click()
  await expect(lead.getByText('At least 10 characters; a short sentence is good.')).toBeVisible()
  await expect(lead.getByText('Which of these comes nearest?')).toBeVisible()
  await lead.getByRole('radio', { name: 'Ball games' }).check()
  await expect(box('Club or school')).toHaveValue('Harbour Lights')
  await accessible(lead, 'start a club')
  await box('Password').fill('a boat in the rain')
  await lead.getByRole('button', { name: 'Start the club' }).click()
  await expect(lead.getByText('Four steps to the first whistle')).toBeVisible()
  await accessible(lead, 'first steps')
})

test('a list becomes the roster, once', async () => {
  await lead.getByRole('link', { name: 'Bring your players' }).click()
  await accessible(lead, 'import')
  await lead
    .getByLabel('Drop a file here, or choose one')
    .setInputFiles({ name: 'players.csv', mimeType: 'text/csv', buffer: Buffer.from(list) })
  await lead.getByRole('button', { name: 'Look it over' }).click()
  await expect(lead.getByText('2044 has not come yet.')).toBeVisible()
  await expect(lead.getByText('No stage is called First Moon', { exact: false })).toBeVisible()
  await expect(lead.getByRole('button', { name: 'Add 7 players, leave 2 bad lines' })).toBeVisible()
  await accessible(lead, 'import preview')
  await lead.getByLabel('Birth year, line 8').fill('2014')
  await lead.getByLabel('Stage, line 10').fill('First steps')
  await lead.getByRole('button', { name: 'Look again' }).click()
  await lead.getByRole('button', { name: 'Add 9 players' }).click()
  await expect(lead.getByText('9 players', { exact: true })).toBeVisible()
  await expect(lead.getByRole('row', { name: /مريم نوري/ })).toBeVisible()
  await expect(lead.getByRole('row', { name: /^BK Bruno Keel/ })).toContainText('with Amal Rahmani')
  await accessible(lead, 'roster')
  // The same list again, with the corrections, changes nothing.
  await lead.goto('/roster/import')
  await lead.getByLabel('Or paste the rows').fill(list.replace('2044', '2014').replace('First Moon', 'First steps'))
  await lead.getByRole('button', { name: 'Look it over' }).click()
  await expect(lead.getByText('9 stay as they are')).toBeVisible()
  await expect(lead.getByText('Nothing to take.')).toBeVisible()
  // One by one, wrong first.
  await lead.goto('/roster/new')
  await box('Shown name').fill('Jules Vane')
  await box('Keep with').fill('Nobody Here')
  await lead.getByRole('button', { name: 'Add the player' }).click()
  await expect(lead.getByText('Nobody in the roster is called Nobody Here.', { exact: false })).toBeVisible()
  await accessible(lead, 'player form')
  await expect(box('Shown name')).toHaveValue('Jules Vane')
  await box('Keep with').fill('Eirik Strand')
  await lead.getByRole('button', { name: 'Add the player' }).click()
  await expect(lead.getByRole('status')).toContainText('Added Jules Vane')
  await expect(lead.getByText('10 players', { exact: true })).toBeVisible()
  await lead.getByRole('button', { name: 'Undo' }).click()
  await expect(lead.getByText('9 players', { exact: true })).toBeVisible()
})

test('the starter ladder can be changed', async () => {
  await lead.goto('/stairs/ladder')
  await accessible(lead, 'ladder')
  await lead.getByRole('link', { name: 'Edit Catches a thrown ball with two hands' }).click()
  await box('The figure that is good enough').fill('12')
  await lead.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await expect(lead.getByText('12 good ones out of 10 tries cannot be.')).toBeVisible()
  await accessible(lead, 'criterion')
  await box('The figure that is good enough').fill('3')
  await box('Out of tries, or in seconds').fill('4')
  await box('Good marks').fill('1')
  await box('Out of the last, 0 for any').fill('0')
  await box('Days').fill('1')
  await lead.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await expect(lead.getByText('3 of 4')).toBeVisible()
  // For this evening the other musts go, and no visits are asked.
  for (const name of ['Stands on one leg', 'Stops on the signal', 'Throws at a target']) {
    await lead.getByRole('link', { name: 'Edit ' + name }).click()
    await lead.getByRole('button', { name: 'Take it out of the stage' }).click()
    await expect(lead.getByRole('link', { name: 'Edit ' + name })).toHaveCount(0)
  }
  await lead.getByRole('link', { name: 'Edit the stage First steps' }).click()
  await box('Visits').fill('0')
  await lead.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await expect(lead.getByRole('heading', { name: '1 · First steps' })).toBeVisible()
})

test('three drills and a class', async () => {
  for (const [name, skills, target] of [
    ['Lobs in pairs', 'catching', ''],
    ['Wall spots', 'passing', 'streak'],
    ['Line to line', 'footwork', ''],
  ]) {
    await lead.goto('/shelf/new')
    await box('Name').fill(name)
    await box('Skills').fill(skills)
    await lead.getByLabel('Kind of target').selectOption(target)
    if (target) await box('How many').fill('10')
    await lead.getByLabel('Players at least').fill('2')
    await lead.getByRole('button', { name: /^Keep( edition)?$/ }).click()
    await expect(lead.getByRole('heading', { level: 1, name })).toBeVisible()
  }
  await accessible(lead, 'drill')
  await lead.goto('/sessions/class/new')
  await box('Name').fill('Friday hall')
  await lead.getByLabel('Weekday').selectOption('Friday')
  await lead.getByLabel('Name of the place').fill('School hall')
  await box('Length in metres').fill('wide')
  await lead.getByRole('button', { name: 'Set it up' }).click()
  await expect(lead.getByText(/Length: from 3 to 200 m/)).toBeVisible()
  await accessible(lead, 'class form')
  await box('Length in metres').fill('24')
  await lead.getByRole('button', { name: 'Set it up' }).click()
  await expect(lead.getByRole('heading', { name: 'Friday hall' })).toBeVisible()
  await accessible(lead, 'sessions')
})

const work = (page) => page.getByRole('group', { name: 'Work time of Stations' }).locator('input')
const tries = () => lead.locator('.ledger tbody tr').first().locator('td').nth(3).innerText()

test('the next date is planned, and one change moves Floor, Strip and Ledger', async () => {
  await lead.getByRole('button', { name: 'Plan this date' }).click()
  await expect(lead.getByText('No drill is chosen yet.', { exact: false })).toBeVisible()
  await lead.getByRole('tab', { name: 'Stations' }).click()
  for (const [i, name] of ['Lobs in pairs (2–6)', 'Wall spots (2–6)', 'Line to line (2–6)'].entries()) {
    await lead.getByLabel('Drill for a new station').selectOption(name)
    await lead.getByRole('button', { name: 'Add a station' }).click()
    await expect(lead.locator('.floor .station')).toHaveCount(i + 1)
  }
  await expect(lead.locator('.floor .tokens')).toHaveCount(3)
  await lead.locator('#station-0 > summary').click()
  await lead.getByLabel('Leader at station 1').focus()
  await lead.getByLabel('Leader at station 1').selectOption('Petra')
  await lead.getByRole('tab', { name: 'Ledger' }).click()
  await expect(lead.locator('.ledger tbody tr')).toHaveCount(9)
  await accessible(lead, 'plan')
  // Kept together and apart.
  const group = async (name) => await lead.locator('.ledger tr', { hasText: name }).getAttribute('data-group')
  expect(await group('Amal Rahmani')).toBe(await group('Bruno Keel'))
  expect(await group('Chiara Lott')).not.toBe(await group('Dov Arens'))
  // Work time, by button and by key.
  const before = await tries()
  const width = () => lead.locator('.visit-box').first().getAttribute('width')
  const wide = await width()
  const sum = await lead.locator('.sum').innerText()
  await lead.getByRole('button', { name: 'Stations: half a minute more' }).click()
  await expect(work(lead)).toHaveValue('6:30')
  expect(Number(await tries())).toBeGreaterThan(Number(before))
  expect(Number(await width())).toBeGreaterThan(Number(wide))
  expect(await lead.locator('.sum').innerText()).not.toBe(sum)
  await lead.keyboard.press('[')
  await expect(work(lead)).toHaveValue('6:00')
  await lead.keyboard.press('u')
  await expect(work(lead)).toHaveValue('6:30')
  // Groups and a drill.
  await lead.getByRole('button', { name: 'Stations: one group less' }).click()
  await expect(lead.locator('.floor .tokens')).toHaveCount(2)
  await expect(lead.locator('.strip .group-row')).toHaveCount(2)
  await lead.getByRole('button', { name: 'Stations: one group more' }).click()
  await expect(lead.locator('.floor .tokens')).toHaveCount(3)
  // The groups stand where the Strip says.
  const at = await lead.locator('.floor .tokens').first().getAttribute('transform')
  await lead.locator('.visit').nth(1).focus()
  await expect(lead.locator('.floor .tokens').first()).not.toHaveAttribute('transform', at)
  await lead.keyboard.press('?')
  await expect(lead.getByRole('dialog')).toContainText('Deal again')
  await lead.keyboard.press('Escape')
  await lead.locator('summary', { hasText: 'Print' }).click()
  await lead.getByRole('link', { name: 'The plan on one sheet' }).click()
  await lead.emulateMedia({ media: 'print' })
  await expect(lead.getByRole('heading', { name: 'Who goes where' })).toBeVisible()
  await expect(lead.getByRole('cell', { name: /^Lobs in pairs/ })).toBeVisible()
  await expect(lead.getByRole('button', { name: 'Print this sheet' })).toBeHidden()
  await lead.emulateMedia({ media: 'screen' })
  await accessible(lead, 'print')
  await lead.goBack()
})

test('two people change one plan: the later one is told, and nothing is lost', async () => {
  const other = await lead.context().newPage()
  await other.goto(lead.url())
  await lead.locator('#propose > summary').click()
  await other.getByRole('button', { name: 'Stations: half a minute less' }).click()
  await expect(work(lead)).toHaveValue('6:00') // seen at once
  await expect(lead.getByText('How the session runs')).toBeVisible() // and what was open is open
  await lead.keyboard.press('Escape')
  const chip = lead.getByRole('button', { name: 'Drink break', exact: true })
  await chip.focus()
  await other.getByRole('button', { name: 'Stations: half a minute less' }).click()
  await expect(work(lead)).toHaveValue('5:30')
  await expect(chip).toBeFocused()
  await other.getByRole('button', { name: 'Stations: half a minute more' }).click()
  await expect(work(lead)).toHaveValue('6:00')
  await lead.getByLabel('How the groups of Stations are dealt').focus() // but not while something is being chosen
  await other.getByRole('button', { name: 'Stations: half a minute more' }).click()
  await expect(work(other)).toHaveValue('6:30')
  await other.getByRole('button', { name: 'Stations: half a minute more' }).click()
  await expect(work(other)).toHaveValue('7:00')
  await lead.getByLabel('How the groups of Stations are dealt').selectOption('mixed levels')
  await expect(lead.getByText('Petra Quill changed this plan a moment ago', { exact: false })).toBeVisible()
  await expect(work(lead)).toHaveValue('7:00')
  await lead.getByRole('button', { name: 'Do it on this one' }).click()
  await expect(lead.getByLabel('How the groups of Stations are dealt')).toHaveValue('mixed')
  await other.close()
})

test('courtside: register, clock, and the same state on two devices', async ({ browser }) => {
  phone = await (
    await browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      storageState: await lead.context().storageState(),
    })
  ).newPage()
  const done = watch(phone)
  await lead.getByRole('link', { name: 'Take to the floor' }).click()
  await lead.waitForURL(/courtside/)
  await phone.goto(lead.url())
  await accessible(phone, 'courtside register')
  await register(phone, 'Amal Rahmani', '✓')
  await expect(lead.getByRole('button', { name: 'Amal Rahmani, ✓' })).toHaveAttribute('aria-pressed', 'true')
  await register(phone, 'Fumiko Ota', 'not here')
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap() // it is planned for Friday
  await expect(lead.getByText('Warm-up', { exact: true })).toBeVisible({ timeout: 8000 })
  await expect(phone.getByRole('button', { name: 'Pause' })).toBeVisible()
  const seconds = async (p) => {
    const [m, s] = (await p.getByRole('timer').innerText()).split(':')
    return 60 * m + Number(s)
  }
  const [a, b] = await Promise.all([seconds(phone), seconds(lead)])
  expect(Math.abs(a - b), 'seconds between the two clocks').toBeLessThanOrEqual(2) // read one after the other, on a busy machine
  const was = await seconds(phone)
  await phone.getByRole('button', { name: '+1 min' }).tap()
  await expect.poll(() => seconds(lead)).toBeGreaterThan(was + 50)
  await phone.getByRole('button', { name: 'Pause' }).tap()
  await expect(lead.getByText('Paused')).toBeVisible({ timeout: 8000 })
  await phone.getByRole('button', { name: 'Go on' }).tap()
  for (const next of ['One key', 'Explain', 'Work']) {
    await phone.getByRole('button', { name: 'Next now' }).tap()
    await expect(phone.locator('.court-now b')).toHaveText(next)
  }
  await expect(lead.getByText('round 1 of 3').filter({ visible: true })).toBeVisible({ timeout: 8000 })
  await phone.reload()
  await expect(phone.locator('.court-now b')).toHaveText('Work')
  await accessible(phone, 'courtside station')
  done()
})

async function marked(name) {
  for (const station of ['Station 1', 'Station 2', 'Station 3']) {
    await phone.getByRole('button', { name: new RegExp('^' + station) }).tap()
    if (await phone.locator('.mark-row', { hasText: name }).count()) return station
  }
}

test('marks: taps count, survive the server being away, and arrive once', async () => {
  await phone.getByRole('button', { name: /^Station 1/ }).tap()
  await expect(phone.getByRole('heading', { name: 'Lobs in pairs' })).toBeVisible()
  const row = phone.locator('.mark-row').first()
  const name = await row.locator('.who b').innerText()
  const good = phone.getByRole('button', { name: name + ': good', exact: true })
  await good.tap()
  await phone.getByRole('button', { name: name + ': miss', exact: true }).tap()
  await expect(row.locator('.pad-figure')).toContainText('of 2')
  await phone.getByRole('button', { name: 'Take the last tap back' }).tap()
  await expect(row.locator('.pad-figure')).toContainText('of 1')
  await lead.getByRole('button', { name: /^Station 1/ }).click()
  await expect(lead.locator('.mark-row').first().locator('.pad-figure')).toContainText('of 1')
  // The server goes away: taps stay on the phone, also through a reload of its state, and arrive once.
  await phone.context().setOffline(true)
  await good.tap()
  await good.tap()
  await expect(phone.locator('.sync')).toHaveText(/waiting here/)
  await good.tap()
  await expect(row).toContainText('4 of 4 ✓')
  await phone.context().setOffline(false)
  await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 8000 })
  await expect(lead.locator('.mark-row').first()).toContainText('4 of 4')
  story.ready = name
  // Somebody else gets a shorter try: kept as practice, not counted.
  const second = await phone.locator('.mark-row').nth(1).locator('.who b').innerText()
  await phone.getByRole('button', { name: second + ': good', exact: true }).tap()
  story.practice = second
})
const story = {}

test('the round changes, the session ends, and everything is kept', async () => {
  await phone.getByRole('button', { name: 'Change now' }).tap()
  await expect(phone.getByRole('heading', { name: 'Change' })).toBeVisible()
  await accessible(phone, 'courtside change')
  await phone.getByRole('button', { name: 'Next now' }).tap()
  await expect(phone.getByText('round 2 of 3').filter({ visible: true })).toBeVisible()
  expect(await marked(story.ready)).not.toBe('Station 1')
  await phone.getByRole('button', { name: /^More/ }).first().tap()
  await phone.locator('.court-more').getByRole('button', { name: 'End the session' }).tap()
  await phone.getByRole('button', { name: 'End it' }).tap()
  await expect(phone.getByText('Ended')).toBeVisible()
  await expect(lead.getByText('Ended')).toBeVisible({ timeout: 8000 })
})

test('who has met everything stands on the edge and moves up, with the evidence', async () => {
  await lead.goto('/stairs')
  await expect(lead.getByText('1 ready to step up', { exact: false })).toBeVisible()
  await expect(lead.locator('#why')).toContainText(story.ready)
  await expect(lead.locator('#why')).toContainText('Everything asked for is shown.')
  await expect(lead.locator('#why')).toContainText('4 of 4')
  await accessible(lead, 'stairs')
  await lead.goto('/marks')
  await expect(lead.getByRole('row', { name: new RegExp(story.ready) })).toContainText('ready')
  await accessible(lead, 'marks')
  await lead.goto('/stairs')
  await lead.getByText('The same as a list').click()
  await expect(lead.getByRole('row', { name: new RegExp(story.practice) })).toContainText('one more good mark')
  await lead.getByRole('link', { name: 'all marks' }).click()
  await accessible(lead, 'player')
  await lead.getByText('Move up to Growing').click()
  await lead.getByRole('button', { name: 'Yes, move up' }).click()
  await expect(lead.getByText('First steps → Growing')).toBeVisible()
  await lead.getByText('First steps → Growing').click()
  await expect(lead.locator('.record')).toContainText('Catches a thrown ball with two hands')
  await expect(lead.locator('.record')).toContainText('4 of 4')
  await lead.goto('/roster')
  // the row begins with the initials; others are kept with them by name
  await expect(lead.getByRole('row', { name: new RegExp('^\\S+ ' + story.ready) })).toContainText('Growing')
  await lead.goto('/sessions')
  await lead.getByRole('button', { name: 'Plan this date' }).click()
  await expect(lead.locator('.ledger tr', { hasText: story.ready }).locator('td').nth(1)).toHaveAttribute(
    'title',
    /, Growing$/,
  )
})

test('another device sees it all, and signing out everywhere ends both', async () => {
  await phone.goto('/')
  await expect(phone.getByRole('heading', { level: 1 })).toContainText('November')
  await accessible(phone, 'today on a phone')
  await lead.goto('/account')
  await accessible(lead, 'account')
  await lead.getByRole('button', { name: 'Sign out everywhere' }).click()
  await expect(lead.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await phone.goto('/roster')
  await expect(phone.getByRole('heading', { name: 'Sign in' })).toBeVisible()
})
