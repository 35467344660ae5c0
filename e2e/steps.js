import { expect } from '@playwright/test'
import { readFileSync } from 'node:fs'

const axe = readFileSync(new URL('node_modules/axe-core/axe.min.js', import.meta.url), 'utf8')

export const password = 'saltmarsh-demo'

// watch fails the test on any error a page reports: scripts, and what the Content-Security-Policy blocked.
export function watch(page, allow = []) {
  const errors = []
  page.on('pageerror', (e) => errors.push(e.message))
  page.on('console', (m) => {
    if (
      m.type() === 'error' &&
      !/ERR_INTERNET_DISCONNECTED|ERR_CONNECTION|Failed to fetch|status of 4/.test(m.text()) &&
      !allow.some((a) => a.test(m.text()))
    )
      errors.push(m.text())
  })
  return () => expect(errors).toEqual([])
}

export async function signIn(page, who = 'ines') {
  await page.goto('/sign-in')
  await page.getByLabel('E-mail').fill(who + '@saltmarsh.example')
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.waitForURL('/')
}

// accessible runs axe with the rules of WCAG 2.2 A and AA, and looks for pages wider than the screen.
// With readable it also asks for the contrast of AAA, as a phone in the sun needs it.
export async function accessible(page, what, readable = false) {
  const size = page.viewportSize()
  if (readable) await page.setViewportSize({ ...size, height: 3600 }) // where one scrolls to, nothing lies under the bars
  if (!(await page.evaluate(() => Boolean(window.axe)))) await page.evaluate(axe)
  const violations = await page.evaluate(async (readable) => {
    // letters beside a drawn ::before are judged too, instead of being left undecided; it also takes half as long
    const checks = ['color-contrast', 'color-contrast-enhanced'].map((id) => ({ id, options: { ignorePseudo: true } }))
    window.axe.configure({ checks })
    const contrast = { 'color-contrast-enhanced': { enabled: readable }, 'color-contrast': { enabled: !readable } }
    const r = await window.axe.run({
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
      resultTypes: ['violations'], // what passes is not listed
      rules: contrast,
      preload: false, // no page brings sounds or films
    })
    return r.violations
  }, readable)
  expect
    .soft(
      violations.map(
        (v) =>
          `${what}: ${v.id} at ${v.nodes
            .slice(0, 3)
            .map((n) => n.target)
            .join(', ')}: ${v.nodes[0].failureSummary}`,
      ),
    )
    .toEqual([])
  expect
    .soft(
      await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
      what + ' is wider than the screen',
    )
    .toBeLessThanOrEqual(0)
  if (readable) await page.setViewportSize(size)
}

// linkOf makes a link for a player's home and answers its address.
export async function linkOf(page, player, own = false) {
  await page.goto('/roster')
  await page.getByRole('searchbox').fill(player)
  await page.getByRole('link', { name: player }).first().click()
  await page.waitForURL(/\/(roster\/player|players)\//)
  if (!/\/players\//.test(page.url())) await page.goto(page.url().replace('/roster/player/', '/players/'))
  await page.locator('#guardians summary').click()
  await page.getByLabel('For', { exact: true }).fill('home of ' + player)
  if (own) await page.getByLabel('It is for the grown-up player themselves').check()
  await page.getByRole('button', { name: 'Make a link' }).click()
  return page.locator('.fresh-link').getAttribute('href')
}
