// Before all tests: the demo club is loaded into a database once, stopped in order; each file of tests begins from a copy of its folder.
import { appendFileSync } from 'node:fs'
import { join } from 'node:path'
import { clock, Program } from './program.js'

export default async function () {
  const program = await new Program(clock).start()
  await program.stop()
  appendFileSync(join(program.dir, 'data', 'postgresql.auto.conf'), 'fsync = off\n') // no test cuts the power
  process.env.GRUPPO_TEMPLATE = program.dir
  return () => program.remove()
}
