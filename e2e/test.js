// Each file of tests is a project of its own, with a program and a database for itself.
import { test as base } from '@playwright/test'
import { clock, Program } from './program.js'

export { expect } from '@playwright/test'

export const test = base.extend({
  clock: [clock, { option: true, scope: 'worker' }],
  program: [
    async ({ clock }, use) => {
      const program = await new Program(clock).start()
      await use(program)
      await program.remove()
    },
    { scope: 'worker', timeout: 90_000 },
  ],
  baseURL: async ({ program }, use) => use(program.url),
})
