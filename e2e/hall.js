// What the tests of the hall do again and again.
import { expect } from '@playwright/test'
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
// keptOn are the names of what a device keeps of its sessions: items that are not let go yet, or values.
export const keptOn = (page, store) =>
  page.evaluate(
    (store) =>
      new Promise((done) => {
        const opened = indexedDB.open('gruppo')
        opened.onsuccess = () => {
          const all = opened.result.transaction(store).objectStore(store).getAllKeys()
          all.onsuccess = () => {
            opened.result.close()
            done(all.result.map((k) => k[2]))
          }
        }
      }),
    store,
  )
export const station = (page, n) => page.getByRole('button', { name: new RegExp('^Station ' + n) }).click()
export const flashGone = async (page) => {
  if (await page.locator('.court-flash').isVisible())
    await page
      .locator('.court-flash')
      .click({ timeout: 3000 })
      .catch(() => {})
}
export const contrast = (page, what) => accessible(page, what, true)

export const version = (page) => page.locator('#plan').getAttribute('data-version')
// changes does something to the plan, and waits until it is there.
export const changes = async (page, does) => {
  const was = await version(page)
  await does()
  await expect(page.locator('#plan')).not.toHaveAttribute('data-version', was)
}
// choose takes something of a list that is filled when it is opened.
export const choose = async (page, list, what) => {
  await page.locator(list).focus()
  await changes(page, () => page.locator(list).selectOption(what))
}
// addAfter puts a block after another, by the small set above the Strip.
export const addAfter = async (page, at, kind) => {
  await page.locator('#bar-' + at).click()
  await changes(page, () => page.getByRole('button', { name: kind, exact: true }).click())
}
// finding is what the check has found, in sight: what is not among the worst two is opened first.
export const finding = async (page, says) => {
  const it = page.locator('.finding', { hasText: says })
  await expect(it).not.toHaveCount(0)
  if (!(await it.first().isVisible())) await page.locator('#rest > summary').click()
  return it
}
export const block = (page, kind) => page.locator('.bar[data-kind=' + kind + ']').first()
// skipTo goes on from segment to segment until something is there.
export const skipTo = async (page, what) => {
  const now = page.locator('.court-now div') // what is on, and what comes then
  for (let i = 0; i < 40 && !(await what.isVisible()); i++) {
    await flashGone(page)
    const was = await now.innerText()
    await page.getByRole('button', { name: / now$/ }).click()
    await expect(now).not.toHaveText(was, { useInnerText: true })
  }
  await flashGone(page)
}
/** started opens a session on a phone and starts it, on a day that is not its own. */
export const started = async (phone, id) => {
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap()
}

// register says of somebody that they are here, or are not: a tap turns it.
export const register = async (page, name, state) => {
  const tap = page.getByRole('group', { name, exact: true }).locator('.reg-who')
  for (let i = 0; i < 2 && (await tap.locator('.reg-state').innerText()) !== state; i++) await tap.tap()
  await expect(tap.locator('.reg-state')).toHaveText(state)
}
