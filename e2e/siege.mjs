// make siege: first a crowd, 500 open streams that all hear of a change and 200 requests at once; then phones keep sending marks while the program is killed again and again, and its PostgreSQL too. What was acknowledged is there, once.
// KILLS=1000 DATABASE_KILLS=20 PHONES=10 PAUSE=300 is the long one; a short siege takes about a minute.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Program } from './program.js'

const kills = Number(process.env.KILLS ?? 15),
  databaseKills = Number(process.env.DATABASE_KILLS ?? 2),
  phones = Number(process.env.PHONES ?? 5),
  pause = Number(process.env.PAUSE ?? 15) // ms between what a phone sends
const program = new Program('2026-11-24T17:58:00Z'),
  sleep = (ms) => new Promise((done) => setTimeout(done, ms))
try {
  await program.start()
  const { headers, session } = await program.signedIn()
  const state = async () => (await fetch(`${program.url}/courtside/${session}/state`, { headers })).json()
  const first = await state(),
    drill = first.stations[0].drill,
    players = first.players.map((p) => p.id)
  // A crowd.
  let heard = 0
  const streams = new AbortController()
  const opened = await Promise.all(
    Array.from({ length: 500 }, async () => {
      const r = await fetch(`${program.url}/courtside/${session}/live`, { headers, signal: streams.signal }).catch(
        () => null,
      )
      if (!r?.ok) return false
      const reader = r.body.getReader()
      ;(async () => {
        let text = ''
        for (;;) {
          const { value, done } = await reader.read()
          if (done) return
          text += new TextDecoder().decode(value)
          if (/data: (?!hello)/.test(text)) {
            heard++
            return
          }
        }
      })().catch(() => {})
      return true
    }),
  )
  await sleep(1000)
  const told = Date.now()
  await fetch(`${program.url}/courtside/${session}/inbox`, {
    method: 'POST',
    headers,
    body: JSON.stringify({
      items: [
        {
          id: crypto.randomUUID(),
          kind: 'said',
          player: players[0],
          state: 'present',
          at: new Date(Date.UTC(2026, 10, 24, 17, 30)).toISOString(),
        },
      ],
    }),
  })
  while (heard < opened.filter(Boolean).length && Date.now() - told < 10_000) await sleep(20)
  const took = Date.now() - told
  const paths = [
      '/',
      '/roster',
      '/shelf',
      '/sessions',
      '/stairs',
      `/sessions/${session}`,
      `/courtside/${session}/state`,
    ],
    codes = {}
  const began = Date.now()
  await Promise.all(
    Array.from({ length: 200 }, async (_, i) => {
      const code = await fetch(program.url + paths[i % paths.length], { headers }).then(
        (r) => r.status,
        () => 'cut off',
      )
      codes[code] = (codes[code] ?? 0) + 1
    }),
  )
  console.log(
    `${opened.filter(Boolean).length} of 500 streams open, ${heard} heard of a change within ${took} ms; 200 requests at once answered ${JSON.stringify(codes)} in ${Date.now() - began} ms`,
  )
  if (heard !== 500 || codes[200] !== 200) process.exitCode = 1
  streams.abort()

  // Killed again and again.
  const acknowledged = new Set(),
    sent = new Set()
  let over = false,
    failed = 0
  const client = async (k) => {
    const waiting = []
    while (!over || waiting.length) {
      if (!over)
        for (let i = 0; i < 4; i++) {
          const id = crypto.randomUUID()
          sent.add(id)
          waiting.push({
            id,
            kind: 'mark',
            player: players[(sent.size + k) % players.length],
            drill,
            figure: sent.size % 900,
            points: [],
            note: 'siege',
            at: new Date(Date.UTC(2026, 10, 24, 17, 30)).toISOString(),
          })
        }
      try {
        const r = await fetch(`${program.url}/courtside/${session}/inbox`, {
          method: 'POST',
          headers,
          body: JSON.stringify({ items: waiting.slice(0, 40) }),
          signal: AbortSignal.timeout(5000),
        })
        if (!r.ok) throw new Error(r.status)
        const done = new Set((await r.json()).answers.filter((a) => a.kept).map((a) => a.id))
        for (const id of done) acknowledged.add(id)
        for (let i = waiting.length - 1; i >= 0; i--) if (done.has(waiting[i].id)) waiting.splice(i, 1)
      } catch {
        failed++
        await sleep(50)
      }
      await sleep(pause)
    }
  }
  const clients = Array.from({ length: phones }, (_, k) => client(k + 1))
  for (let i = 1; i <= kills + databaseKills; i++) {
    await sleep(300 + 400 * Math.random())
    if (i > kills)
      process.kill(Number(readFileSync(join(program.dir, 'data', 'postmaster.pid'), 'utf8').split('\n')[0]), 'SIGKILL')
    await program.stop('SIGKILL')
    await program.start()
  }
  over = true
  await Promise.all(clients)
  const kept = (await state()).marks.filter((m) => m.said === 'siege').map((m) => m.id)
  const there = new Set(kept),
    lost = [...acknowledged].filter((id) => !there.has(id)),
    doubled = kept.length - there.size
  console.log(
    `${kills} kills of the program, ${databaseKills} of PostgreSQL, ${failed} requests cut off: ${acknowledged.size} acknowledged, ${lost.length} lost, ${doubled} doubled, ${kept.length} kept of ${sent.size} sent`,
  )
  if (lost.length || doubled || kept.length !== sent.size) process.exitCode = 1
} finally {
  await program.remove()
}
