// Clubs beside the demo's, begun from the sign-in page as anybody would.
import { expect } from '@playwright/test'
import { fileURLToPath } from 'node:url'

const first =
  'Ada Bo Cyra Dov Elif Finn Gita Hana Ivo Jun Kaya Lior Mina Nils Oya Pim Quy Rosa Sami Tove Uma Vito Wren Xeno Yara Zoë'.split(
    ' ',
  )
const last = 'Arden Brook Clay Dale Elm'.split(' ')
export const names = (n) =>
  Array.from({ length: n }, (_, i) => first[i % first.length] + ' ' + last[Math.floor(i / first.length) % last.length])

let many = 0
const click = (button) => button.click()

// startClub begins a club and signs its lead in.
export async function startClub(
  page,
  { club, program, family = 'Ball games', zone = 'Europe/Lisbon', lead = 'Robin Lead', imperial, press = click },
) {
  const email = `lead${++many}-${Date.now()}@${club.toLowerCase().replace(/[^a-z]+/g, '-')}.example`
  await page.goto('/sign-in')
  await page.getByRole('link', { name: 'Start a club' }).click()
  await page.getByLabel('Club or school').fill(club)
  await page.getByLabel('Sport or activity').fill(program)
  await page.getByRole('radio', { name: family }).check()
  await page.getByLabel('Your name').fill(lead)
  await page.getByLabel('E-mail').fill(email)
  await page.getByLabel('Password').fill('harbour lamps at dusk')
  await page.getByLabel('Time zone').fill(zone)
  if (imperial) await page.getByLabel('Feet and yards').check()
  await press(page.getByRole('button', { name: 'Start the club' }))
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.waitForURL('/')
  return email
}

// bring gives the club a list of players.
export async function bring(page, rows) {
  await page.goto('/roster/import')
  await page.getByLabel('Or paste the rows').fill(rows)
  await page.getByRole('button', { name: 'Look it over' }).click()
  await page.locator('button[formaction="/roster/import/take"]').click()
  await page.waitForURL((u) => !/import/.test(u.pathname))
}

// bringSome brings so many players of one stage; empty: of none yet.
export const bringSome = (page, n, stage = '') =>
  bring(
    page,
    'Name\tStage\n' +
      names(n)
        .map((name) => name + '\t' + stage)
        .join('\n'),
  )

// shelf brings the demo's drills into a club that has none yet.
export async function shelf(page) {
  await page.goto('/shelf/pack')
  await page
    .getByLabel('Drop a file here, or choose one')
    .setInputFiles(fileURLToPath(new URL('../internal/demo/drills.pack.json', import.meta.url)))
  await page.getByRole('button', { name: 'Look it over' }).click()
  await page.getByRole('button', { name: /^Take \d+ drills/ }).click()
  await expect(page.locator('#drills .drill-card').first()).toBeVisible()
}

// setUpClass makes a class with everybody in it and plans its next date; it answers the session's address.
export async function setUpClass(
  page,
  {
    name,
    floor,
    length,
    width,
    courts,
    refused,
    weekday = 'Tuesday',
    starts = '18:00',
    minutes = '60',
    places,
    press = click,
  },
) {
  await page.goto('/sessions/class/new')
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByLabel('Weekday').selectOption({ label: weekday })
  await page.getByLabel('Starts at').fill(starts)
  await page.getByLabel('Minutes', { exact: true }).fill(minutes)
  if (places) await page.getByRole('textbox', { name: 'Places' }).fill(places)
  await page.getByLabel('Place', { exact: true }).selectOption({ value: '' })
  await page.getByLabel('Name of the place').fill(name + ' place')
  if (floor) await page.getByLabel('Kind of floor').selectOption({ label: floor })
  if (length) await page.getByLabel(/^Length in/).fill(length)
  if (width) await page.getByLabel(/^Width in/).fill(width)
  if (courts) {
    await page.getByLabel('How many courts in it').fill(courts[0])
    await page.getByLabel('Which court').selectOption({ label: courts[1] })
  }
  for (const box of await page.locator('input[name=stage], input[name=player], input[name=member]').all())
    if (await box.isVisible()) await box.check()
  await press(page.getByRole('button', { name: 'Set it up' }))
  if (refused) return null
  await page.waitForURL('/sessions')
  const row = page.locator('li', { has: page.getByRole('heading', { name, exact: true }) }).first()
  await press(row.getByRole('button', { name: 'Plan this date' }))
  await page.waitForURL(/sessions\/[0-9a-f]{8}/)
  return new URL(page.url()).pathname
}
