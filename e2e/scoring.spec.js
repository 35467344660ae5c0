// How coaches score and who judges: partners by points, every kind of target, and a routine skill by skill. Each is planned, taken to the floor
// on a phone and to the big screen, and printed.
import { expect, test } from './test.js'
import {
  addAfter,
  finding,
  block,
  changes,
  choose,
  contrast,
  device,
  flashGone,
  sessionOf,
  skipTo,
  started,
} from './hall.js'
import { accessible, watch } from './steps.js'

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
  await addAfter(page, after, 'Partners')
  await block(page, 'pairs').click()
  const at = await block(page, 'pairs').getAttribute('data-block')
  await choose(page, '#task-' + at, { label: 'Keeper and runner (4–8)' })
  await changes(page, () => page.locator('#partners-' + at).selectOption('by level'))
  for (let i = 0; i < 5; i++) await changes(page, () => page.locator('#to-more-' + at).click())
  const late = await finding(page, 'To 5 takes about')
  await changes(page, () => late.getByRole('button').click())
  await expect(late).toHaveCount(0)
  await page.locator('#more-' + at + ' > summary').click()
  const sent = []
  page.on('request', (r) => r.url().endsWith('/plan') && sent.push(r.postData()))
  await page.locator('#courts-less-' + at).press('Enter') // there are none to take away: nothing is sent
  for (let i = 0; i < 3; i++) await changes(page, () => page.locator('#courts-more-' + at).click())
  expect(sent).toHaveLength(3)
  await expect(page.locator('.floor-courts:not(.is-elsewhere) rect')).toHaveCount(3) // where they play, while that block is looked at
  await accessible(page, 'a plan with partners')
  await block(page, 'stations').click()
  await expect(page.locator('.floor-courts:not(.is-elsewhere)')).toHaveCount(0)
  await block(page, 'pairs').click()

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
  await started(phone, id)
  const who = phone.getByRole('region', { name: 'Who is with whom' })
  await skipTo(phone, who)
  await expect(
    phone.locator('.mark-row').filter({ hasText: a.split(' ')[0] + ' and ' + b.split(' ')[0] }),
  ).toBeVisible()
  await expect(phone.locator('.court-now b')).toHaveText(/Turn 1, to 5/i)
  await expect(who).toContainText(/rests.*counts at court 1, plays in \d+:\d\d/s)
  await contrast(phone, 'partners')
  const first = phone.locator('.mark-row', { hasText: 'first to 5' }).first()
  await first.getByRole('button').first().tap()
  await expect(first.locator('.pad-figure')).toHaveText('1 : 0')
  const screen = await phone.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-group:visible').first()).toContainText(' – ')
  await expect(screen.locator('.big-group:visible', { hasText: 'rest, and count at court' })).toContainText(
    / 1 · .* 2 · /,
  )
  await contrast(screen, 'partners on the big screen')
  // the pairs count for themselves on the big screen, and every device has it; each takes back what it tapped
  await expect(screen.locator('.big-score:visible b').first()).toHaveText('1 : 0')
  await screen.locator('.big-score:visible button').nth(1).click()
  await expect(screen.locator('.big-score:visible b').first()).toHaveText('1 : 1')
  await expect(first.locator('.pad-figure')).toHaveText('1 : 1')
  await screen.locator('.big-score:visible button').first().click()
  await expect(first.locator('.pad-figure')).toHaveText('2 : 1')
  await screen.getByRole('button', { name: 'Take the last one back' }).click()
  await expect(first.locator('.pad-figure')).toHaveText('1 : 1')
  await phone.getByRole('button', { name: 'Take the last tap back' }).tap()
  await expect(screen.locator('.big-score:visible b').first()).toHaveText('0 : 1')
  // what is said to a player, or of one, is heard by the coaches' phones; the screen in the hall keeps none of it
  await phone.locator('.mark-row[data-player] .name').first().tap()
  await phone.getByRole('button', { name: 'praised' }).first().tap()
  await phone.getByRole('button', { name: 'Talk to guardian' }).first().tap()
  await expect(phone.locator('.sync')).toHaveText('in step')
  await screen.reload()
  await expect(screen.locator('.big-score:visible b').first()).toHaveText('0 : 1')
  const keptHere = () =>
    screen.evaluate(async () => {
      const ask = (r) => new Promise((done) => (r.onsuccess = () => done(r.result)))
      const all = []
      for (const { name } of await indexedDB.databases()) {
        const db = await ask(indexedDB.open(name))
        for (const s of db.objectStoreNames) all.push(...(await ask(db.transaction(s).objectStore(s).getAll())))
        db.close()
      }
      const own = all.filter((a) => a.name === 'screen').map((a) => a.value) // the phone shares this browser
      own.push(JSON.parse(document.getElementById('state').textContent))
      return own.map((state) =>
        ['players', 'marks', 'tallies', 'keys', 'notes', 'feedback'].map((k) => state[k].length),
      )
    })
  const nothing = [0, 0, 0, 0, 0, 0]
  await expect.poll(keptHere).toEqual([nothing, nothing])
  await phone.reload()
  await skipTo(phone, who)
  await expect(first.locator('.pad-figure')).toHaveText('0 : 1')
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

  const id = await sessionOf(page, 'Saturday Shore')
  await page.goto('/sessions/' + id)
  await page.locator('.bar').first().click()
  await choose(page, '#task-0', { label: 'Landing gate (3–6)' })
  end()
  const phone = await device(browser, program.url, 'ines'),
    quiet = watch(phone)
  await started(phone, id)
  const gate = phone.getByRole('group', { name: 'Counted by all together' })
  await skipTo(phone, gate)
  const screen = await device(browser, program.url, 'ines', false)
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
  await addAfter(page, 1, 'Run-through')
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
  await started(phone, id)
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
  await expect(phone.locator('.mark-row').last()).toContainText('6 of 8, 1 fall: Side swing')
  const screen = await phone.context().newPage()
  await screen.setViewportSize({ width: 1280, height: 800 })
  await screen.goto('/courtside/' + id + '/hall')
  await expect(screen.locator('.big-up b')).toContainText(', ')
  quiet()
  await page.goto('/sessions/' + id + '/routine/2')
  await expect(page.locator('tr', { hasText: who })).toContainText('6 of 8')
  await expect(page.locator('tr', { hasText: who })).toContainText('1 fall')
  await expect(page.getByRole('row', { name: /^Side swing/ })).toContainText('1 of 1')
  await accessible(page, 'a routine week by week')
  await phone.context().close()
  await page.context().close()
})
