// Trainings that are more than a set of stations: intervals in the rope-skipping class, and fourteen who play from one against one to five against five. Each is
// planned, taken to the floor on a phone and to the big screen, and printed.
import { expect, test } from './test.js'
import { bring, names, setUpClass, shelf, startClub } from './clubs.js'
import {
  addAfter,
  block,
  changes,
  choose,
  contrast,
  device,
  finding,
  flashGone,
  sessionOf,
  skipTo,
  started,
  version,
} from './hall.js'
import { accessible, watch } from './steps.js'

const seconds = (text) => {
  const [m, s] = text.split(':')
  return 60 * m + Number(s)
}

test('ten seconds all-out and full rest: whose turn it is, on paper, phone and screen; a coach has to allow it', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'leila', false),
    end = watch(page)
  const id = await sessionOf(page, 'Skipping club')
  await page.goto('/sessions/' + id)
  await block(page, 'stations').click()
  await addAfter(page, 1, 'Intervals')
  await block(page, 'intervals').click()
  const say = page.locator('.cycle-says')
  await choose(page, '#exercise-2', { label: 'Half-minute sprint (2–12)' })
  await choose(page, '#exercise-2', { label: 'Double turn build-up (1–8)' })
  for (const [what, to] of [
    ['places', 4],
    ['work', 10],
  ])
    for (
      let i = 0;
      i < 6 &&
      (await page.locator('#' + what + '-more-2').getAttribute('value')) !==
        what + ' ' + (to + (what === 'work' ? 5 : 1));
      i++
    )
      await changes(page, () => page.locator(`#${what}-${what === 'work' ? 'less' : 'more'}-2`).click())
  await expect(say).toContainText('16 players, 4 at once: once round takes 0:40; each rests 1:00.')
  await expect(say).toContainText('A pause of 0:30 is added after each time round; 28 players need none.')
  await changes(page, async () => {
    await page.locator('#how-2-0').fill('as fast as you can')
    await page.keyboard.press('Enter')
  })
  await expect(page.locator('#how-2-0')).toHaveValue('as fast as you can')
  await choose(page, '#light-2', { label: 'Rope swing (1–16)' })
  const stop = await finding(page, 'is all-out, and')
  await expect(stop).toContainText('under 16 or on the first stage. A coach who knows them may allow it')
  await changes(page, () => stop.getByRole('button', { name: 'A coach allows it' }).click())
  await expect(stop).toHaveCount(0)
  await accessible(page, 'a plan with intervals')
  // twice three times round in 70 s, and two minutes between: nine minutes
  await expect(block(page, 'intervals')).toHaveAttribute('aria-label', /Intervals, 9 min/)

  await page.goto('/sessions/' + id + '/print/turns')
  await expect(page.locator('tbody').first().locator('tr')).toHaveCount(12)
  await expect(page.locator('h3').first()).toContainText('Half-minute sprint, as fast as you can')
  await accessible(page, 'turns on paper')
  end()

  const phone = await device(browser, program.url, 'leila'),
    quiet = watch(phone)
  await started(phone, id)
  const turn = phone.getByRole('region', { name: 'Whose turn it is' })
  await skipTo(phone, turn)
  await expect(phone.locator('.court-now b')).toHaveText(/Work · turn 1 of 3/i)
  await expect(turn).toContainText(/up.*Aino, Anouk, Bilal, Bo/s)
  await expect(turn).toContainText('Rope swing')
  await contrast(phone, 'intervals')
  const screen = await phone.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-up b')).toHaveText(await turn.locator('b').first().innerText())
  await expect(screen.locator('.big-head + .big-says')).toHaveText('Half-minute sprint, as fast as you can') // what everybody does
  const apart = Math.abs(
    seconds(await screen.getByRole('timer').innerText()) - seconds(await phone.getByRole('timer').innerText()),
  )
  expect(apart).toBeLessThanOrEqual(1)
  await expect(screen.locator('.big-up b')).toHaveText('Carys, Dmitri, Emeka, Farah', { timeout: 15_000 }) // ten seconds later
  await contrast(screen, 'intervals on the big screen')
  await phone.reload() // and the same again
  await expect(turn).toContainText('next')
  quiet()
  await phone.context().close()
  await page.context().close()
})

test('fourteen play from one against one to five against five: even sides, and everybody as long', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, '', false),
    end = watch(page)
  await startClub(page, { club: 'Harbour Floorball', program: 'Floorball' })
  await bring(
    page,
    'Name\tStage\n' +
      names(14)
        .map((n) => n + '\t')
        .join('\n'),
  )
  const plan = await setUpClass(page, { name: 'Evening group', floor: 'Floorball' })
  const id = plan.split('/').pop()
  if (!(await block(page, 'game').count())) throw new Error('a plan begins with a game')
  await block(page, 'game').click()
  const at = await block(page, 'game').getAttribute('data-block')
  const set = (what, up) => changes(page, () => page.locator(`#${what}-${up ? 'more' : 'less'}-${at}`).click())
  await choose(page, '#game-' + at, { index: 1 })
  const more = () => page.locator('#more-' + at + ' > summary').click()
  const figure = (what) =>
    page
      .locator('#' + what + '-more-' + at)
      .getAttribute('value')
      .then((v) => Number(v.split(' ')[1]) - 1)
  await more()
  for (const [areas, side] of [
    [4, 1],
    [2, 3],
    [1, 5],
  ]) {
    for (const [what, to] of [
      ['areas', areas],
      ['a', side],
      ['b', side],
      ['floaters', 0],
      ['walls', 0],
      ['reserves', 0],
    ])
      while ((await figure(what)) !== to) await set(what, (await figure(what)) < to)
    await page.getByRole('link', { name: 'Teams' }).first().click()
    await expect(page.locator('.team-areas .panel')).toHaveCount(areas)
    await expect(page.locator('.team-list li bdi')).toHaveCount(14)
    await expect(page.locator('.part-says')).toContainText('The sides are even in strength.')
    if (side === 5) {
      await expect(page.locator('.swaps li').first()).toContainText(' for ')
      const sizes = await page.locator('.team-list').evaluateAll((ls) => ls.map((l) => l.children.length))
      expect(sizes).toEqual([7, 7])
    }
    await accessible(page, 'teams')
    await page.goto(plan)
    await block(page, 'game').click()
    await more()
  }
  // the same ten as steps of one game, on an area of its own
  await changes(page, () => page.getByRole('button', { name: '6 v 4: more attack' }).click())
  await changes(page, () => page.locator('#defence-' + at).selectOption('half'))
  await changes(page, async () => {
    await page.locator('#area-' + at).fill('20 x 12')
    await page.keyboard.press('Enter')
  })
  await expect(page.locator('#area-' + at)).toHaveValue('20 × 12 m')
  await changes(page, () => page.getByRole('button', { name: '5 v 5: even' }).click())
  await expect(page.locator('#defence-' + at)).toHaveValue('half') // how they defend stays
  await page.getByRole('link', { name: 'Teams' }).first().click()
  const one = page.locator('.team-list li').first(),
    who = await one.locator('bdi').innerText()
  await one.locator('select').selectOption({ label: 'Triangles' })
  await expect(page.locator('.team-sides > div').nth(1)).toContainText(who)
  expect(await page.locator('.team-list').evaluateAll((ls) => ls.map((l) => l.children.length))).toEqual([7, 7])
  await page.getByRole('button', { name: 'Deal again' }).click()
  await expect(page.locator('.team-list li bdi')).toHaveCount(14)
  await page.getByRole('link', { name: 'Print' }).click()
  await expect(page.locator('.team-sides h3')).toHaveCount(2)
  await accessible(page, 'teams on paper')

  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto('/courtside/' + id)
  await page.getByRole('button', { name: 'Start the session' }).click()
  const sides = page.getByRole('region', { name: 'Who plays where' })
  await skipTo(page, sides)
  await expect(sides.locator('.court-side')).toHaveCount(2)
  await expect(sides).toContainText(/rests:.*in \d+:\d\d:/s)
  await contrast(page, 'a game')
  const screen = await page.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-group:visible')).toHaveCount(2)
  await contrast(screen, 'a game on the big screen')
  end()
  await page.context().close()
})

test('twenty-four in units: named, with other tasks at the same place, one that skips it, and stations of their own later', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, '', false),
    end = watch(page)
  await startClub(page, { club: 'Millrace Softball', program: 'Softball', imperial: true, zone: 'America/Los_Angeles' })
  await bring(
    page,
    'Name\tStage\n' +
      names(24)
        .map((n) => n + '\t')
        .join('\n'),
  )
  await shelf(page)
  const plan = await setUpClass(page, {
    name: 'Tuesday practice',
    floor: 'Softball infield',
    minutes: '90',
    places: '30',
  })
  const id = plan.split('/').pop()
  await page.goto(plan)
  const drills = await page
    .locator('#drill-options')
    .evaluate((t) => [...t.content.querySelectorAll('option')].map((o) => o.value).filter(Boolean))
  const edit = async (what, at, value) => {
    const was = await version(page)
    const r = await page.request.post(plan + '/plan', {
      form: { do: what, at, value, version: was },
      headers: { 'Sec-Fetch-Site': 'same-origin' },
    })
    expect(r.status(), what + ' ' + value).toBeLessThan(400)
    await page.goto(plan)
    await expect(page.locator('#plan')).not.toHaveAttribute('data-version', was)
  }
  for (const drill of drills.slice(0, 3)) await edit('add-station', '', drill)
  await edit('groups', '', '3')
  await page.getByRole('tab', { name: 'Coming' }).click()
  await page.getByText('Units: names, and a plan for each').click()
  for (const [i, name] of ['Infielders', 'Outfielders', 'Pitchers'].entries()) {
    await page.locator('#unit-' + i).fill(name)
    await changes(page, () => page.keyboard.press('Enter'))
  }
  await expect(page.locator('.strip')).toContainText('Infielders')
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('#station-0 > summary').click()
  await page.locator('#station-1 > summary').click()
  await page.locator('#station-0').getByText('Another task for a group').click()
  await choose(page, '#own-0-1', { value: 'group 2=' + drills[3] })
  await choose(page, '#own-0-2', { label: 'skip it, and rest' })
  // and one player has something else there, of what fits: one tap
  const who = page.locator('#for-one-s2')
  await choose(page, '#for-one-s2', {
    label: (await who.locator('option', { hasText: 'sits out' }).first().innerText()).trim(),
  })
  await expect(page.locator('#station-1 .instead')).toContainText('sits out instead')
  await accessible(page, 'a plan with units')

  // three plans to choose from keep the units where that is asked for
  await page.locator('#propose > summary').click()
  await changes(page, () => page.locator('[data-pin=deal]').click())
  await page.getByRole('button', { name: 'Three to choose from' }).click()
  await expect(page.locator('.offer')).toHaveCount(3)
  await page
    .getByRole('button', { name: /^Take this one/ })
    .nth(1)
    .click()
  await expect(page.locator('.strip')).toContainText('Pitchers')
  await page.getByRole('button', { name: /^Take back/ }).click()
  await expect(page.locator('.strip')).toContainText('Infielders')

  // and so in any block: another task for one, by hand
  await block(page, 'together').click()
  await choose(page, '#one-0', { label: 'Ada Arden sits out' })
  await expect(page.locator('.block-form:visible .instead')).toContainText('Ada Arden: sits out instead')
  await changes(page, () =>
    page.locator('.block-form:visible').getByRole('button', { name: 'Ada Arden does as the others do' }).click(),
  )

  // a second block of stations, for the players dealt in another way
  const game = await block(page, 'stations').getAttribute('data-block')
  await block(page, 'stations').click()
  await addAfter(page, game, 'Stations')
  const second = page.locator('.bar[data-kind=stations]').nth(1)
  await second.click()
  const at = await second.getAttribute('data-block')
  await choose(page, '#station-in-' + at, { value: drills[4] })
  await second.click()
  await changes(page, () => page.locator('#groups-less-' + at).click())
  await expect(page.locator('.strip')).toContainText('Diamonds')

  await page.goto('/sessions/' + id + '/unit/2')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Pitchers')
  await expect(page.locator('tbody')).toContainText('rest')
  await page.goto('/sessions/' + id + '/unit/1')
  await accessible(page, 'a unit on paper')
  const own = await page.locator('tbody tr', { hasText: 'Station 1' }).locator('b').innerText()

  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto('/courtside/' + id)
  await page.getByRole('button', { name: 'Start the session' }).click()
  await page.getByRole('button', { name: 'Start it now' }).click() // it is morning there
  await skipTo(page, page.locator('.court-now b', { hasText: /^Work$/ }))
  for (let round = 0; round < 3; round++) {
    await page.getByRole('button', { name: /^Station 1:/ }).click()
    const here = await page.locator('.court-main').innerText()
    if (here.includes('Outfielders')) await expect(page.locator('.court-task h2')).toHaveText(own)
    expect(here.includes('Pitchers')).toBe(false) // they skip it
    await page.getByRole('button', { name: / now$/ }).click()
    await flashGone(page)
    await page.getByRole('button', { name: / now$/ }).click()
    await flashGone(page)
  }
  end()
  await page.context().close()
})
