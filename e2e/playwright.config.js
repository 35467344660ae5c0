import { defineConfig } from '@playwright/test'

// The files are worked through side by side, each with a program and a database of its own (test.js); the longest begin first.
const files = [
  'wander',
  'phone',
  'hall',
  'stairs',
  'planner',
  'pages',
  'newclub',
  'training',
  'scoring',
  'demo',
  'shelf',
  'story',
  'plans',
  'season',
  'home',
  'mirror',
  'evening',
  'lost',
]

export default defineConfig({
  testDir: '.',
  globalSetup: './template.js',
  projects: files.map((name) => ({ name, testMatch: name + '.spec.js', fullyParallel: name === 'wander' })),
  workers: Number(process.env.WORKERS || 3),
  retries: 1, // two cores are shared with the Go tests: what only a slow moment broke is tried once more, and called flaky in the list
  timeout: 180_000,
  expect: { timeout: 12_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM || '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    actionTimeout: 20_000,
  },
})
