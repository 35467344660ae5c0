import { expect, test } from './test.js'
import fs from 'node:fs'
import { accessible, signIn, watch } from './steps.js'

// Who steps up, and why: strict criteria, evidence, the picture, deciding, places, and what people are given. In the demo club, in this order.

let page, clean
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage()
  clean = watch(page)
  await signIn(page)
})
test.afterAll(async () => {
  clean()
  await page.context().close()
})

const token = (name) => page.locator('.stairs').getByRole('link', { name: new RegExp('^' + name + ',') })
const why = () => page.locator('#why')

test('who had one lucky day is not ready, and the page says why; who nobody marked is found stale', async () => {
  await page.goto('/stairs')
  await token('Sana Iqbal').click()
  await expect(why().getByRole('heading')).toHaveText('Sana Iqbal')
  await expect(why()).toContainText('one more good mark on another day')
  await expect(why()).not.toContainText('Everything asked for is shown')
  await page.getByRole('button', { name: /stale \d/ }).click()
  await expect(token('Wen Zhang')).toHaveAttribute('aria-label', /not marked for six weeks/)
  await expect(token('Wen Zhang')).not.toHaveClass(/is-faint/)
  await expect(token('Sana Iqbal')).toHaveClass(/is-faint/)
  await expect(page.locator('details.across tbody')).toContainText('Wen Zhang')
  await accessible(page, 'stairs, filtered')
  await page.getByRole('button', { name: /stale \d/ }).click()
  await expect(token('Sana Iqbal')).not.toHaveClass(/is-faint/)

  // by keys: one stop for all tokens, arrows along the step and up
  await token('Sana Iqbal').focus()
  const here = () => page.evaluate(() => document.activeElement.getAttribute('aria-label'))
  const was = await here()
  await page.keyboard.press('ArrowRight')
  expect(await here()).not.toBe(was)
  await page.keyboard.press('ArrowUp')
  expect(await here()).toContain(', Tide,')
  await page.keyboard.press('Enter')
  await expect(why()).toContainText('Tide')
  expect(await page.locator('.stairs .who[tabindex="0"]').count()).toBe(1)
})

test('time is dragged back, and somebody stands on the stage they were on then', async () => {
  await page.goto('/stairs')
  const season = page.getByRole('slider', { name: 'Days back from today' })
  await expect(token('Jaya Menon')).toHaveAttribute('aria-label', /Tide/)
  const most = Number(await season.getAttribute('max'))
  await season.fill(String(most))
  await expect(token('Jaya Menon')).toHaveAttribute('aria-label', /Reef/)
  await expect(page.locator('.caption')).toContainText('by today’s criteria')
  await expect(why().getByText('Move up to')).toHaveCount(0)
  await expect(page.locator('.time-back output')).not.toHaveText('today')
  await season.fill('0')
  await expect(token('Jaya Menon')).toHaveAttribute('aria-label', /Tide/)
  await expect(page.locator('.time-back output')).toHaveText('today')
})

test('a criterion made stricter shows who drops back before it is saved', async () => {
  await page.goto('/stairs/ladder')
  await page.getByRole('link', { name: 'Edit Catches on the move' }).click()
  await expect(page.locator('.oc path.is-this')).toBeVisible()
  await expect(page.locator('#effect')).toContainText('Nobody')
  await page.getByLabel('Out of the last, 0 for any').fill('0')
  await expect(page.locator('#strict .verdict')).toContainText('Hard on the strong')
  await expect(page.locator('#strict .verdict')).toContainText('46 times in 100')
  await page.getByRole('button', { name: 'Try that' }).click()
  await expect(page.locator('#strict .verdict')).toContainText('Fair to both')
  await page.getByLabel('The figure that is good enough').fill('10')
  await expect(page.locator('#effect')).toContainText(/would drop back:\s*Umar Farouk/)
  await accessible(page, 'criterion')
  await page.getByRole('button', { name: 'Keep edition' }).click()
  await page.waitForURL(/ladder/)
  await expect(page.locator('tr', { hasText: 'Catches on the move' })).toContainText('10 of 10')
  await page.goto('/stairs')
  await expect(token('Umar Farouk')).not.toHaveAttribute('aria-label', /everything shown/)
  await page.goto('/stairs/ladder')
  await page.getByRole('link', { name: 'Edit Catches on the move' }).click()
  await expect(page.locator('.editions-list li')).toHaveCount(2)
  await page.getByLabel('The figure that is good enough').fill('8')
  for (const [label, value] of [
    ['Good marks', '2'],
    ['Out of the last, 0 for any', '3'],
    ['Days', '2'],
  ])
    await page.getByLabel(label, { exact: true }).fill(value)
  await expect(page.locator('#effect')).toContainText(/would be ready:\s*Umar Farouk/)
  await page.getByRole('button', { name: 'Keep edition' }).click()
  await page.waitForURL(/ladder/)
})

test('the player’s page says where it can be shown next and by whom; a task goes home', async () => {
  await page.goto('/stairs')
  await token('Yara Haddad').click()
  await expect(why()).toContainText('One mark short')
  await page.locator('#why h2 a').click()
  await expect(page.locator('.criteria')).toContainText(/round \d, .+, (by|counted by|nobody)/)
  await expect(page.locator('.small-charts svg').first()).toBeVisible()
  const player = page.url()
  await page.getByRole('link', { name: 'Give practice' }).click()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('What is to be practised?')).toBeVisible()
  await page.getByLabel('Drill, pattern, or words').fill('Side steps')
  await page.getByLabel('How much').fill('2 min')
  await page.getByLabel('All that').fill('5')
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.goto(player)
  await expect(page.locator('#home li').first()).toContainText('Side steps · 2 min × 5: 10 min')
  await page.locator('#home').getByRole('link', { name: 'Side steps' }).click()
  await page.getByRole('button', { name: 'End it today' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'End it today' })).toBeVisible()
  await page.goto(player)
  await accessible(page, 'player')
})

test('six are decided at once, one against the evidence with a reason', async () => {
  await page.goto('/stairs/decide')
  const rows = page.locator('.decide-row')
  while ((await rows.count()) < 6) {
    const n = await rows.count()
    await page.getByLabel('Put somebody in the list').selectOption({ index: 1 })
    await page.getByRole('button', { name: 'Add' }).click()
    await expect(rows).toHaveCount(n + 1)
  }
  const against = rows.filter({ hasText: 'not everything shown' })
  const n = await against.count()
  expect(n).toBeGreaterThan(0)
  await against.first().getByText('Up', { exact: true }).click()
  for (let i = 1; i < n; i++) {
    await against.nth(i).getByText('Stay', { exact: true }).click()
    await against
      .nth(i)
      .getByLabel(/^Reason for/)
      .fill('one term more, on the catch')
  }
  const name = await against.first().locator('bdi').innerText()
  const six = await rows.count()
  await page.getByRole('button', { name: 'Record these decisions' }).click()
  await expect(page.getByRole('alert').first()).toContainText('Nothing is recorded yet')
  await expect(rows.filter({ hasText: name })).toContainText('give the reason')
  if (n > 1) await expect(against.nth(1).getByLabel(/^Reason for/)).toHaveValue('one term more, on the catch')
  await accessible(page, 'decide')
  await page.getByLabel('Reason for ' + name).fill('has outgrown the group, and the guardian agrees')
  await page.getByRole('button', { name: 'Record these decisions' }).click()
  await page.waitForURL(/record/)
  await expect(page.getByText(`${six} decisions recorded`)).toBeVisible()
  const line = page.locator('.record-table tr', { hasText: name })
  await expect(line).toContainText('against the evidence')
  await expect(line).toContainText('has outgrown the group')
  await line.locator('summary').click()
  await expect(line.locator('li').first()).toBeVisible()
  await accessible(page, 'record')
  await line.getByRole('link', { name: /^Certificate/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name)
  await accessible(page, 'certificate')
})

test('the list of the Stairs comes for the day that is looked at, opened before and after', async () => {
  await page.goto('/stairs')
  const rows = page.locator('#picture details.across tbody tr'),
    back = page.getByLabel('Days back from today')
  await page.getByText('The same as a list').click()
  await expect(rows.first()).toBeVisible()
  const today = await rows.count()
  await back.fill('60')
  await expect(page.locator('.time-back output')).not.toHaveText('today')
  await expect(rows.first()).toBeVisible()
  await page.getByText('The same as a list').click()
  await back.fill('0')
  await expect(page.locator('.time-back output')).toHaveText('today')
  await page.getByText('The same as a list').click()
  await expect(rows).toHaveCount(today)
})

test('the list of the Stairs can be asked for again when the network failed', async () => {
  const lost = await page.context().newPage()
  await lost.goto('/stairs')
  await lost.route(/list=1/, (route) => route.abort(), { times: 1 })
  const list = lost.getByText('The same as a list'),
    failed = lost.waitForEvent('requestfailed')
  await list.click()
  await failed
  await list.click()
  await list.click()
  await expect(lost.locator('#picture details.across tbody tr').first()).toBeVisible()
  await lost.close()
})

test('before the meeting: the fewest looks, planned into the coming sessions', async () => {
  await page.goto('/stairs/meeting')
  await expect(page.getByRole('heading', { name: /looks in \d+ sessions/ })).toBeVisible()
  await accessible(page, 'meeting')
  await page.getByRole('button', { name: 'Plan these looks' }).click()
  await expect(page.getByText(/planned there so far/)).toBeVisible()
  await page.locator('.meet-session a').first().click()
  await expect(page.getByRole('tab', { selected: true })).toHaveCount(1) // the tabs can be pressed
  await page.getByRole('tab', { name: 'Criteria' }).click()
  await expect(page.locator('#criteria')).toContainText(/mark \d+ today/)
  await page.goto('/stairs/agree')
  await expect(page.locator('.agree-list section').first()).toContainText('Talk about this one together.')
  await expect(page.locator('.agree-list section').first()).toContainText(/side by side on Thu/)
  await accessible(page, 'agreement')
})

test('the term’s places are filled, one is overridden, taken over, and undone', async () => {
  await page.goto('/stairs/places')
  const list = page.getByRole('region', { name: 'Waiting list' })
  const before = Number(await list.locator('h2 .num').innerText())
  expect(before).toBeGreaterThan(0)
  await expect(list).toContainText('second group beside Thursday hall')
  const thursday = page.getByRole('region', { name: 'Thursday hall' })
  const vera = page.locator('.place-player', { hasText: 'Yara Haddad' })
  await vera.dragTo(thursday.locator('header'))
  await expect(thursday).toContainText('Yara Haddad')
  await expect(page.locator('.places-sum')).toContainText('What you put by hand')
  await accessible(page, 'places')
  // the same by keys
  await thursday.locator('.place-player', { hasText: 'Yara Haddad' }).locator('summary').press('Enter')
  await page.getByLabel('Put Yara Haddad').selectOption({ label: 'Tuesday hall' })
  await page.getByRole('button', { name: 'Put', exact: true }).locator('visible=true').first().click()
  await expect(page.getByRole('region', { name: 'Tuesday hall' })).toContainText('Yara Haddad')
  await page.getByText('Take over', { exact: true }).click()
  await page.getByRole('button', { name: 'Yes, take over' }).click()
  await expect(page.getByText(/enrolled as placed/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/enrolled as placed/)).toHaveCount(0)
  await expect(page.locator('.head')).not.toContainText('taken over')
  await page.goto('/stairs/office')
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'CSV' }).click()])
  expect(fs.readFileSync(await csv.path(), 'utf8')).toContain('waiting list, no. 1')
  const [xlsx] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'XLSX' }).click()])
  expect(
    fs
      .readFileSync(await xlsx.path())
      .subarray(0, 2)
      .toString(),
  ).toBe('PK')
  await accessible(page, 'office list')
})

test('a guardian’s link before and after it is withdrawn', async ({ browser }) => {
  await page.goto('/stairs')
  await token('Tove Nygaard').click()
  await page.locator('#why h2').getByRole('link', { name: 'Tove Nygaard' }).click()
  await page.getByText('Make a link').first().click()
  await page.getByLabel('For', { exact: true }).fill('mother')
  await page.getByRole('button', { name: 'Make a link' }).click()
  const link = await page.locator('.fresh-link').innerText()
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const guardian = await context.newPage()
  await guardian.goto(link)
  await expect(guardian.getByRole('heading', { level: 1 })).toHaveText('Tove’s page')
  await expect(guardian.locator('main')).toContainText('Comes next')
  await expect(guardian.getByRole('link')).toHaveText(['into my calendar', /^write to /]) // and nowhere else
  await accessible(guardian, 'guardian’s page')
  await page.getByRole('button', { name: 'Withdraw the link for mother' }).click()
  await expect(page.locator('#guardians')).toContainText('withdrawn')
  await guardian.reload()
  await expect(guardian.getByRole('heading', { level: 1 })).toHaveText('This link shows nothing any more')
  await expect(guardian.locator('body')).not.toContainText('Tove')
  await accessible(guardian, 'a link that is withdrawn')
  await context.close()
})

test('all of it on a phone', async () => {
  await page.setViewportSize({ width: 390, height: 844 })
  for (const path of [
    '/stairs',
    '/stairs/decide',
    '/stairs/record',
    '/stairs/meeting',
    '/stairs/agree',
    '/stairs/places',
    '/stairs/ladder',
    '/stairs/office',
  ]) {
    await page.goto(path)
    await accessible(page, path + ' on a phone')
  }
  await page.goto('/stairs/ladder')
  await page.getByRole('link', { name: 'Edit Jump-shot approach' }).click()
  await expect(page.getByLabel('The figure that is good enough')).toBeHidden()
  await accessible(page, 'criterion on a phone')
})
