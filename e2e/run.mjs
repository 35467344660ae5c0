// The browser tests. A file that passed is kept, as Go keeps the results of its tests, until something it rests on is another: the program, what
// the tests share, or itself. FRESH=1 runs every one.
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import config from './playwright.config.js'

const root = new URL('..', import.meta.url).pathname
const kept = join(root, '.run', 'passed'),
  told = join(root, '.run', 'browser.json')
const within = (folder, fits) =>
  readdirSync(join(root, folder))
    .filter((f) => fits.test(f))
    .map((f) => join(folder, f))
const shared = [
  'bin/gruppo',
  'e2e/package-lock.json',
  ...within('e2e', /^(?!.*\.spec\.js$).*\.m?js$/),
  ...within('client', /\.js$/),
  ...within('internal/demo', /\.json$/),
]
const browser = execFileSync(config.use.launchOptions.executablePath, ['--version'])
const stamp = (name) => {
  const hash = createHash('sha256').update(browser).update(process.version)
  for (const f of [...shared, `e2e/${name}.spec.js`].sort()) hash.update(f).update(readFileSync(join(root, f)))
  return hash.digest('hex')
}

mkdirSync(kept, { recursive: true })
const all = config.projects.map((p) => ({ name: p.name, at: join(kept, p.name), stamp: stamp(p.name) }))
const fresh = (p) => process.env.FRESH || !existsSync(p.at) || readFileSync(p.at, 'utf8') !== p.stamp
const due = all.filter(fresh),
  passed = all.filter((p) => !due.includes(p))
if (passed.length)
  console.log(
    'Passed before, with all they rest on as it is now: ' +
      passed.map((p) => p.name).join(', ') +
      '. FRESH=1 runs them again.',
  )
if (!due.length) process.exit(0)

for (const f of [told, ...due.map((p) => p.at)]) rmSync(f, { force: true })
const { status } = spawnSync(
  'npx',
  ['playwright', 'test', '--reporter', 'list,json', ...due.flatMap((p) => ['--project', p.name])],
  {
    cwd: join(root, 'e2e'),
    stdio: 'inherit',
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_FILE: told },
  },
)
const tests = (suite) => [...(suite.specs ?? []).flatMap((s) => s.tests), ...(suite.suites ?? []).flatMap(tests)]
const results = existsSync(told) ? JSON.parse(readFileSync(told, 'utf8')).suites.flatMap(tests) : []
for (const p of due) {
  const its = results.filter((t) => t.projectName === p.name)
  if (its.length && its.every((t) => t.status === 'expected')) writeFileSync(p.at, p.stamp)
}
process.exit(status ?? 1)
