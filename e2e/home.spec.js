// Practice at home, tests that come back and calendars: what leaves the hall, and what comes back.
import ICAL from 'ical.js'
import { expect, test } from './test.js'
import { bring, names, setUpClass, startClub } from './clubs.js'
import { device } from './hall.js'
import { accessible, linkOf, watch } from './steps.js'

const dates = (text) => new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((v) => new ICAL.Event(v))

test('a class task is given, ticked at two homes, one of them without network, and stands in the register', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'ines', false),
    end = watch(page)
  await page.keyboard.press('g')
  await page.keyboard.press('e')
  await page.getByRole('link', { name: 'At home' }).click()
  await accessible(page, 'practice at home')
  await page.getByRole('link', { name: 'Give practice' }).click()
  await page.getByLabel('Class', { exact: true }).selectOption({ label: 'Tuesday hall (19)' })
  await page.getByLabel('Drill, pattern, or words').fill('Lob and catch')
  await page.getByLabel('How much').fill('twice')
  await page.getByLabel('Instead of kit').fill('a rolled sock')
  await page.getByRole('button', { name: 'One more part' }).click()
  await expect(page.getByLabel('How much').first()).toHaveValue('twice') // nothing typed is lost
  await page.getByLabel('Then').fill('Hops over a line')
  await page.getByLabel('How much').nth(1).fill('1:30')
  await page.getByText('It grows, opens step by step').click()
  await page.getByLabel('One part at a time').check()
  await page.getByLabel('Levels').fill('10, 20, 30')
  await page.getByRole('textbox', { name: 'of', exact: true }).fill('catches')
  await page.getByRole('textbox', { name: 'From' }).fill('2026-11-16')
  await accessible(page, 'giving practice')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('How much is written like 2 min, 45 s or 20.')).toBeInViewport()
  await expect(page.getByLabel('How much').first()).toBeFocused()
  await expect(page.getByLabel('How much').first()).toHaveAccessibleDescription(/^How much is written like/)
  await page.getByLabel('How much').first().fill('2 min')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Lob and catch' })).toBeVisible()
  const task = page.url()
  await accessible(page, 'who practised')

  const bo = await device(browser, program.url, ''),
    mina = await device(browser, program.url, ''),
    ends = [bo, mina].map((p) => watch(p))
  const link = await linkOf(page, 'Bo Lindahl'),
    other = await linkOf(page, 'Mina Ferro')
  // one home has network
  await bo.goto(link)
  await accessible(bo, 'a guardian’s page')
  const section = bo.locator('section', { has: bo.getByRole('heading', { name: 'Lob and catch', level: 2 }) })
  await expect(section.getByText('a rolled sock')).toBeVisible()
  await expect(section.getByText('Hops over a line')).toHaveCount(0) // not open yet
  await expect(section.locator('svg.diagram')).toBeVisible()
  const monday = section.getByRole('button', { name: /^Monday/ }).first()
  // the page that follows from the first tap comes late: it takes back nothing that was said or typed meanwhile
  await bo.evaluate(() => {
    const { fetch } = window
    window.late = []
    window.fetch = (to, how) => {
      const answer = fetch(to, how)
      return how ? answer : new Promise((done) => window.late.push(() => done(answer)))
    }
  })
  const asked = (n) => expect.poll(() => bo.evaluate(() => window.late.length)).toBe(n)
  await monday.click()
  await asked(1)
  await section.getByRole('button', { name: 'easy' }).click()
  await asked(2)
  await section.getByLabel('catches').fill('21')
  await section.getByLabel('A word to the coach').fill('went well')
  await section.getByLabel('A word to the coach').blur()
  await bo.evaluate(async () => {
    for (const done of window.late.splice(0)) done()
    await new Promise((done) => setTimeout(done, 200))
  })
  await section.getByRole('button', { name: 'Keep' }).click()
  await asked(1)
  await bo.evaluate(() => window.late[0]())
  await expect(section.getByText('Best so far: 21 catches, level 2 of 3')).toBeVisible()
  await bo.reload()
  await expect(monday).toHaveAttribute('aria-pressed', 'true')
  await monday.click() // a day that is ticked is looked at first
  await expect(section.getByRole('button', { name: 'easy' })).toHaveAttribute('aria-pressed', 'true')
  await expect(section.getByLabel('A word to the coach')).toHaveValue('went well')
  // last week is made up for: what was unfolded stays so while the page follows
  const before = section.locator('details', { hasText: 'Last week' })
  await before.locator('summary').click()
  const followed = bo.waitForResponse(
    (r) => r.request().method() === 'GET' && new URL(r.url()).pathname === new URL(link).pathname,
  )
  await before.getByRole('button', { name: /^Friday/ }).click()
  await followed
  await bo.waitForTimeout(200)
  await expect(before.getByRole('button', { name: /^Friday/ })).toBeVisible()

  // the other loses it: the page opens all the same, what is ticked waits, and arrives once
  await mina.goto(other)
  await mina.evaluate(() => navigator.serviceWorker.ready)
  const kept = () =>
    mina.evaluate(async () => {
      const all = []
      for (const name of await caches.keys())
        for (const r of await (await caches.open(name)).keys()) all.push(new URL(r.url).pathname)
      return all
    })
  await expect.poll(async () => (await kept()).filter((p) => p.startsWith('/for/')).length).toBe(1)
  await expect.poll(async () => (await kept()).filter((p) => /home-.*\.js/.test(p)).length).toBe(1)
  expect((await kept()).join(' ')).not.toContain(new URL(other).pathname) // the address is in no cache
  await mina.context().setOffline(true)
  await mina.reload()
  const hers = mina.locator('section', { has: mina.getByRole('heading', { name: 'Lob and catch', level: 2 }) })
  await hers
    .getByRole('button', { name: /^Monday/ })
    .first()
    .click()
  await hers.getByRole('button', { name: 'hard' }).click()
  await expect(mina.getByText('No network. What you tick is kept here')).toBeVisible()
  await mina.reload()
  await expect(hers.getByRole('button', { name: /^Monday/ }).first()).toHaveAttribute('aria-pressed', 'true')
  await mina.context().setOffline(false)
  await expect(mina.getByText('No network.')).toBeHidden()
  await page.goto(task)
  const row = (name) => page.getByRole('row', { name: new RegExp('^' + name) })
  await expect(async () => {
    await page.reload()
    await expect(row('Mina Ferro').getByText('done, hard')).toHaveCount(1, { timeout: 1000 })
  }).toPass()
  await expect(row('Bo Lindahl').getByText('done, easy')).toHaveCount(1)
  await expect(page.getByText('went well')).toBeVisible()

  // in the hall, in the register
  await page.goto('/')
  await page.goto(
    '/courtside/' + (await page.locator('a[href^="/sessions/"]').first().getAttribute('href')).split('/')[2],
  )
  await page.getByRole('button', { name: /^Register/ }).click()
  await expect(page.locator('.reg-row', { hasText: 'Bo Lindahl' }).getByText(/at home \d+ of \d+/)).toBeVisible()

  // on paper: a sheet for each player, none of them empty
  await page.goto(task + '/sheet')
  await expect(page.locator('.practice-page')).toHaveCount(19)
  await expect(page.locator('.practice-page').first().locator('.practice-box').first()).toBeVisible()

  // withdrawn, the page is gone from the phone too
  await page.goto('/roster')
  await page.getByRole('searchbox').fill('Mina Ferro')
  await page.getByRole('link', { name: 'Mina Ferro' }).first().click()
  if (!/\/players\//.test(page.url())) await page.goto(page.url().replace('/roster/player/', '/players/'))
  await page.locator('#guardians').getByRole('button', { name: 'Withdraw' }).first().click()
  await mina.reload()
  await expect(mina.getByText('This link shows nothing any more')).toBeVisible()
  await expect.poll(async () => (await kept()).filter((p) => p.startsWith('/for/')).length).toBe(0)
  end()
  ends.forEach((e) => e())
})

test('calendars: one brought in, three taken out, read by another library, and a date that is moved with who is told', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'ines', false),
    end = watch(page)
  await page.goto('/season')
  await page.getByText('Holidays, events').click()
  await page.locator('#off-file').setInputFiles({
    name: 'school.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(
      'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nDTSTART;VALUE=DATE:20261203\r\nDTEND;VALUE=DATE:20261205\r\nSUMMARY:Teachers’ days\r\nEND:VEVENT\r\n' +
        'BEGIN:VEVENT\r\nSUMMARY:No date\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n',
    ),
  })
  await page.getByRole('button', { name: 'Look into it' }).click()
  await expect(page.getByText('Line 8 could not be read: it has no beginning.')).toBeVisible()
  await accessible(page, 'a calendar brought in')
  await page.getByRole('button', { name: 'Take these' }).click()
  await expect(page.getByRole('cell', { name: 'Teachers’ days' }).first()).toBeVisible()

  await page.goto('/calendars')
  await page.getByRole('button', { name: 'Make an address: your sessions' }).click()
  const mine = await page.locator('.fresh-link').getAttribute('href')
  await accessible(page, 'calendars')
  await page.getByRole('button', { name: 'Make an address: Tuesday hall' }).click()
  const ofClass = await page.locator('.fresh-link').getAttribute('href')
  const home = (await linkOf(page, 'Bo Lindahl')) + '/dates.ics'
  const read = async (address) => {
    const answer = await page.request.get(address)
    expect(answer.headers()['content-type']).toContain('text/calendar')
    return dates(await answer.text())
  }
  const tuesday = (await read(ofClass)).filter((e) => e.summary.startsWith('Tuesday hall'))
  expect(tuesday.length).toBeGreaterThan(3)
  expect((await read(home)).map((e) => e.uid)).toEqual(expect.arrayContaining(tuesday.map((e) => e.uid)))
  expect((await read(mine)).length).toBeGreaterThan(tuesday.length)
  const off = (await read(home)).find((e) => e.summary === 'Teachers’ days')
  expect([off.startDate.toString(), off.endDate.toString()]).toEqual(['2026-12-03', '2026-12-05'])

  // moved: the same event at another time, and who hears of it
  const next = tuesday.at(-1)
  await page.goto('/sessions/' + next.uid.split('@')[0] + '/more')
  await page.getByLabel('Move it to').fill('2026-12-02')
  await page.getByLabel('at', { exact: true }).fill('19:15')
  await accessible(page, 'moving a date')
  await page.getByRole('button', { name: 'Move it' }).click()
  await expect(page.locator('.toast')).toContainText('is moved to Wed 2 Dec, 19:15')
  await expect(page.locator('.toast')).toContainText('yourself: they asked for no mail')
  const moved = (await read(home)).find((e) => e.uid === next.uid)
  expect(moved.startDate.toJSDate().toISOString()).toBe('2026-12-02T19:15:00.000Z')
  expect(moved.description).toContain('Moved from')
  await page.goto('/season')
  await expect(page.getByRole('row', { name: /^Tuesday hall/ }).locator('[data-day="2026-12-02"]')).toBeVisible()
  await page.goto('/calendars')
  await page.getByRole('button', { name: 'Withdraw' }).first().click()
  expect((await page.request.get(mine)).status()).toBe(404)
  await page.goto('/account/mail')
  await expect(page.getByText('to tomasz@saltmarsh.example').first()).toBeVisible()
  await accessible(page, 'mails')
  end()
})

test('a test on three Tuesdays in a club west of UTC: on the pad, without network, and by the lead', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, '', true),
    end = watch(page)
  await startClub(page, {
    club: 'Millrace Softball',
    program: 'Softball',
    zone: 'America/Los_Angeles',
    imperial: true,
    lead: 'Robin Lead',
  })
  const who = names(8)
  await bring(page, 'Name\tStage\n' + who.map((n) => n + '\t').join('\n'))
  await setUpClass(page, { name: 'Evening nine', floor: 'Plain hall', places: '12' })
  await page.goto('/season')
  await page.getByRole('link', { name: 'Set a test' }).click()
  await page.getByLabel('Called').fill('Throws in 30 s')
  await page.getByLabel('in', { exact: true }).fill('throws')
  await page.getByLabel('from', { exact: true }).fill('2026-11-10')
  await accessible(page, 'setting a test, on a phone')
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.getByRole('link', { name: 'Enter today’s' }).first().click()
  const at = new URL(page.url()).pathname
  const box = (name, attempt) => page.getByLabel(`${name}, Throws in 30 s, try ${attempt}`)
  for (const [week, on] of ['2026-11-10', '2026-11-17', '2026-11-24'].entries()) {
    await page.goto(at + '?day=' + on)
    if (week === 2) {
      // the hall has no network: the pad opens from the phone, and what is typed waits
      await page.evaluate(() => navigator.serviceWorker.ready)
      await expect
        .poll(() =>
          page.evaluate(async () => {
            for (const name of await caches.keys())
              if (await (await caches.open(name)).match(location.href)) return true
            return false
          }),
        )
        .toBe(true)
      await page.context().setOffline(true)
      await page.reload()
    }
    for (const [i, n] of who.entries()) {
      const base = 20 + 2 * i + (i === 0 ? 7 * week : 0) // the first gets better, the others do not
      await box(n, 1).fill(String(base + ((i + week) % 2)))
      await page.keyboard.press('Enter')
      await expect(box(n, 2)).toBeFocused()
      await box(n, 2).fill(String(base + ((i * week) % 3) - 1))
    }
    await page.keyboard.press('Tab')
    if (week === 2) {
      await expect(page.getByText('No network. What is typed is kept here')).toBeVisible()
      await page.reload()
      await expect(box(who[0], 1)).toHaveValue('34')
      await page.context().setOffline(false)
      await expect(page.getByText('No network.')).toBeHidden()
    }
    await expect
      .poll(async () => {
        const text = await (await page.request.get(at + '?day=' + on)).text()
        return (text.match(/ value="\d+" inputmode/g) || []).length
      })
      .toBe(16)
  }
  // what has arrived is shown too when the pad is opened again without network; what a colleague says since comes with it
  await page.context().setOffline(true)
  await page.reload()
  await expect(box(who[0], 1)).toHaveValue('34')
  await page.context().setOffline(false)
  const colleague = await device(browser, program.url, '')
  await colleague.context().addCookies(await page.context().cookies())
  await colleague.goto(at + '?day=2026-11-24')
  await colleague.getByLabel(`${who[0]}, Throws in 30 s, try 1`).fill('36')
  await Promise.all([colleague.waitForResponse(/figures$/), colleague.keyboard.press('Tab')])
  for (const offline of [false, true]) {
    await page.context().setOffline(offline)
    await page.reload()
    await expect(box(who[0], 1)).toHaveValue('36')
  }
  await page.context().setOffline(false)
  await box(who[1], 1).fill('many')
  await page.keyboard.press('Tab')
  await expect(box(who[1], 1)).toHaveAttribute('aria-invalid', 'true')
  await accessible(page, 'the pad of a test')
  await page.goto(at.replace('/pad', ''))
  await expect(page.getByRole('row', { name: new RegExp('^' + who[0]) })).toContainText('better, sure')
  await expect(page.getByText('as before').first()).toBeVisible()
  await expect(page.getByText(/A change counts from .* throws on: two tries of one day differ by/)).toBeVisible()
  await accessible(page, 'last time and this time, on a phone')
  // the lead's page, with one class that has not met yet
  await page.goto('/season/club')
  await expect(page.getByText('8 of 12 places')).toBeVisible()
  await accessible(page, 'the club, on a phone')
  end()
})
