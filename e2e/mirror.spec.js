// Eyes beside the station: the delayed mirror with the browser's made-up camera, and the timing gate with its stand-in.
import { spawn } from 'node:child_process'
import { contrast, device, flashGone, sessionOf, station } from './hall.js'
import { binary } from './program.js'
import { accessible, watch } from './steps.js'
import { expect, test } from './test.js'

test.describe.configure({ mode: 'serial' })
test.use({
  clock: '2026-11-24T17:58:00Z',
  launchOptions: {
    executablePath: process.env.CHROMIUM || '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', '--disable-gpu', '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'],
  },
})

test('the mirror: asked once, some seconds late, held, stepped, slow; a clip stays here and is wiped; an angle is a mark', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'ines', false),
    end = watch(page)
  await page.context().grantPermissions(['camera'])
  const session = await sessionOf(page, 'Tuesday hall')
  await page.goto('/stairs/ladder')
  await page.goto(await page.getByRole('link', { name: 'Add a criterion to Shore' }).getAttribute('href'))
  for (const [field, value] of [
    ['Shows', 'Front knee'],
    ['Skill', 'landing'],
  ])
    await page.getByLabel(field, { exact: true }).fill(value)
  await page.locator('[name=measure]').selectOption('angle')
  await page.locator('[name=must]').selectOption('choose')
  await page.locator('[name=want]').fill('90')
  await page.locator('[name=tolerance]').fill('10')
  await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await page.waitForURL(/\/stairs\/ladder/)
  // whose picture may not be taken is a limit like others
  const state = () => page.request.get(`/courtside/${session}/state`).then((r) => r.json())
  const mina = (await state()).players.find((p) => p.name.startsWith('Mina'))
  await page.goto('/roster/player/' + mina.id)
  await page.locator('[name=limit]').last().fill('pictures')
  await page.getByRole('button', { name: 'Keep' }).click()

  const mirror = '/courtside/' + session + '/mirror'
  await page.goto(mirror)
  const ask = page.locator('.mirror-ask')
  await expect(ask).toContainText('No pictures of ' + mina.name)
  await expect(ask).toContainText('Clips are off')
  await accessible(page, 'the mirror asks')
  const sent = []
  page.on('request', (r) => r.method() !== 'GET' && sent.push(new URL(r.url()).pathname))
  await page.getByRole('button', { name: /^Begin/ }).click()
  await page.getByRole('slider').fill('2')
  const shown = () => page.locator('canvas').getAttribute('data-at').then(Number)
  await expect(page.locator('.mirror-ago b')).toHaveText('2 s ago')
  const late = await page.evaluate(() => Date.now() - Number(document.querySelector('canvas').dataset.at))
  expect(late).toBeGreaterThan(1900)
  expect(late).toBeLessThan(2600)
  await expect(page.getByRole('button', { name: 'Keep a clip' })).toBeHidden() // the club has not said that it may
  await accessible(page, 'the mirror')
  await page.getByRole('button', { name: 'Hold' }).click()
  await page.waitForTimeout(200) // the picture that was being drawn
  const held = await shown()
  await page.waitForTimeout(500)
  expect(await shown()).toBe(held)
  await page.keyboard.press('ArrowLeft')
  await expect.poll(shown).toBeLessThan(held)
  expect(held - (await shown())).toBeLessThan(1500) // one picture, however few a busy machine takes
  await page.getByRole('button', { name: 'frame ▶' }).click()
  await expect.poll(shown).toBe(held)
  const from = Date.now()
  await page.getByRole('button', { name: 'slow' }).click()
  await page.waitForTimeout(1000)
  await expect.poll(shown).toBeGreaterThan(held + 100)
  expect((await shown()) - held).toBeLessThan((Date.now() - from) / 2) // a quarter, and the pictures are some way apart
  await page.getByRole('button', { name: 'Back to now' }).click()
  await expect(page.locator('.mirror-ago b')).toHaveText('2 s ago')

  // a right angle over it becomes a mark of the one it is of
  await page.getByRole('button', { name: 'angle' }).click()
  const b = await page.locator('.mirror-picture').boundingBox()
  for (const [x, y] of [
    [300, 300],
    [300, 500],
    [500, 500],
  ])
    await page.mouse.click(b.x + x, b.y + y)
  await expect(page.locator('.mirror-picture text')).toHaveText('90°')
  // and again by the keys alone
  await page.getByRole('button', { name: 'angle', exact: true }).press('Enter')
  await page.getByRole('button', { name: 'angle', exact: true }).press('Enter')
  const keys = async (...all) => {
    for (const k of all) await page.keyboard.press(k)
  }
  await keys('ArrowUp', 'Enter', ...Array(8).fill('ArrowDown'), 'Enter', ...Array(8).fill('ArrowRight'), 'Enter')
  await expect(page.locator('.mirror-picture text')).toHaveText('90°')
  await accessible(page, 'the mirror, drawn on')
  const whose = page.getByLabel('Whose it is')
  await expect(whose).not.toContainText(mina.name) // no pictures of her
  const shore = (await state()).criteria.find((c) => c.wording === 'Front knee').stage
  const who = (await state()).players.find((p) => p.stage === shore && p.id !== mina.id).name
  await whose.selectOption(who)
  await page.getByRole('button', { name: '90° for ' + who + ': keep as mark' }).click()
  await expect(page.locator('.mirror-mark')).toContainText('90° is kept.')
  await expect.poll(async () => (await state()).marks.filter((m) => m.said.includes('90°') && m.meets).length).toBe(1)

  // the club allows clips: one is kept here, also over a reload, and can be wiped
  await page.goto('/account')
  await page.getByLabel('Days that a mirror keeps a clip').fill('61')
  await page.locator('form[action="/account/care"] button').click()
  await expect(page.getByLabel('Days that a mirror keeps a clip')).toHaveValue('61')
  await page.getByLabel('Days that a mirror keeps a clip').fill('3')
  await page.locator('form[action="/account/care"] button').click()
  await page.goto(mirror)
  await page.getByRole('button', { name: /^Begin/ }).click()
  await expect(page.locator('.mirror-ago b')).toHaveText('2 s ago')
  await whose.selectOption(who)
  await page.getByRole('button', { name: 'Keep a clip' }).click()
  await expect(page.locator('.mirror-clips button')).toHaveText(new RegExp(who.split(' ')[0] + ' \\d\\d:\\d\\d'))
  // it stands on their card, on this device, and leads back to it
  await page.goto('/courtside/' + session)
  await page
    .getByRole('button', { name: /^Station/ })
    .first()
    .click()
  for (const tab of await page.getByRole('button', { name: /^Station/ }).all()) {
    await tab.click()
    if (await page.locator('.mark-row .name', { hasText: who }).isVisible()) break
  }
  await page.locator('.mark-row .name', { hasText: who }).click()
  await page
    .getByRole('group', { name: 'Card' })
    .getByRole('link', { name: /\d\d:\d\d/ })
    .click()
  await expect(page.locator('.mirror-ago b')).toHaveText('Clip')
  await page.reload()
  await expect(page.locator('.mirror-ago b')).toHaveText('Clip')
  await page.getByRole('button', { name: 'Wipe this clip' }).click()
  await expect(page.locator('.mirror-clips button')).toHaveCount(0)
  expect(new Set(sent.filter((p) => !/inbox|account/.test(p)))).toEqual(new Set()) // no picture went anywhere
  end()
  await page.context().close()

  // without leave to use the camera it says so
  const shy = await device(browser, program.url, 'ines', false)
  await shy.addInitScript(() => {
    navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError'))
  })
  await shy.goto(mirror)
  await shy.getByRole('button', { name: /^Begin/ }).click()
  await expect(shy.locator('.mirror-ask')).toContainText('The camera was not given')
  await shy.context().close()
})

test('a timing gate: its stand-in sends to the door code, the pad takes the time for who is up, and asks about one out of all reason', async ({
  browser,
  program,
}) => {
  const phone = await device(browser, program.url, 'ines'),
    end = watch(phone)
  const session = await sessionOf(phone, 'Tuesday hall')
  for (const stage of ['Shore', 'Reef']) {
    await phone.goto('/stairs/ladder')
    await phone.goto(await phone.getByRole('link', { name: 'Add a criterion to ' + stage }).getAttribute('href'))
    await phone.getByLabel('Shows', { exact: true }).fill('Shuttle')
    await phone.getByLabel('Skill', { exact: true }).fill('passing')
    await phone.locator('[name=measure]').selectOption('time')
    await phone.locator('[name=must]').selectOption('choose')
    await phone.locator('[name=want]').fill('1')
    await phone.getByRole('button', { name: /^Keep( edition)?$/ }).click()
    await phone.waitForURL(/\/stairs\/ladder/)
  }
  await phone.goto('/courtside/' + session + '/door')
  const code = (await phone.locator('.door-code').innerText()).trim()
  await phone.goto('/courtside/' + session)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  for (let i = 0; i < 30 && !(await phone.locator('.court-now b').innerText()).match(/work/i); i++) {
    await flashGone(phone)
    await phone.getByRole('button', { name: / now$/ }).tap()
  }
  await flashGone(phone)
  await station(phone, 1)
  const rows = phone.locator('.mark-row[data-player]')
  for (let i = 0; i < (await rows.count()); i++) {
    const crit = rows.nth(i).locator('.crit')
    for (let k = 0; k < 24 && !(await crit.innerText()).includes('Shuttle'); k++) await crit.tap()
    await expect(crit).toContainText('Shuttle')
  }
  const gate = (seconds, runs) =>
    new Promise((done, fail) =>
      spawn(
        binary,
        ['gate', code, '--to', program.url, '--seconds', seconds, '--spread', '0', '--runs', runs, '--every', '100ms'],
        {
          stdio: 'inherit',
        },
      ).on('exit', (is) => (is ? fail(new Error('the gate ended with ' + is)) : done())),
    )
  const crossed = phone.locator('.what-now.is-gate')
  const names = await rows.evaluateAll((all) => all.map((r) => r.dataset.player))
  for (const name of names.slice(0, 3)) {
    await gate('0.8', '1')
    await expect(crossed).toContainText('Gate: 0.80 s')
    await expect(crossed).not.toContainText('reason')
    await crossed.getByRole('button', { name: 'for ' + name }).tap()
    await expect(crossed).toBeHidden()
  }
  await contrast(phone, 'times from a gate')
  await gate('3', '1')
  await expect(crossed).toContainText('Gate: 3.00 s: out of all reason?')
  await crossed.getByRole('button', { name: 'not valid' }).tap()
  await expect(crossed).toBeHidden()
  await expect
    .poll(async () => {
      const { marks } = await (await phone.request.get(`/courtside/${session}/state`)).json()
      return marks.filter((m) => m.said === '0.8 s' && m.meets).length
    })
    .toBe(3)
  await phone.reload()
  await station(phone, 1)
  end()
})
