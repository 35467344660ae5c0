// The demo club by page, by role and by bad input; and the program stopped and started under a phone.
import { expect, test } from './test.js'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { accessible, signIn, watch } from './steps.js'

async function tuesday(page) {
  await page.goto('/sessions')
  return await page
    .locator('li', { has: page.getByRole('heading', { name: 'Tuesday hall' }) })
    .locator('.planned a')
    .first()
    .getAttribute('href')
}

test('every page of the demo is accessible, and fits a laptop and a phone', async ({ page }) => {
  const end = watch(page)
  await signIn(page)
  const plan = await tuesday(page)
  for (const path of [
    '/',
    '/roster',
    '/shelf',
    '/shelf/pack',
    '/shelf/new',
    '/sessions',
    plan,
    plan + '/run',
    '/marks',
    '/stairs',
    '/stairs/ladder',
  ]) {
    await page.goto(path)
    await accessible(page, path)
  }
  await page.goto('/shelf')
  await page.getByRole('link', { name: /Jump-shot approach/ }).click()
  await accessible(page, 'drill')
  await page.setViewportSize({ width: 390, height: 844 })
  for (const path of [
    '/',
    '/roster',
    '/shelf',
    '/sessions',
    plan,
    '/marks',
    '/stairs',
    '/sign-in',
    '/roster/new',
    plan + '/print',
  ]) {
    await page.goto(path)
    expect
      .soft(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth), path + ' on a phone')
      .toBeLessThanOrEqual(0)
  }
  end()
})

test('by keys alone: go to places, search, and settle a finding', async ({ page }) => {
  await signIn(page)
  await page.keyboard.press('g')
  await page.keyboard.press('r')
  await expect(page.getByRole('heading', { level: 1, name: 'Roster' })).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('tove')
  await expect(page.getByRole('row')).toHaveCount(2)
  await page.goto(await tuesday(page))
  const bea = page.locator('.findings .finding', { hasText: 'Bea leaves at 18:50' })
  await bea.getByRole('button').focus()
  await page.keyboard.press('Enter')
  await expect(bea).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'What the check found' })).toBeFocused() // what is left to settle comes next
  // The arrows of a block go on with that block.
  const close = () => page.locator('.bar[data-kind=close]').getAttribute('data-block')
  await page.locator('.bar[data-kind=close]').focus()
  const last = Number(await close())
  await page.getByRole('button', { name: 'Close earlier', exact: true }).focus()
  for (const at of [last - 1, last - 2]) {
    await page.keyboard.press('Enter')
    await expect.poll(close).toBe(String(at))
    await expect(page.getByRole('button', { name: 'Close earlier', exact: true })).toBeFocused()
  }
  for (const at of [last - 1, last]) {
    await page.getByRole('button', { name: 'Close later', exact: true }).click()
    await expect.poll(close).toBe(String(at))
  }
  // Whoever takes the last one out stands on the one before, not on its “×”.
  await page.getByRole('button', { name: 'Take Close out' }).press('Enter')
  await expect(page.locator('#bar-' + (last - 1))).toBeFocused()
  await page.locator('h1').click()
  await page.keyboard.press('u')
  await expect.poll(close).toBe(String(last))
  await page.locator('#bar-4').focus()
  await page.keyboard.press('[')
  await expect(page.locator('#bar-4')).toHaveAttribute('aria-label', /23 min/)
  await page.keyboard.press('u')
  await expect(page.locator('#bar-4')).toHaveAttribute('aria-label', /24 min/)
})

test('the lucky day, the one nobody marked, and who must not jump', async ({ page }) => {
  await signIn(page)
  await page.goto('/stairs')
  await page.getByText('The same as a list').click()
  await expect(page.getByRole('row', { name: /Sana Iqbal/ })).toContainText('on another day')
  await expect(page.getByRole('link', { name: /not marked for six weeks/ })).not.toHaveCount(0)
  await page.goto(await tuesday(page))
  await expect(page.locator('.findings')).toContainText(/Tove Nygaard, 18:\d\d No jumping until 12 Dec/)
})

test('the sheet of marks by keys: an evening of entering what stood on paper', async ({ page }) => {
  const end = watch(page)
  await signIn(page, 'tomasz')
  await page.goto('/marks')
  const wall = page.getByRole('button', { name: /^Pia Grant, Wall passes in a row/ })
  await wall.focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('#cell h2')).toContainText('Pia Grant · Wall passes in a row')
  if (await page.locator('#cell [name=side]').count()) await page.locator('#cell [name=side]').first().check()
  await wall.focus()
  for (const k of ['x', ' ', ' ', ' ', 'u', ' ', ' ']) await page.keyboard.press(k)
  await expect(page.locator('#cell [data-count]')).toHaveText('4 now, best 4')
  await page.locator('#cell [name=day]').fill('2026-11-20')
  await wall.focus()
  await page.keyboard.press('Enter') // keeps, and the next player comes
  await expect(page.locator('#cell h2')).toContainText('Rui Costa')
  await wall.click()
  await expect(page.locator('#cell .marks-list')).toContainText('Fri 20 Nov')
  await expect(page.locator('#cell .marks-list')).toContainText('4 in a row')
  await accessible(page, 'marks with a cell')
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('button', { name: /^Pia Grant, Catches on the move/ })).toBeFocused()
  await page.locator('#cell .decide summary').first().click()
  await page.locator('#cell .decide [name=why]').first().fill('on the wrong line')
  await page.locator('#cell .decide button').first().click()
  await expect(page.locator('#cell')).toContainText('struck out: on the wrong line')
  end()
})

test('a helper sees their own session and nothing else', async ({ page }) => {
  await signIn(page, 'bea')
  await expect(page.locator('.rail li')).toHaveCount(1)
  await page.getByRole('link', { name: /Tuesday hall today, 18:00/ }).click()
  await expect(page.locator('.court-task h2')).not.toBeEmpty()
  await expect(page.locator('.mark-row .name').first()).toHaveText(/^\s*\S+\s*$/) // first names alone
  await expect(page.getByRole('button', { name: 'Start the session' })).toBeHidden()
  await page.goto('/roster')
  await expect(page.getByText('That is not yours to do here.', { exact: false })).toBeVisible()
})

test('bad input gets a sentence and loses nothing', async ({ page }) => {
  await signIn(page, 'tomasz')
  // A file of 50 MB is named before it is sent.
  await page.goto('/roster/import')
  const big = join(mkdtempSync(join(tmpdir(), 'gruppo-big-')), 'big.csv')
  writeFileSync(big, Buffer.alloc(50 * 1024 * 1024, 'x'))
  await page.getByLabel('Drop a file here, or choose one').setInputFiles(big)
  await expect(page.getByText('big.csv is 50 MB; a list of players is at most 5 MB.')).toBeVisible()
  rmSync(big)
  // Forty, everyone kept apart from everyone.
  const names = Array.from(
    { length: 40 },
    (_, i) => 'Apart ' + String.fromCharCode(65 + (i % 26)) + (i < 26 ? '' : 'x'),
  )
  await page.reload()
  await page
    .getByLabel('Or paste the rows')
    .fill(
      'name\tstage\tkeep apart\n' +
        names.map((n) => `${n}\tReef\t${names.filter((m) => m !== n).join(';')}`).join('\n'),
    )
  await page.getByRole('button', { name: 'Look it over' }).click()
  await page.getByRole('button', { name: 'Add 40 players' }).click()
  // A class of them in the hour that is skipped, with a plan of one drill.
  await page.goto('/sessions/class/new')
  await page.getByLabel('Name', { exact: true }).fill('Night owls')
  await page.getByLabel('Weekday').selectOption('Sunday')
  await page.getByLabel('Starts at').fill('01:30')
  await page.getByRole('textbox', { name: 'Places' }).fill('40')
  for (const n of names) await page.getByLabel(n, { exact: true }).check()
  await page.getByRole('button', { name: 'Set it up' }).click()
  const owls = page.locator('li', { has: page.getByRole('heading', { name: 'Night owls' }) })
  await owls.getByLabel(/Date of the session/).fill('2027-03-28')
  await owls.getByRole('button', { name: 'Plan this date' }).click()
  await expect(
    page.getByText('the clocks go forward and 01:30 does not happen; the session begins at 02:30', { exact: false }),
  ).toBeVisible()
  await expect(page.getByText('No drill is chosen yet.', { exact: false })).toBeVisible()
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.getByRole('button', { name: 'Add a station' }).click()
  await expect(
    page.getByText('are each to be kept apart from one another: that takes 40 groups', { exact: false }),
  ).toBeVisible()
  // One player.
  await page.goto('/sessions/class/new')
  await page.getByLabel('Name', { exact: true }).fill('Only one')
  await page.getByLabel('Apart A', { exact: true }).check()
  await page.getByRole('button', { name: 'Set it up' }).click()
  const one = page.locator('li', { has: page.getByRole('heading', { name: 'Only one' }) })
  await one.getByRole('button', { name: 'Plan this date' }).click()
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.getByRole('button', { name: 'Add a station' }).click()
  await expect(page.locator('.findings')).not.toContainText('nobody in') // one player is one group
  for (let groups = 2; groups <= 3; groups++) {
    await page.getByRole('button', { name: 'Stations: one group more' }).click()
    await expect(page.getByRole('group', { name: 'Number of groups of Stations' }).locator('input')).toHaveValue(
      String(groups),
    )
  }
  await expect(page.locator('.findings')).toContainText('groups have nobody in them')
  await page.goto('/sessions/none')
  await expect(page.getByText('There is nothing here.', { exact: false })).toBeVisible()
})

test('the program is stopped and started under a phone: taps wait, arrive once, and everything is there', async ({
  browser,
  program,
}) => {
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await signIn(phone)
  const plan = await tuesday(phone)
  await phone.goto('/courtside/' + plan.split('/').pop())
  await phone.getByRole('button', { name: 'Start the session' }).click()
  await phone.getByRole('button', { name: /^Station 1/ }).click()
  const row = phone.locator(
    `.mark-row[data-player="${await phone.locator('.mark-row').first().getAttribute('data-player')}"]`,
  )
  await row.locator('.good').click()
  await expect(phone.locator('.sync')).toHaveText('in step')
  await program.stop('SIGKILL') // PostgreSQL is left running without its program, and is taken over
  for (let i = 0; i < 3; i++) await row.locator('.good').click()
  await expect(phone.locator('.sync')).toHaveText('1 waiting here')
  await program.start()
  await expect(phone.locator('.sync')).toHaveText('in step', { timeout: 20_000 })
  await row.locator('.pad-figure').click() // keep it
  await expect(phone.locator('.sync')).toHaveText('in step')
  await program.stop()
  await program.start()
  await phone.reload() // still signed in: sessions are in the database
  await phone.getByRole('button', { name: /^Station 1/ }).click()
  await expect(row).toContainText('4 in a row')
  const state = await (
    await phone.request.get('/courtside/' + plan.split('/').pop() + '/state', {
      headers: { Accept: 'application/json' },
    })
  ).json()
  expect(state.marks.filter((m) => m.said === '4 in a row')).toHaveLength(1)
  await phone.context().close()
})
