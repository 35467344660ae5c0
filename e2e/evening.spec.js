// An evening with one phone in a club of another sport, west of UTC: a key is taught, what is said to players is counted, a card, and the end in three taps.
import { bring, names, setUpClass, startClub } from './clubs.js'
import { contrast, device, flashGone, register, station } from './hall.js'
import { watch } from './steps.js'
import { expect, test } from './test.js'

test('an evening of softball: who is here, the key, what was said, a card, and what the next evening takes over', async ({
  browser,
  program,
}) => {
  const page = await device(browser, program.url, '', false)
  await startClub(page, { club: 'Millrace Softball', program: 'Softball', zone: 'America/Los_Angeles', imperial: true })
  await bring(
    page,
    'Name\tStage\n' +
      names(11)
        .map((n) => n + '\tFirst steps')
        .join('\n'),
  )
  for (const [name, keys] of [
    ['Long toss', 'Step to the target\nElbow high'],
    ['Grounders', 'Glove down early'],
  ]) {
    await page.goto('/shelf/new')
    await page.getByLabel('Name', { exact: true }).fill(name)
    await page.getByLabel('Skills', { exact: true }).fill('throwing')
    await page.getByLabel('Keys, in teaching order').fill(keys)
    await page.getByLabel('Kind of target').selectOption('streak')
    await page.locator('.scored [name=n]').fill('4')
    await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
    await page.waitForURL(/\/shelf\/drill\/[0-9a-f-]+$/)
  }
  const session = await setUpClass(page, { name: 'Infield', length: '100', width: '90', minutes: '75' })
  await page.getByRole('tab', { name: 'Stations' }).click()
  for (const name of ['Long toss', 'Grounders']) {
    await page
      .locator('#add-drill')
      .selectOption({ label: await page.locator('#add-drill option', { hasText: name }).innerText() })
    await page.locator('#add-station').click()
    await expect(page.locator('.station-row summary', { hasText: name })).toBeVisible()
  }
  const id = session.split('/').pop()
  const phone = await (
    await browser.newContext({
      baseURL: program.url,
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      storageState: await page.context().storageState(),
    })
  ).newPage()
  const end = watch(phone)
  await phone.goto('/courtside/' + id)
  await phone.getByRole('button', { name: 'All here' }).tap()
  await register(phone, 'Ada Arden', 'not here')
  await expect(phone.locator('.reg-head')).toContainText('10 here · 1 missing')
  await phone.getByRole('button', { name: 'Take the last tap back' }).tap()
  await expect(phone.locator('.reg-head')).toContainText('11 here')
  await register(phone, 'Ada Arden', 'not here')
  await phone.getByRole('button', { name: 'Start the session' }).tap()
  await phone.getByRole('button', { name: 'Start it now' }).tap() // in Lisbon, where the clock is held, it is not yet time
  for (let i = 0; i < 20 && (await phone.locator('.court-now b').innerText()).toLowerCase() !== 'work'; i++) {
    await flashGone(phone)
    await phone.getByRole('button', { name: / now$/ }).tap()
    await phone.waitForTimeout(300)
  }
  await flashGone(phone)
  await station(phone, 1)
  const rows = phone.locator('.mark-row[data-player]'),
    first = rows.first(),
    who = (await first.getAttribute('data-player')).split(' ')[0]

  // the key: how far its teaching is, one word to all, the group asked
  const key = phone.locator('.key-word').first()
  await expect(key).toContainText('Step to the target')
  await key.tap()
  await phone.getByRole('button', { name: 'shown with the key' }).tap()
  await expect(phone.getByRole('button', { name: 'shown whole' })).toHaveAttribute('aria-pressed', 'true')
  await phone.getByRole('group', { name: 'Feedback to all of them' }).getByRole('button', { name: 'said before' }).tap()
  await phone.getByRole('button', { name: 'some knew' }).tap()
  await contrast(phone, 'a key and its teaching')
  await key.tap()
  // all have it: it holds, and the next is offered; then it slips
  const n = await rows.count()
  for (let i = 0; i < n; i++) await rows.nth(i).locator('.has').tap()
  const what = phone.locator('footer .what-now')
  await expect(key).toContainText('Elbow high')
  await key.tap()
  await phone
    .locator('.key-list')
    .getByRole('button', { name: /^Step to the target/ })
    .tap()
  for (let i = 0; i < n; i++) await rows.nth(i).locator('.has').tap()
  await key.tap()
  await phone
    .locator('.key-list')
    .getByRole('button', { name: /^Elbow high/ })
    .tap()
  await expect(what).toContainText('“Step to the target” slips: a step back.')
  await what.getByRole('button', { name: 'Back to it' }).tap()
  await expect(key).toContainText('Step to the target')

  // a card: their own word, what was said to them
  await first.locator('.name').tap()
  await first.getByPlaceholder('Own word for the key').fill('tall as a crane')
  await first.getByRole('button', { name: 'Word', exact: true }).tap()
  await first.getByRole('button', { name: 'praised' }).tap()
  await first.getByRole('button', { name: 'corrected' }).tap()
  await first.getByRole('button', { name: 'Talk to guardian' }).tap()
  const card = first.getByRole('group', { name: 'Card' })
  await expect(card).toContainText('tall as a crane')
  await expect(card).toContainText('corrected 1, praised 1')
  await contrast(phone, 'a card')
  await first.locator('.name').tap()
  await expect(phone.locator('.sync')).toHaveText('in step')
  await phone.reload()
  await station(phone, 1)
  await first.locator('.name').tap()
  await expect(card).toContainText('tall as a crane')
  await first.locator('.name').tap()

  // the end in three taps
  await phone.getByRole('button', { name: 'More: sound, skip, helpers, end' }).tap()
  await phone.getByRole('button', { name: 'End the session' }).first().tap()
  const ask = phone.getByRole('alertdialog', { name: 'End the session?' })
  await expect(ask).toContainText(n + ' of 10 seen')
  await expect(ask).toContainText('Talk to the guardians of ' + who)
  await expect(ask).toContainText('said before 1')
  await contrast(phone, 'the end')
  const carry = ask.getByRole('group', { name: 'Looked at first next time' }).getByRole('button')
  await expect(carry).toHaveCount(10 - n)
  const left = await carry.first().innerText(),
    taken = await carry.nth(1).innerText()
  await carry.first().tap()
  await ask.getByRole('button', { name: 'End it' }).tap()
  await expect(phone.getByRole('link', { name: 'What happened' })).toBeVisible()
  await expect(phone.locator('.sync')).toHaveText('in step')
  const { notes, players } = await (await phone.request.get('/courtside/' + id + '/state')).json()
  const of = (name) => players.find((p) => p.name.startsWith(name + ' ')).id
  expect(notes.filter((k) => k.kind === 'follow').map((k) => k.player)).toContain(of(taken))
  expect(notes.filter((k) => k.kind === 'follow').map((k) => k.player)).not.toContain(of(left))
  await phone.getByRole('link', { name: 'What happened' }).tap()
  await expect(phone.locator('main')).toContainText(n + ' of 10 seen')
  await expect(phone.locator('main')).toContainText('“Step to the target”: some knew')
  await expect(phone.locator('main')).toContainText(/Corrected 1, asked 1, said before 1, praised 1\./)
  end()
})
