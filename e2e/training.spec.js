// Trainings that are more than a set of stations: intervals in the rope-skipping class, and fourteen who play from one against one to five against five. Each is
// planned, taken to the floor on a phone and to the big screen, and printed.
import { expect, test } from './test.js'
import { bring, names, setUpClass, shelf, startClub } from './clubs.js'
import { contrast, device, flashGone, sessionOf } from './hall.js'
import { accessible, watch } from './steps.js'

const version = (page) => page.locator('#plan').getAttribute('data-version')
// changes does something to the plan, and waits until it is there.
const changes = async (page, does) => {
  const was = await version(page)
  await does()
  await expect(page.locator('#plan')).not.toHaveAttribute('data-version', was)
}
// choose takes something of a list that is filled when it is opened.
const choose = async (page, list, what) => {
  await page.locator(list).focus()
  await changes(page, () => page.locator(list).selectOption(what))
}
const block = (page, kind) => page.locator('.bar[data-kind=' + kind + ']').first()
// skipTo goes on from segment to segment until something is there.
const skipTo = async (page, what) => {
  const now = page.locator('.court-now div') // what is on, and what comes then
  for (let i = 0; i < 40 && !(await what.isVisible()); i++) {
    await flashGone(page)
    const was = await now.innerText()
    await page.getByRole('button', { name: /Next now|Change now/ }).click()
    await expect(now).not.toHaveText(was, { useInnerText: true })
  }
  await flashGone(page)
}
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
  await choose(page, '#insert-1', { label: 'Intervals' })
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
  const stop = page.locator('.finding', { hasText: 'is all-out, and' })
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
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap() // it is planned for next week
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
    await expect(page.locator('.part-says')).toContainText('The sides are even.')
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
  if (await page.getByRole('button', { name: 'Start it now' }).isVisible())
    await page.getByRole('button', { name: 'Start it now' }).click()
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

test('nine adults change partners: by points, on few courts, as they choose; the phone and the screen say who is where', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'ines', false),
    end = watch(page)
  const id = await sessionOf(page, 'Adult beginners'),
    plan = '/sessions/' + id
  await page.goto(plan)
  await block(page, 'stations').click()
  const after = await block(page, 'stations').getAttribute('data-block')
  await choose(page, '#insert-' + after, { label: 'Partners' })
  await block(page, 'pairs').click()
  const at = await block(page, 'pairs').getAttribute('data-block')
  await choose(page, '#task-' + at, { label: 'Keeper and runner (4–8)' })
  await changes(page, () => page.locator('#partners-' + at).selectOption('by level'))
  for (let i = 0; i < 5; i++) await changes(page, () => page.locator('#to-more-' + at).click())
  const late = page.locator('.finding', { hasText: 'To 5 takes about' })
  await changes(page, () => late.getByRole('button').click())
  await expect(late).toHaveCount(0)
  await page.locator('#more-' + at + ' > summary').click()
  for (let i = 0; i < 3; i++) await changes(page, () => page.locator('#courts-more-' + at).click())
  await accessible(page, 'a plan with partners')

  await page.getByRole('link', { name: 'Pairings' }).click()
  const turn = page.locator('form.turn')
  await expect(turn.first()).toContainText('rests:')
  await expect(page.locator('.courts .court')).toHaveCount(3)
  await turn.first().getByRole('textbox').nth(0).fill('5')
  await turn.first().getByRole('textbox').nth(1).fill('0')
  await turn.first().getByRole('button', { name: 'Keep' }).click()
  await expect(turn.filter({ hasText: /even at \d : \d/ }).first()).toBeVisible() // of the next turns of these two
  await accessible(page, 'pairings by level')
  await page.goto(plan)
  await block(page, 'pairs').click()
  await changes(page, () => page.locator('#partners-' + at).selectOption('chosen'))
  await page.getByRole('link', { name: 'Pairings' }).click()
  const choosers = page.locator('[data-choose] [data-player]'),
    [a, b] = [await choosers.nth(1).innerText(), await choosers.nth(4).innerText()]
  await choosers.nth(1).click()
  await choosers.nth(4).click()
  await expect(choosers.first()).toContainText('with')
  for (const i of [0, 1]) await expect(turn.nth(i)).toContainText(a + ' – ' + b)
  await accessible(page, 'pairings as they chose')
  await page.getByRole('link', { name: 'Print' }).click()
  await expect(page.locator('.pairings .court')).toHaveCount(3)
  await accessible(page, 'pairings on paper')
  end()

  const phone = await device(browser, program.url, 'ines'),
    quiet = watch(phone)
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap()
  const who = phone.getByRole('region', { name: 'Who is with whom' })
  await skipTo(phone, who)
  await expect(who).toContainText(a.split(' ')[0] + ' – ' + b.split(' ')[0])
  await expect(phone.locator('.court-now b')).toHaveText(/Turn 1, to 5/i)
  await contrast(phone, 'partners')
  const first = phone.locator('.mark-row', { hasText: 'first to 5' }).first()
  await first.getByRole('button').first().tap()
  await expect(first.locator('.pad-figure')).toHaveText('1 : 0')
  const screen = await phone.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-group:visible').first()).toContainText(' – ')
  await contrast(screen, 'partners on the big screen')
  quiet()
  await phone.context().close()
  await page.context().close()
})

test('scored as coaches score: a gate that all count at, points with a bonus, matching shots; every kind is written down and read back', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'ines', false),
    end = watch(page)
  const write = async (name, kind, fields, reads, says) => {
    await page.goto('/shelf/new')
    await page.getByLabel('Name', { exact: true }).fill(name)
    await page.getByRole('textbox', { name: 'Skills', exact: true }).fill('landing')
    await page.getByLabel('Kind of target').selectOption(kind)
    for (const [field, value] of Object.entries(fields)) {
      const f = page.getByRole('group', { name: 'Scored by' }).locator(`[name=${field}]`)
      if ((await f.evaluate((e) => e.tagName)) === 'SELECT') await f.selectOption(value)
      else await f.fill(value)
    }
    await page.getByRole('button', { name: 'Keep', exact: true }).click()
    await expect(page.getByRole('heading', { level: 1 })).toContainText(name)
    await expect(page.locator('#worked')).toContainText(reads)
    await expect(page.locator('#worked')).toContainText(says)
    await page.getByText('More', { exact: true }).first().click()
    await page.getByRole('link', { name: 'Edit', exact: true }).click()
    for (const [field, value] of Object.entries(fields))
      await expect(page.locator(`.scored [name=${field}]`)).toHaveValue(value)
  }
  await write(
    'Few faults',
    'faults',
    { n: '2', of: '10' },
    'at most 2 faults in 10',
    'goes of these players stay within',
  )
  await write(
    'Score it',
    'score',
    { n: '20', minus: '1', bonus: '2', better: 'beyond the line', 'bonus-in': '3' },
    '20 points, beyond the line gives 3, a miss costs 1',
    'Tries until it is done',
  )
  await write('Letters', 'letters', { n: '3' }, 'out with 3 letters', 'whoever shows first wins')
  await write('House rules', 'own', { rules: 'last one on the line' }, 'last one on the line', 'By rules of its own')
  await write(
    'Both sides',
    'race',
    { n: '7', against: '5', swap: 'end' },
    'first to 7 against first to 5',
    'sides swapped',
  )
  await write(
    'Landing gate',
    'gate',
    { n: '20', opens: 'slides' },
    '20 by all together, then slides',
    'of all together',
  )
  await accessible(page, 'a drill with its target')
  await page.goto('/shelf/new') // a field that the kind needs is asked for where it stands
  await page.getByLabel('Name', { exact: true }).fill('No word')
  await page.getByRole('textbox', { name: 'Skills', exact: true }).fill('landing')
  await page.getByLabel('Kind of target').selectOption('gate')
  await page.getByLabel('How many', { exact: true }).fill('5')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.locator('.scored')).toContainText('What comes when it opens?')

  const id = await sessionOf(page, 'Skipping club')
  await page.goto('/sessions/' + id)
  await page.locator('.bar').first().click()
  await choose(page, '#task-0', { label: 'Landing gate (3–6)' })
  end()
  const phone = await device(browser, program.url, 'leila'),
    quiet = watch(phone)
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap()
  const gate = phone.getByRole('group', { name: 'Counted by all together' })
  await skipTo(phone, gate)
  const screen = await (
    await browser.newContext({ baseURL: program.url, viewport: { width: 1280, height: 800 } })
  ).newPage()
  await screen.goto('/sign-in')
  await screen.getByLabel('E-mail').fill('ines@saltmarsh.example')
  await screen.getByLabel('Password').fill('saltmarsh-demo')
  await screen.getByRole('button', { name: 'Sign in' }).click()
  await screen.waitForURL('/')
  await screen.goto('/courtside/' + id + '/hall')
  await gate.getByRole('button', { name: '+10' }).tap()
  await gate.getByRole('button', { name: '+5' }).tap()
  await gate.getByRole('button', { name: 'One too many' }).tap()
  await expect(gate).toContainText('14 of 20')
  await expect(screen.locator('.big-gate')).toContainText('14 of 20')
  await contrast(phone, 'a gate')
  await gate.getByRole('button', { name: '+10' }).tap()
  await flashGone(phone)
  await expect(gate).toContainText('Open: slides')
  await expect(screen.locator('.big-gate')).toHaveClass(/is-open/)
  await phone.reload()
  await expect(gate).toContainText('24 of 20')
  quiet()
  for (const p of [phone, page, screen]) await p.context().close()
})

test('a routine is run through before judges, skill by skill, and compared with the week before', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, 'leila', false),
    end = watch(page)
  const id = await sessionOf(page, 'Skipping club')
  await page.goto('/sessions/' + id)
  await block(page, 'stations').click()
  await choose(page, '#insert-1', { label: 'Run-through' })
  await block(page, 'run').click()
  await choose(page, '#exercise-2', { label: 'Eight-count routine (1–12)' })
  await expect(page.locator('.cycle-says')).toContainText(
    '16 players, 1 at once, 0:45 each: 14:40 in all. Leila and Yuki judge.',
  )
  await changes(page, () => page.locator('#places-more-2').click())
  await changes(page, () => page.locator('#judges-2').selectOption('partners'))
  await expect(page.locator('.cycle-says')).toContainText('Whoever comes next judges.')
  await accessible(page, 'a plan with a run-through')
  await page.getByRole('link', { name: 'Week by week' }).click()
  await expect(page.locator('.part-says')).toContainText('Nobody has run through it yet')
  await page.getByRole('link', { name: 'Judges’ sheet' }).click()
  await expect(page.locator('tbody tr')).toHaveCount(16)
  await expect(page.locator('thead th.skill')).toHaveCount(8)
  await accessible(page, 'a judges’ sheet')
  end()

  const phone = await device(browser, program.url, 'leila'),
    quiet = watch(phone)
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap()
  const turn = phone.getByRole('region', { name: 'Whose turn it is' })
  await skipTo(phone, turn)
  await expect(turn).toContainText(/up.*Aino, Anouk.*judged by.*Bilal, Bo/s)
  const row = phone.locator('.mark-row').first(),
    who = await row.getAttribute('data-player')
  await row.getByRole('button', { name: 'Cross', exact: true }).tap()
  for (let i = 0; i < 2; i++) await row.getByRole('button', { name: /^Side swing/ }).tap()
  await expect(row).toContainText('6 of 8')
  await contrast(phone, 'a run-through')
  await row.getByRole('button', { name: who + ': keep' }).tap()
  await expect(phone.locator('.mark-row').first()).not.toHaveAttribute('data-player', who) // the next is on top
  await expect(phone.locator('.mark-row').last()).toContainText('shown · 6 of 8, 1 fall: Side swing')
  const screen = await phone.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-up b')).toContainText(', ')
  quiet()
  await page.goto('/sessions/' + id + '/routine/2')
  await expect(page.locator('tr', { hasText: who })).toContainText('6 of 8')
  await expect(page.locator('tr', { hasText: who })).toContainText('1 fall')
  await expect(page.getByRole('row', { name: /Side swing/ })).toContainText('1 of 1')
  await accessible(page, 'a routine week by week')
  await phone.context().close()
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

  // a second block of stations, for the players dealt in another way
  const game = await block(page, 'stations').getAttribute('data-block')
  await block(page, 'stations').click()
  await choose(page, '#insert-' + game, { label: 'Stations' })
  const second = page.locator('.bar[data-kind=stations]').nth(1)
  await second.click()
  const at = await second.getAttribute('data-block')
  await choose(page, '#station-in-' + at, { value: drills[4] })
  await second.click()
  await changes(page, () => page.locator('#dealt-less-' + at).click())
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
  if (await page.getByRole('button', { name: 'Start it now' }).isVisible())
    await page.getByRole('button', { name: 'Start it now' }).click()
  await skipTo(page, page.locator('.court-now b', { hasText: /^Work$/ }))
  for (let round = 0; round < 3; round++) {
    await page.getByRole('button', { name: /^Station 1:/ }).click()
    const here = await page.locator('.court-main').innerText()
    if (here.includes('Outfielders')) await expect(page.locator('.court-task h2')).toHaveText(own)
    expect(here.includes('Pitchers')).toBe(false) // they skip it
    await page.getByRole('button', { name: /Next now|Change now/ }).click()
    await flashGone(page)
    await page.getByRole('button', { name: /Next now|Change now/ }).click()
    await flashGone(page)
  }
  end()
  await page.context().close()
})
