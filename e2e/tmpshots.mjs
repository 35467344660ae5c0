import { chromium } from '@playwright/test'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
const open = async (w, h) => { const p = await (await b.newContext({ baseURL: 'http://127.0.0.1:9191', viewport: { width: w, height: h }, hasTouch: w < 500 })).newPage(); p.on('pageerror', (e) => console.log('ERR', e.message)); await p.goto('/sign-in'); await p.getByLabel('E-mail').fill('ines@saltmarsh.example'); await p.getByLabel('Password').fill('saltmarsh-demo'); await p.getByRole('button', { name: 'Sign in' }).click(); await p.waitForURL('/'); return p }
const p = await open(1280, 800)
const shot = async (n, pg = p, full = false) => pg.screenshot({ path: '/tmp/shots/' + n + '.png', fullPage: full })
await p.goto('/sessions')
const plan = await p.locator('li', { has: p.getByRole('heading', { name: 'Tuesday hall' }) }).locator('.planned a').first().getAttribute('href')
await p.goto(plan); await p.waitForTimeout(800); await shot('plan')
const finds = await p.locator('.findings').innerText(); console.log(finds)
for (const n of ['Thursday hall', 'Saturday Shore', 'Saturday squad', 'Adult beginners']) { await p.goto('/sessions'); const q = await p.locator('li', { has: p.getByRole('heading', { name: n }) }).locator('.planned a').first().getAttribute('href'); await p.goto(q); await p.waitForTimeout(400); console.log(n, '\n', await p.locator('.findings').innerText()) }
await p.goto(plan + '/what-if'); await p.locator('select[name=late]').first().selectOption({ index: 2 }); await p.locator('select[name=late]').nth(1).selectOption({ index: 3 }); await p.locator('select[name=hurt]').first().selectOption({ index: 4 }); await p.getByRole('button', { name: 'Show what changes' }).click(); await p.waitForTimeout(400); await shot('whatif', p, true)
await p.goto('/stairs/ladder'); await p.locator('tr', { hasText: 'Shots from nine metres' }).locator('a[href^="/stairs/criterion/"]').first().click(); await p.waitForTimeout(600); await shot('criterion', p, true)
await p.goto('/shelf'); await p.goto('/shelf?q=seven'); const d = await p.getByRole('link', { name: /Seven throws/ }).first().getAttribute('href'); await p.goto(d); await p.waitForTimeout(300); await shot('drill', p, true)
const f = await open(390, 844)
const id = plan.split('/').pop()
await f.goto('/courtside/' + id); await f.waitForTimeout(500); await shot('court-reg', f)
await f.getByRole('button', { name: 'Look', exact: true }).tap(); const first = f.locator('section[aria-label="First look"] .mark-row').first().locator('button').first(); await first.tap(); await first.tap(); await f.locator('section[aria-label="First look"] .mark-row').nth(1).locator('button').first().tap(); await f.waitForTimeout(300); await shot('court-look', f)
await b.close()
