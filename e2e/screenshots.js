import { expect, test } from '@playwright/test'
import { signIn } from './steps.js'

const to = (name) => ({ path: `../docs/screenshots/${name}.png`, animations: 'disabled' })

test('pictures of the main views', async ({ page }) => {
  const shot = async (path, name) => {
    if (path) await page.goto(path)
    await page.evaluate(() => document.fonts.ready)
    await page.screenshot(to(name))
  }
  await shot('/sign-in', 'sign-in')
  await signIn(page)
  await shot('/', 'today')
  await shot('/roster', 'roster')
  await shot('/shelf', 'shelf')
  await page.getByRole('link', { name: /Jump-shot approach/ }).click()
  await shot('', 'drill')
  await shot('/sessions', 'sessions')
  const plan = await page.locator('li', { has: page.getByRole('heading', { name: 'Tuesday hall' }) }).locator('.planned a').first().getAttribute('href')
  await shot(plan, 'plan')
  await page.goto(plan + '/print')
  await page.emulateMedia({ media: 'print' })
  await page.setViewportSize({ width: 794, height: 1123 })
  await shot('', 'print')
  await page.emulateMedia({ media: 'screen' })
  await page.setViewportSize({ width: 1280, height: 800 })
  await shot('/marks', 'marks')
  await shot('/stairs', 'stairs')
  await page.locator('#why h2 a').click()
  await shot('', 'player')
  await page.goto('/roster/import')
  await page.getByLabel('Or paste the rows').fill('Name;Born;Stage;Side;Keep with\nNerea Olabarri;2015;Shore;right;Aino Laine\nTarek Osman;2031;Shore;left;\nAino Laine;2014;Tide;;\nYuto Mori;2014;Shor;;')
  await page.getByRole('button', { name: 'Look it over' }).click()
  await shot('', 'import')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto('/courtside/' + plan.split('/').pop())
  await shot('', 'courtside-register')
  await page.getByRole('button', { name: 'Start the session' }).click()
  for (let i = 0; i < 4; i++) {
    const was = await page.locator('.court-now').innerText()
    await page.getByRole('button', { name: 'Next now' }).click()
    await expect(page.locator('.court-now')).not.toHaveText(was)
  }
  await page.getByRole('button', { name: /^Station 1/ }).click()
  for (const [row, tries] of ['1110111', '101', '11111'].entries()) {
    for (const t of tries) await page.locator('.mark-row').nth(row).locator(t === '1' ? '.good' : '.miss').click()
  }
  await expect(page.locator('.sync')).toHaveText('in step')
  await page.evaluate(() => scrollTo(0, 0))
  await shot('', 'courtside')
})
