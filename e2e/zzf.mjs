import { chromium } from '@playwright/test'
import { signIn } from './steps.js'
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu'] })
const page = await (await browser.newContext({ baseURL: 'http://127.0.0.1:8091', viewport: { width: 1280, height: 800 } })).newPage()
page.setDefaultTimeout(5000)
page.on('pageerror', (e) => console.log('ERR', e.message))
await signIn(page)
const ids = await page.locator('a[href^="/courtside/"]').evaluateAll((a) => [...new Set(a.map((x) => x.getAttribute('href')))])
console.log(ids)
await page.goto(ids.find((x) => /courtside\/[0-9a-f-]{36}$/.test(x)))
await page.getByRole('button', { name: 'Start the session' }).click({ timeout: 1500 }).catch(() => 0).catch(() => 0)
await page.getByRole('button', { name: 'Start it now' }).click({ timeout: 1500 }).catch(() => 0)
await page.waitForTimeout(500)
const tried = new Set()
for (let i = 0; i < 110; i++) {
  const next = await page.evaluate((tried) => {
    const all = [...document.querySelectorAll('main button, main summary')].filter((b) => b.checkVisibility() && !b.disabled)
    for (const b of all) {
      const t = (b.getAttribute('aria-label') || b.textContent.trim().replace(/\s+/g, ' ')).slice(0, 60)
      const k = (t.replace(/\d+/g, '#').split(' ').slice(-2).join(' ') + b.className).slice(0, 60)
      if (tried.includes(k) || /end the session|sign out/i.test(t)) continue
      b.focus()
      return [k, t, document.activeElement === b]
    }
  }, [...tried])
  if (!next) { // another tab
    const tab = page.locator('nav.court-tabs button, .court-tabs button').nth(i % 8)
    if (await tab.count()) await tab.click().catch(() => 0)
    await page.waitForTimeout(300)
    continue
  }
  tried.add(next[0])
  if (!next[2]) continue
  await page.keyboard.press('Enter')
  await page.waitForTimeout(900)
  const r = await page.evaluate(() => [document.activeElement === document.body, document.activeElement.checkVisibility(), (document.activeElement.getAttribute('aria-label') || document.activeElement.textContent.trim()).slice(0, 50)])
  if (r[0] || !r[1]) console.log(next[1], '→', r)
}
console.log(tried.size, [...tried].join(' | ').slice(0, 3000))
await browser.close()
