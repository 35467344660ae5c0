// What the tests of the hall do again and again.
import { accessible, signIn } from './steps.js'

// device is a phone, or a laptop, with somebody signed in; nobody where who is empty.
export const device = async (browser, url, who, phone = true) => {
  const page = await (
    await browser.newContext({
      baseURL: url,
      viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
      hasTouch: phone,
    })
  ).newPage()
  if (who) await signIn(page, who)
  return page
}

// sessionOf is the id of a class's next session.
export const sessionOf = async (page, name) => {
  await page.goto('/sessions')
  const planned = page.locator('li', { has: page.getByRole('heading', { name }) }).locator('.planned a')
  return (await planned.first().getAttribute('href')).split('/').pop()
}
export const station = (page, n) => page.getByRole('button', { name: new RegExp('^Station ' + n) }).click()
export const flashGone = async (page) => {
  if (await page.locator('.court-flash').isVisible())
    await page
      .locator('.court-flash')
      .click({ timeout: 3000 })
      .catch(() => {})
}
export const contrast = (page, what) => accessible(page, what, true)
