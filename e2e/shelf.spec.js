// The drill shelf: find, draw by pointer and by keys, copy and compare, follow the path, and carry drills from one club to another.
import { expect, test } from './test.js'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { accessible, signIn, watch } from './steps.js'

test.describe.configure({ mode: 'serial' })
let page, end

test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  end = watch(page)
  await signIn(page)
})
test.afterAll(async () => {
  end()
  await page.close()
})

const cards = () => page.locator('#drills .drill-card')

test('a drill for nine players with no coach free', async () => {
  await page.goto('/shelf')
  await page.keyboard.press('/')
  await page.keyboard.type('cacth') // a typing error is forgiven
  await expect(page).toHaveURL(/q=cacth/)
  await page.getByLabel('Players today').fill('9')
  await page.getByLabel('Free to lead it').selectOption('nobody')
  await expect(page).toHaveURL(/players=9.*leader=none/)
  await expect(cards().first()).toContainText('Lob and catch')
  await expect(cards().first()).toContainText('for 2 to 16, runs itself')
  await expect(cards().filter({ hasText: 'Jump and catch' })).toContainText('needs a helper')
  await page.getByText('More to go by').click()
  await page.getByLabel('with the club’s kit').check()
  await expect(cards().first()).toContainText('the kit is there')
  await accessible(page, 'finding')
  await cards().first().getByRole('link').click()
  await expect(page.getByRole('heading', { level: 1, name: 'Lob and catch' })).toBeVisible()
})

test('what a drill gives changes with the form, the class, the minutes and the target', async () => {
  await page.goto('/shelf?q=jump-shot+approach')
  await page.getByRole('link', { name: /Jump-shot approach/ }).click()
  const tries = page.locator('.drill-worked tr.is-here th + td + td').first()
  const eight = Number(await tries.innerText())
  await page.getByLabel('Target', { exact: true }).fill('4')
  await page.getByLabel('Target', { exact: true }).press('Enter')
  await expect(tries).not.toHaveText(String(eight))
  expect(Number(await tries.innerText())).toBeLessThan(eight / 2)
  await expect(page).toHaveURL(/n=4/)
  await page.waitForLoadState('networkidle')
  await page.locator('.forms a', { hasText: 'Fed ball' }).click()
  await expect(page.locator('.worked-for .chip')).toHaveText('Fed ball')
  expect(Number(await tries.innerText())).toBeGreaterThan(eight) // harder
  await expect(page.getByRole('heading', { name: 'How strict' })).toBeVisible()
  await page.getByRole('button', { name: 'Play' }).click()
  await expect(page.locator('[data-says]')).toHaveText('Three steps along the markers')
  await accessible(page, 'drill')
})

// board points are metres on the drawing's floor.
const point = async (x, y) => {
  const svg = page.locator('#board svg.diagram').first()
  return await svg.evaluate(
    (s, [x, y]) => {
      const p = new DOMPoint(
        (x - Number(s.dataset.x)) * Number(s.dataset.k),
        (y - Number(s.dataset.y)) * Number(s.dataset.k),
      ).matrixTransform(s.getScreenCTM())
      return [p.x, p.y]
    },
    [x, y],
  )
}
const doc = async () => JSON.parse(await page.locator('#draw-save [name=doc]').inputValue())
const newDrill = async (name) => {
  await page.goto('/shelf/new')
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByLabel('Skills', { exact: true }).fill('passing')
  await expect(page.locator('#gives')).toContainText('Tries each')
  await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
  await page.getByRole('link', { name: 'Draw it: a drawing to scale says more than words.' }).click()
  await expect(page.locator('#board svg.diagram')).toHaveAttribute('tabindex', '0')
}
const tool = (name) => page.locator(`[data-tool=${name}]`)
const drawn = {
  things: [
    { kind: 'player', no: 1, x: 2, y: 4 },
    { kind: 'player', no: 2, x: 7, y: 4 },
    { kind: 'ball', x: 2.5, y: 4.5 },
  ],
  steps: [[['pass', [2.5, 4.5], [7, 4]]], [['run', [2, 4], [4, 2]]], [['pass', [7, 4], [4, 2]]]],
}
const same = async () => {
  const d = await doc()
  expect(d.things.map((t) => ({ kind: t.kind, no: t.no, x: t.x, y: t.y }))).toEqual(
    drawn.things.map((t) => ({ no: undefined, ...t })),
  )
  expect(d.steps.map((s) => s.traces.map((t) => [t.kind, ...t.points]))).toEqual(drawn.steps)
}

test('three steps are drawn by pointer', async () => {
  await newDrill('Give and go by hand')
  const tap = async (x, y) => page.mouse.click(...(await point(x, y)))
  let asked = 0 // drawings that are on their way: one drags on the board as it is, not as it was
  const drawings = (by) => (r) => {
    if (/shelf\/drawing$/.test(r.url())) asked += by
  }
  page.on('request', drawings(1))
  page.on('requestfinished', drawings(-1))
  page.on('requestfailed', drawings(-1))
  const drag = async (a, b) => {
    await expect.poll(() => asked).toBe(0)
    await page.evaluate(() => new Promise(requestAnimationFrame))
    await page.mouse.move(...(await point(...a)))
    await page.mouse.down()
    await page.mouse.move(...(await point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)))
    await page.mouse.move(...(await point(...b)))
    await page.mouse.up()
  }
  for (const t of drawn.things) {
    await tool(t.kind).click()
    await tap(t.x + 0.1, t.y - 0.1) // snaps
  }
  await expect(page.locator('#board .d-thing[data-m]')).toHaveCount(3)
  for (const [i, [[kind, from, to]]] of drawn.steps.entries()) {
    if (i) await page.getByRole('button', { name: '+ step' }).click()
    await expect(page.getByRole('button', { name: `Step ${i + 1}`, exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    )
    await tool(kind).click()
    await drag(from, to)
    await expect.poll(async () => (await doc()).steps?.[i]?.traces.length).toBe(1)
    await page.getByLabel(`What happens in step ${i + 1}`).fill(['Give', 'Go', 'Get it back'][i])
    await page.getByLabel(`What happens in step ${i + 1}`).press('Tab')
  }
  await same()
  // A mark is dragged, and undone: where it stands at the first step, once that is drawn.
  await page.getByRole('button', { name: 'Step 1', exact: true }).click()
  await tool('select').click()
  await drag([7, 4], [8, 5])
  await expect.poll(async () => (await doc()).things[1].x).toBe(8)
  await page.getByRole('button', { name: 'Undo' }).click()
  await same()
  await accessible(page, 'drawing board')
  await page.getByRole('button', { name: 'Keep the drawing' }).click()
  await expect(page.locator('[data-diagram] svg.diagram').first()).toHaveAttribute(
    'aria-label',
    /Step 1, Give: player 1 passes .* to player 2.* Step 3, Get it back: player 2 passes .* to player 1/,
  )
})

test('and the same by keys alone', async () => {
  await newDrill('Give and go by keys')
  const board = page.locator('#board svg.diagram').first()
  const key = async (...keys) => {
    for (const k of keys) await page.keyboard.press(k)
  }
  await board.focus()
  let at
  const go = async (x, y) => {
    if (!at) {
      // the cursor shows itself at the first arrow
      await key('ArrowRight')
      const says = await page.locator('#draw-hint').innerText()
      at = says
        .match(/[\d.]+/g)
        .slice(0, 2)
        .map(Number)
    }
    for (; at[0] < x; at[0] += 0.5) await key('ArrowRight')
    for (; at[0] > x; at[0] -= 0.5) await key('ArrowLeft')
    for (; at[1] < y; at[1] += 0.5) await key('ArrowDown')
    for (; at[1] > y; at[1] -= 0.5) await key('ArrowUp')
  }
  for (const t of drawn.things) {
    await key({ player: 'p', ball: 'b' }[t.kind])
    await go(t.x, t.y)
    await key('Enter')
    await expect.poll(async () => (await doc()).things.length).toBe(drawn.things.indexOf(t) + 1)
    await expect(page.locator(`#board [data-thing="${drawn.things.indexOf(t)}"]`)).toHaveCount(1)
  }
  for (const [i, [[kind, from, to]]] of drawn.steps.entries()) {
    if (i) await key('n')
    await expect(board).toBeFocused()
    await key({ run: '1', pass: '3' }[kind])
    await go(...from)
    await key('Enter')
    await go(...to)
    await key('Enter', 'Enter')
    await expect.poll(async () => (await doc()).steps?.[i]?.traces.length).toBe(1)
  }
  await same()
  await key('Escape', ']', 'Delete')
  await expect.poll(async () => (await doc()).things.length).toBe(2)
  await key('Control+z')
  await same()
  await page.getByRole('button', { name: 'Keep the drawing' }).focus()
  await key('Enter')
  await expect(page.locator('[data-diagram] svg.diagram').first()).toHaveAttribute(
    'aria-label',
    /Step 3: player 2 passes/,
  )
})

test('a copy of one’s own, its key changed, and the difference', async () => {
  await page.goto('/shelf?q=wall+passing')
  await page.getByRole('link', { name: /^Wall passing/ }).click()
  await page.getByRole('button', { name: 'Make my own copy' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Wall passing, own copy' })).toBeVisible()
  await page.keyboard.press('e')
  await page.getByLabel('Keys, in teaching order').fill('Step into it\nElbow high\nHands up for the return')
  await page.getByRole('button', { name: /^Keep( edition)?$/ }).click()
  await page.getByRole('link', { name: 'What was changed since' }).click()
  await expect(page.locator('.diff del')).toHaveText('Wrist last')
  await expect(page.locator('.diff ins')).toHaveText('Elbow high')
  await accessible(page, 'editions')
})

test('the path from first steps to match play', async () => {
  await page.goto('/shelf/path')
  await page.getByLabel('Skill').selectOption('shooting')
  await expect(page).toHaveURL(/skill=shooting/)
  const x = async (name) => (await page.locator(`.path a[aria-label^="${name}"]`).boundingBox()).x
  const order = [
    await x('Hoop throws'),
    await x('Standing throw'),
    await x('Jump-shot approach'),
    await x('Wing jump shot'),
  ]
  expect([...order].sort((a, b) => a - b)).toEqual(order)
  await accessible(page, 'path')
  await page.locator('.path a[aria-label^="Jump-shot"]').focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Jump-shot approach' })).toBeVisible()
  const leads = page.locator('section', { has: page.getByRole('heading', { name: 'Leads to' }) })
  await expect(leads).toContainText('bridge if the step is too big: Jump and catch')
  await leads.getByRole('link', { name: 'Wing jump shot' }).click()
  // Back to where it comes from, and a loop is refused with its name.
  await leads.getByRole('link', { name: 'Jump-shot approach' }).click()
  await leads.getByText('Change the links').click()
  await leads.getByLabel('Which drill').fill('Wing jump shot')
  await leads.getByRole('button', { name: 'Link' }).click()
  await expect(leads.getByRole('alert')).toContainText(
    'That would go round in a loop: Jump-shot approach comes after Wing jump shot comes after Jump-shot approach.',
  )
  await expect(leads.getByLabel('Which drill')).toHaveValue('Wing jump shot')
})

test('a pack out of one club into another, and on a phone', async ({ browser }) => {
  await page.goto('/shelf/pack')
  for (const n of ['Hoop throws', 'Standing throw', 'Jump and catch']) await page.getByLabel(n, { exact: true }).check()
  const waiting = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Make the pack' }).click()
  const file = join(mkdtempSync(join(tmpdir(), 'gruppo-pack-')), 'drills.json')
  await (await waiting).saveAs(file)
  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  const stop = watch(other)
  await other.goto('/start')
  await other.getByLabel('Club or school').fill('Harbour Juniors')
  await other.getByLabel('Sport or activity').fill('Ball games')
  await other.getByRole('radio', { name: 'Ball games' }).check()
  await other.getByLabel('Your name').fill('Ola Berg')
  await other.getByLabel('E-mail').fill('ola@harbour.example')
  await other.getByLabel('Password').fill('a long enough sentence')
  await other.getByRole('button', { name: /Start/ }).click()
  await other.goto('/shelf/pack')
  await other.getByLabel('Drop a file here, or choose one').setInputFiles(file)
  await other.getByRole('button', { name: 'Look it over' }).click()
  await expect(other.locator('.counts')).toContainText('3 new')
  await accessible(other, 'a pack on a phone')
  await other.getByRole('button', { name: 'Take 3 drills' }).click()
  await expect(other.locator('#drills .drill-card')).toHaveCount(3)
  await other.getByRole('link', { name: /Standing throw/ }).click()
  await expect(other.locator('.origin')).toContainText(
    'A copy of Standing throw, edition 1, by Saltmarsh Sports School (CC BY 4.0)',
  )
  await expect(other.locator('[data-diagram] svg.diagram').first()).toBeVisible()
  for (const path of [
    '/shelf',
    '/shelf/path',
    '/shelf/pack',
    '/shelf/new',
    new URL(other.url()).pathname,
    new URL(other.url()).pathname + '/drawing',
    new URL(other.url()).pathname + '/print',
  ]) {
    await other.goto(path)
    expect
      .soft(await other.evaluate(() => document.documentElement.scrollWidth - window.innerWidth), path + ' on a phone')
      .toBeLessThanOrEqual(0)
  }
  stop()
  await other.context().close()
})

test('easier and harder with one tap on the plan', async () => {
  await page.goto('/sessions')
  const plan = await page
    .locator('li', { has: page.getByRole('heading', { name: 'Thursday hall' }) })
    .locator('.planned a')
    .first()
    .getAttribute('href')
  await page.goto(plan)
  await page.getByRole('tab', { name: 'Stations' }).click()
  await page.locator('.station-row').first().locator('summary').first().click()
  const group = page.locator('.eased li').first()
  const was = await group.locator('.eased-now').innerText()
  await group
    .getByRole('button', { name: /easier|harder/i })
    .and(page.locator(':not([disabled])'))
    .first()
    .click()
  await expect(page.locator('.eased li').first().locator('.eased-now')).not.toHaveText(was)
  await page.keyboard.press('u')
  await expect(page.locator('.eased li').first().locator('.eased-now')).toHaveText(was)
})
