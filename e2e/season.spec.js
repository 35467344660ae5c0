// The season: a term in one picture, in the demo club and in a club that has just begun.
import { expect, test } from './test.js'
import { bring, names, setUpClass, shelf, startClub } from './clubs.js'
import { device } from './hall.js'
import { accessible, signIn, watch } from './steps.js'

const day = (page, row, says) =>
  page
    .getByRole('row', { name: new RegExp('^' + row) })
    .getByRole('button', { name: says })
    .first()
const theme = (page, name) => page.getByRole('radio', { name, exact: true }).check()

test('a lead plans what is left of the autumn: a holiday, an event, themes drawn, moved, repeated and filled', async ({
  page,
}) => {
  const end = watch(page)
  await signIn(page)
  await page.keyboard.press('g')
  await page.keyboard.press('e')
  await expect(page.getByRole('heading', { level: 1, name: 'Season' })).toBeVisible()
  await expect(page.locator('.head > p')).toContainText('Harbour cup in 3 weeks')
  await accessible(page, 'season')

  // A term on one sheet: without the rail the page has the whole width, and every week is on it.
  await page.emulateMedia({ media: 'print' })
  await page.setViewportSize({ width: 1050, height: 742 })
  const paper = await page.locator('.season').boundingBox()
  expect(paper.x).toBeGreaterThanOrEqual(0)
  expect(paper.width).toBeGreaterThan(950)
  expect(paper.x + paper.width).toBeLessThanOrEqual(1050)
  await page.emulateMedia({ media: 'screen' })
  await page.setViewportSize({ width: 1280, height: 800 })

  // A theme is chosen and put on a day; the day says so, and has the focus again.
  await theme(page, 'feinting')
  await page.getByLabel('Says to players').fill('Today it is normal to look worse.')
  const before = await day(page, 'Tuesday hall', /: open/).count()
  await day(page, 'Tuesday hall', /: open/).click()
  await expect(page.locator('.toast')).toContainText('Feinting: 1 day')
  const put = day(page, 'Tuesday hall', /: feinting/)
  await expect(put).toBeFocused()
  await expect(put).toHaveAttribute('title', 'Today it is normal to look worse.')
  await expect(day(page, 'Tuesday hall', /: open/)).toHaveCount(before - 1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(day(page, 'Tuesday hall', /: open/)).toHaveCount(before)

  // Without a choice nothing is sent; by keys a digit sets the theme at that place, and Delete takes it out.
  await page.goto('/season')
  await day(page, 'Tuesday hall', /: open/).click()
  await expect(page.locator('.season-chips')).toHaveClass(/is-asked/)
  const first = await page.getByRole('radio').first().getAttribute('value')
  await day(page, 'Tuesday hall', /: open/).focus()
  await page.keyboard.press('1')
  await expect(page.locator('.toast')).toContainText('1 day')
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', new RegExp(first.replace('skill ', '')))
  await page.keyboard.press('ArrowUp')
  await expect(page.locator(':focus')).toHaveAttribute('data-day', /\d/)
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Delete')
  await expect(page.locator('.toast')).toContainText('Left open: 1 day')

  // A day is dragged to another of its class: they change places.
  const row = page.getByRole('row', { name: /^Tuesday hall/ })
  const words = () => row.locator('button b').allInnerTexts()
  const was = await words()
  const [a, b] = [await row.locator('button').first().boundingBox(), await row.locator('button').nth(1).boundingBox()]
  await page.mouse.move(a.x + 20, a.y + 10)
  await page.mouse.down()
  await page.mouse.move(b.x + 20, b.y + 10, { steps: 4 })
  await page.mouse.up()
  await expect(page.locator('.toast')).toBeVisible()
  await expect.poll(words).toEqual([was[1], was[0], ...was.slice(2)])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(words).toEqual(was)

  // A holiday: no theme can be put on its days, and it can be taken off the list again.
  await page.locator('#season-off > summary').click()
  await page.getByLabel('Called').fill('Hall is shut')
  await page.getByLabel('First day', { exact: true }).fill('2099-01-02')
  await page.getByLabel('Last day, if it is another').fill('2099-01-01')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.locator('.season-off-new .help')).toContainText('The last day cannot be before the first.')
  await expect(page.locator('.season-off-new .help')).toBeVisible() // where it was typed
  await expect(page.getByLabel('Called')).toHaveValue('Hall is shut') // nothing typed is lost

  // Filling: every open day has a skill, nothing is two weeks running, and what does not fit is said.
  await page.goto('/season')
  await page.locator('#season-fill').click()
  await expect(page.locator('.toast')).toContainText(/Spread out|Not everything fits/)
  await expect(page.getByRole('button', { name: /: open/ })).toHaveCount(0)
  await page.locator('#season-fill').click()
  await expect(page.getByRole('alert').first()).toContainText('Every day to come has a theme')

  // What never comes up is shown, with the days it could have.
  await page.goto('/season')
  await page.getByRole('button', { name: 'Undo' }).isVisible()
  await page.getByRole('link', { name: 'Adult beginners' }).click()
  await expect(page.getByRole('heading', { name: 'Adult beginners, by skill' })).toBeVisible()
  await expect(page.locator('.season-skills .is-never').first()).toBeVisible()
  await expect(page.locator('.season-gap').first()).toContainText('never comes up. No day is open any more')
  await theme(page, 'leave open')
  await page
    .getByRole('row', { name: /^Adult beginners/ })
    .locator('button')
    .last()
    .click()
  await expect(page.locator('.season-gap').first()).toContainText('Put it in')
  const gaps = await page.locator('.season-gap').count()
  await page
    .getByRole('button', { name: /^Put it in/ })
    .first()
    .click()
  await expect(page.locator('.season-gap')).toHaveCount(gaps - 1)

  // The plan of a day is for its theme.
  await page.goto('/sessions')
  const tuesday = page.locator('li', { has: page.getByRole('heading', { name: 'Tuesday hall' }) })
  await tuesday.locator('.planned a').first().click()
  const today = await page.getByTitle('theme of the day').innerText()
  if (today !== 'clean up') await expect(page.locator('#aim')).toHaveValue('skill ' + today)

  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto('/season')
  await accessible(page, 'season on a phone')
  end()
})

test('the season of a club that has just begun: none, then one class, whose weeks are repeated and pinned', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, '', false),
    end = watch(page)
  await startClub(page, {
    club: 'Larkfield Gymnastics',
    program: 'Gymnastics',
    family: 'Apparatus and routines',
    zone: 'Pacific/Auckland',
  })
  await page.goto('/season')
  await expect(page.getByText('Set a class up')).toBeVisible()
  await accessible(page, 'a season without classes')
  await bring(
    page,
    'Name\tStage\n' +
      names(12)
        .map((n) => n + '\t')
        .join('\n'),
  )
  await shelf(page)
  await setUpClass(page, { name: 'Juniors', floor: 'Plain hall', places: '12', minutes: '90' })
  await page.goto('/season')
  await page.locator('#season-words').fill('Show night')
  await page.getByLabel('How often').selectOption('every other week')
  await page.getByLabel('pin it').check()
  const days = page.getByRole('row', { name: /^Juniors/ }).locator('button')
  const many = await days.count()
  await days.first().click()
  await expect(page.getByRole('button', { name: /: Show night/ })).toHaveCount(Math.ceil(many / 2))
  await expect(page.locator('.season-day.is-pinned')).toHaveCount(Math.ceil(many / 2))
  await theme(page, 'event')
  await page.getByLabel('How often').selectOption('from here every week')
  await days.nth(1).click()
  await expect(page.locator('.season-day.is-pinned')).toHaveCount(Math.ceil(many / 2)) // what is pinned stays
  await accessible(page, 'a season with one class')
  // Its dates are made in one step, and taken back in one.
  const planned = page.getByRole('row', { name: /^Juniors/ }).getByText('planned')
  const was = await planned.count()
  await page.getByRole('button', { name: /^Put all \d+ dates in/ }).click()
  await expect(page.locator('.toast')).toContainText(/\d+ dates/)
  await expect(planned).toHaveCount(many)
  await expect(page.getByRole('button', { name: /^Put all/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(planned).toHaveCount(was)
  end()
})

test('three days tapped one after the other on a slow network are all kept', async ({ page }) => {
  const end = watch(page)
  await signIn(page)
  await page.goto('/season')
  await page.route(/\/season\/themes/, async (r) => {
    const answer = await r.fetch({ maxRedirects: 0 })
    await new Promise((go) => setTimeout(go, 600))
    await r.fulfill({ response: answer }).catch(() => {}) // the page went on
  })
  await page.getByRole('radio', { name: 'balance' }).check()
  const ahead = page.locator('button[data-day^="2026-12-1"]:not(.is-pinned)')
  const open = await ahead.evaluateAll((all) => all.slice(0, 3).map((b) => b.value))
  expect(open).toHaveLength(3)
  const at = []
  for (const day of open) at.push(await page.locator(`button[data-day][value="${day}"]`).boundingBox())
  for (const { x, y, width, height } of at) {
    await page.mouse.click(x + width / 2, y + height / 2)
    await page.waitForTimeout(150)
  }
  await page.waitForTimeout(2500)
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.goto('/season')
  for (const day of open) await expect(page.locator(`button[data-day][value="${day}"]`)).toContainText('balance')
  end()
})
