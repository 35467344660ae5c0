// Clubs of other sports, made from the sign-in page: softball in feet, gymnastics with a beam beside a floor, badminton for 28 children on four courts.
import { expect, test } from './test.js'
import { bring, names, setUpClass, startClub } from './clubs.js'
import { accessible, watch } from './steps.js'
import { register } from './hall.js'

const list = (n, stages, year = 2013) =>
  'Name\tBirth year\tStage\n' +
  names(n)
    .map((name, i) => `${name}\t${year + (i % 3)}\t${stages[i % stages.length]}`)
    .join('\n')
const drill = async (page, name, { skill = 'passing', ...more } = {}) => {
  await page.goto('/shelf/new')
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByLabel('Skills', { exact: true }).fill(skill)
  for (const [label, value] of Object.entries(more)) await page.getByLabel(label, { exact: true }).fill(value)
  await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await page.waitForURL(/\/shelf\/drill\/[0-9a-f-]+$/)
}

test('gymnastics: no game is proposed, a beam stands beside a floor, a session is cancelled, deleted and taken back', async ({
  page,
}) => {
  const end = watch(page)
  await startClub(page, {
    club: 'Larkfield Gymnastics',
    program: 'Gymnastics',
    family: 'Apparatus and routines',
    zone: 'Pacific/Auckland',
  })
  await bring(page, list(12, ['Shapes', 'Joined']))
  for (const place of ['/marks', '/stairs', '/season', '/sessions']) {
    await page.goto(place)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await expect(page.locator('select:not(:has(option))')).toHaveCount(0) // before there is a class, no list is empty
  }
  for (const [name, skill] of [
    ['Stork', 'balance'],
    ['Box landings', 'landing'],
    ['Three joined', 'routine'],
  ])
    await drill(page, name, { skill, 'Length in metres': '4', 'Width in metres': '3' })
  const session = await setUpClass(page, { name: 'Beam group', length: '30', width: '20', weekday: 'Thursday' })
  await page.goto(session)
  expect(await page.locator('#propose .shape-choice b').allInnerTexts()).toEqual([
    'Station circuit',
    'Mastery ladder',
    'All-out intervals',
    'Routine run-through',
  ])
  for (const shape of ['Station circuit', 'Mastery ladder', 'All-out intervals', 'Routine run-through']) {
    if (!(await page.locator('#do-propose').isVisible())) await page.locator('#propose > summary').click()
    await page.locator('.shape-choice', { hasText: shape }).first().click()
    await page.locator('#do-propose').click()
    await expect(page.locator('#propose > summary')).toHaveText(shape)
    await expect(page.locator('.strip .bar.is-game')).toHaveCount(0)
    expect(await page.locator('.strip').innerText()).not.toMatch(/game|3 v 3/i)
  }
  await page.goto('/sessions')
  await page.getByRole('link', { name: 'Beam group place' }).click()
  await page.getByLabel('How many courts', { exact: true }).fill('1')
  await page.getByLabel('Which court', { exact: true }).selectOption({ label: 'Gymnastics floor' })
  await page.getByLabel('How many courts, of a second kind').fill('2')
  await page.getByLabel('Which court, of a second kind').selectOption({ label: 'Gymnastics beam with mats' })
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.locator('.floor')).toContainText('Gymnastics beam with mats 2')
  await page.getByLabel('How many courts', { exact: true }).fill('3')
  await page.getByLabel('Which court', { exact: true }).selectOption({ label: 'Gymnastics floor' })
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('At most 2 go into 30 × 20 m.')).toBeVisible()
  await expect(page.getByLabel('How many courts', { exact: true })).toHaveValue('3')
  // The session is off, is on again, is deleted, and comes back.
  await page.goto(session + '/more')
  await page.getByRole('button', { name: 'It does not take place' }).click()
  await expect(page.getByText('Cancelled: it does not take place.')).toBeVisible()
  expect((await page.goto('/courtside/' + session.split('/').pop())).status()).toBe(409)
  await page.goto('/sessions')
  await expect(page.locator('.planned')).toContainText('does not take place')
  await page.goto(session + '/more')
  await page.getByRole('button', { name: 'It takes place after all' }).click()
  await page.goto(session + '/more')
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.locator('.planned li')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.goto('/sessions')
  await expect(page.locator('.planned li')).toHaveCount(1)
  // A place that is in use stays; a class goes and comes back; so do stages and the whole program.
  await page.goto('/sessions')
  await page.getByRole('link', { name: 'Beam group place' }).click()
  await expect(page.getByText('Beam group meets there. Give it another place first.')).toBeVisible()
  await page.goto('/stairs/ladder')
  await page.getByRole('link', { name: 'Edit the stage Shapes' }).click()
  await expect(page.getByText(/6 players stand on it/)).toBeVisible()
  await page.goto('/stairs/ladder')
  await page.getByRole('link', { name: 'Edit the stage Routine' }).click()
  await page.getByRole('button', { name: 'Take Routine out of the ladder' }).click()
  await expect(page.getByRole('heading', { name: /Routine/ })).toHaveCount(0)
  await page.getByText('Taken out: 1').click()
  await page.getByRole('button', { name: 'Put Routine back' }).click()
  await expect(page.getByRole('heading', { name: /Routine/ })).toHaveCount(1)
  await page.getByRole('button', { name: 'Take Gymnastics out' }).click()
  await expect(page.getByText('Beam group is held in it. Take that class out first.')).toBeVisible()
  await page.goto('/sessions')
  await page.getByRole('link', { name: 'Edit Beam group' }).click()
  await page.getByRole('button', { name: 'Beam group is over' }).click()
  await expect(page.locator('.toast')).toContainText('Took Beam group out. 1 session that had not begun goes with it')
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.goto('/sessions')
  await expect(page.locator('.planned li')).toHaveCount(1)
  end()
})

test('badminton in a school: 28 of no stage are seen and set, 28 fit without a word, four courts by number, all here at one tap', async ({
  page,
  browser,
}) => {
  const end = watch(page)
  await startClub(page, {
    club: 'Copperhill Primary',
    program: 'Badminton',
    family: 'Net and racket games',
    zone: 'Europe/Berlin',
  })
  await bring(page, 'Name\n' + names(28).join('\n'))
  const session = await setUpClass(page, {
    name: 'Third hour',
    length: '34',
    width: '20',
    courts: ['4', 'Badminton'],
    weekday: 'Tuesday',
    starts: '18:30',
  })
  for (const place of ['/roster', '/marks', '/stairs']) {
    await page.goto(place)
    await expect(page.getByText('28 players stand on no stage of Badminton')).toBeVisible()
  }
  await page.goto(session)
  await expect(page.locator('.findings')).toContainText('Nobody here stands on a stage')
  await page.goto('/stairs')
  await page.getByRole('link', { name: 'Choose their stage' }).click()
  await page.getByLabel('They stand on').selectOption({ label: 'First rallies' })
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.locator('.toast')).toContainText('28 players on First rallies')
  await page.goto('/stairs')
  await expect(page.getByText('stand on no stage')).toHaveCount(0)
  // A mark from before anybody stood anywhere: that day has no list to keep open.
  await page.goto('/marks')
  await page.getByRole('button', { name: /^Ada Arden, Keeps it up alone/ }).click()
  await page.getByLabel('The longest run').fill('4')
  await page.getByLabel('seen on').fill('2026-09-20')
  await page.locator('#cell').getByRole('button', { name: 'Keep' }).click()
  await expect(page.locator('#cell h2')).toContainText('Ada Brook')
  await page.goto('/stairs')
  await page.getByText('The same as a list').click()
  await page.getByLabel('Days back from today').fill('50')
  await expect(page.getByRole('heading', { name: /^Nobody stood here on/ })).toBeVisible()
  await page.getByLabel('Days back from today').fill('0')
  await expect(page.locator('.stairs .who')).toHaveCount(28)
  await page.goto('/sessions')
  await page.getByRole('link', { name: 'Third hour place' }).click()
  await expect(page.locator('.floor .area-name')).toHaveText([
    'Badminton 1',
    'Badminton 2',
    'Badminton 3',
    'Badminton 4',
  ])
  const phone = await (
    await browser.newContext({
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      storageState: await page.context().storageState(),
    })
  ).newPage()
  const phoneEnd = watch(phone)
  await phone.goto('/courtside/' + session.split('/').pop())
  await register(phone, 'Bo Arden', 'not here')
  await phone.getByRole('button', { name: 'The other 27' }).tap()
  await expect(phone.getByText('27 here · 1 missing')).toBeVisible()
  await phone.getByRole('button', { name: 'Take the last tap back' }).tap()
  await expect(phone.getByText('0 here · 1 missing · 27 not said yet')).toBeVisible()
  await phone.getByRole('button', { name: 'The other 27' }).tap()
  await expect(phone.locator('.sync')).toHaveText('in step')
  await phone.reload()
  await expect(phone.getByText('27 here · 1 missing')).toBeVisible()
  // Another program's stages are not sent along, and a chosen place leaves no fields standing.
  await page.goto('/stairs/ladder')
  await page.getByText('Bring or begin a ladder').click()
  await page.getByLabel('or a new one, by its name').fill('Table tennis')
  await page.getByLabel('of the kind').selectOption({ label: 'Net and racket games' })
  await page.getByRole('button', { name: 'Bring it' }).click()
  await page.goto('/sessions/class/new')
  await page.getByLabel('Name', { exact: true }).fill('Tables')
  await expect(page.getByLabel('Name of the place')).toBeHidden()
  await expect(page.getByRole('textbox', { name: 'Places' })).toHaveValue('28')
  await page.getByLabel('Program').selectOption({ label: 'Table tennis' })
  await expect(page.locator('input[name=stage]:visible')).toHaveCount(3)
  await page.getByRole('button', { name: 'Set it up' }).click()
  await page.waitForURL('/sessions')
  await expect(page.locator('li', { has: page.getByRole('heading', { name: 'Tables' }) })).toContainText(
    'Table tennis · First rallies, Rallying and Matches',
  )
  phoneEnd()
  end()
})

test('softball in feet: thirty feet are thirty, yards and metres are understood; a coach comes in by a link', async ({
  page,
  browser,
}) => {
  const end = watch(page)
  await startClub(page, { club: 'Millrace Softball', program: 'Softball', zone: 'America/Los_Angeles', imperial: true })
  await bring(page, list(24, ['First steps', 'Growing', 'Playing'], 2001))
  await drill(page, 'Long toss', { skill: 'throwing', 'Length in feet': '30', 'Width in feet': '5 yd' })
  await expect(page.getByText('30 × 15 ft')).toBeVisible()
  await page.getByText('More', { exact: true }).click()
  await page.getByRole('link', { name: 'Edit', exact: true }).click()
  await expect(page.getByLabel('Length in feet', { exact: true })).toHaveValue('30')
  await page.getByLabel('Length in feet', { exact: true }).fill('7 m')
  await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await expect(page.getByText('23 × 15 ft')).toBeVisible()
  await drill(page, 'Grounders', { skill: 'catching', 'Length in feet': '40', 'Width in feet': '20' })
  await page.goto('/sessions/class/new')
  expect(await page.getByLabel('Weekday').locator('option').first().innerText()).toBe('Sunday')
  await expect(page.getByLabel('Length in feet', { exact: true })).toHaveValue('60')
  await setUpClass(page, { name: 'Infield', length: '100', width: 'wide', refused: true })
  await expect(page.getByText(/Width: from/)).toBeVisible()
  await expect(page.getByLabel('Width in feet', { exact: true })).toHaveValue('wide')
  await page.getByLabel('Width in feet', { exact: true }).fill('30 yd')
  await page.getByRole('button', { name: 'Set it up' }).click()
  await page.waitForURL('/sessions')
  await expect(page.locator('main')).toContainText('100 × 90 ft')
  await page.getByRole('button', { name: 'Plan this date' }).click()
  await page.waitForURL(/sessions\/[0-9a-f]{8}/)
  await page.getByRole('tab', { name: 'Stations' }).click()
  for (const name of ['Long toss', 'Grounders']) {
    await page
      .locator('#add-drill')
      .selectOption({ label: await page.locator('#add-drill option', { hasText: name }).innerText() })
    await page.locator('#add-station').click()
    await expect(page.locator('.station-row summary', { hasText: name })).toBeVisible()
  }
  await page.locator('#station-0 > summary').click()
  const place = (n) => page.getByLabel(`Station 1, feet ${n}`)
  await place('from the left').fill('30')
  await place('from the top').fill('2 yd')
  await page.locator('#station-0').getByRole('button', { name: 'Put there' }).click()
  await expect(place('from the left')).toHaveValue('30')
  await expect(place('from the top')).toHaveValue('6')
  await expect(page.locator('#spot-0')).toHaveAttribute(
    'aria-label',
    /30 ft from the left, 6 ft from the top, 23 by 15 ft/,
  )
  await page.locator('#spot-0').focus()
  await page.keyboard.press('ArrowRight')
  await expect(place('from the left')).toHaveValue('31')
  await place('from the left').fill('far')
  await page.locator('#station-0').getByRole('button', { name: 'Put there' }).click()
  await expect(page.getByText('"far" is not a length.').first()).toBeVisible()
  await expect(place('from the left')).toHaveValue('far')
  expect(await page.locator('main').innerText()).not.toMatch(/\d m\b/)
  await page.goto(page.url() + '/print')
  expect(await page.locator('main').innerText()).not.toMatch(/\d m\b/)
  // Brought in by a link that works once.
  await page.goto('/account')
  await page.getByLabel('Name', { exact: true }).last().fill('Sky Coach')
  await page.getByLabel('E-mail').fill('sky@millrace.example')
  await page.getByLabel('They are').selectOption('coach')
  await page.getByRole('button', { name: 'Bring them in' }).click()
  const link = await page.locator('.fresh-link').innerText()
  const sky = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await sky.goto(link)
  await accessible(sky, 'the way in')
  await sky.getByLabel('Choose a password').fill('short')
  await sky.getByRole('button', { name: 'Keep it and go in' }).click()
  await expect(sky.getByText('At least 10 characters; a short sentence is good.').last()).toBeVisible()
  await sky.getByLabel('Choose a password').fill('gulls over the quay')
  await sky.getByRole('button', { name: 'Keep it and go in' }).click()
  await expect(sky.getByRole('link', { name: /Sky Coach/ })).toBeVisible()
  await sky.goto(link)
  await expect(sky.getByText('This link was used')).toBeVisible()
  end()
})

test('a double click on a slow network does a thing once: a club, a drill, a class, a date, a player, a link, a holiday, a mark', async ({
  page,
}) => {
  const end = watch(page)
  let slow = true
  await page.route('**', async (r) => {
    if (!slow || r.request().method() !== 'POST') return r.continue()
    const answer = await r.fetch({ maxRedirects: 0 })
    await new Promise((go) => setTimeout(go, 500))
    await r.fulfill({ response: answer }).catch(() => {}) // the page went on
  })
  const press = (button) =>
      button.evaluate((b) => {
        b.click()
        setTimeout(() => b.click(), 150)
      }),
    twice = (name) => press(page.getByRole('button', { name }).first())
  await startClub(page, { club: 'Copperhill Primary', program: 'Badminton', family: 'Net and racket games', press })
  slow = false
  await bring(page, list(4, ['First rallies']))
  slow = true

  await page.goto('/shelf/new')
  await page.getByLabel('Name', { exact: true }).fill('Clears')
  await page.getByLabel('Skills', { exact: true }).fill('clear')
  await twice(/^Keep( edition)?$/)
  await page.waitForURL(/\/shelf\/drill\/[0-9a-f-]+$/)
  await page.goto('/shelf')
  await expect.soft(page.locator('#drills .drill-card')).toHaveCount(1)

  const session = await setUpClass(page, { name: 'Lesson', floor: 'Badminton', press })
  expect(session).toBeTruthy()
  await page.goto('/sessions')
  await expect.soft(page.getByRole('heading', { name: 'Lesson', exact: true })).toHaveCount(1)
  await page.getByRole('link', { name: 'Lesson place' }).first().click()
  await page.getByLabel('Name', { exact: true }).fill('Lesson hall')
  await twice('Keep')
  await page.waitForURL('/sessions', { timeout: 5000 }).catch(() => page.goto('/sessions'))
  await expect(page.getByRole('link', { name: 'Lesson hall' })).toHaveCount(1)

  await page.goto('/roster')
  await page.locator('a[href^="/players/"]').first().click()
  const player = page.url()
  await page.getByText('Make a link').first().click()
  await page.getByLabel('For', { exact: true }).fill('family')
  await twice('Make a link')
  await expect(page.locator('.fresh-link')).toBeVisible()
  await page.goto(player)
  await expect.soft(page.getByRole('button', { name: /^Withdraw/ })).toHaveCount(1)

  await page.goto('/marks')
  await page.locator('.mark-cell').first().click()
  for (let n = 0; n < 4; n++) await page.locator('#cell [data-tap="1"]').click()
  await press(page.locator('.cell-pad button.is-primary'))
  await page.waitForTimeout(1500) // a second one would have been kept by then
  await page.reload()
  await page.locator('.mark-cell').first().click()
  await expect(page.locator('#cell .marks-list tr')).toHaveCount(1)
  end()
})
