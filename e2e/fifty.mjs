// make fifty: fifty devices at one session for a minute, each with its stream open and a mark every two seconds: how long a mark takes until it is acknowledged,
// until another device hears of it, and how much of a core the program needs meanwhile.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { Program } from './program.js'

const devices = Number(process.env.DEVICES ?? 50),
  lasts = Number(process.env.SECONDS ?? 60) * 1000,
  every = 2000
const program = new Program('2026-11-24T17:58:00Z'),
  sleep = (ms) => new Promise((done) => setTimeout(done, ms))
const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.floor(q * (list.length - 1))].toFixed(1)
const ticks = Number(execFileSync('getconf', ['CLK_TCK']))
// busy is how many seconds of processor a process has had.
const busy = (pid) => {
  const f = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(f[11]) + Number(f[12])) / ticks
}
try {
  await program.start()
  const { headers, session } = await program.signedIn()
  const state = await (await fetch(`${program.url}/courtside/${session}/state`, { headers })).json()
  const { drill } = state.stations[0],
    players = state.players.map((p) => p.id)
  const sentAt = new Map(),
    heard = [],
    taken = []
  const streams = new AbortController()
  const listen = async (k) => {
    const r = await fetch(`${program.url}/courtside/${session}/live`, { headers, signal: streams.signal })
    const reader = r.body.getReader(),
      decoder = new TextDecoder()
    ;(async () => {
      for (;;) {
        const { value, done } = await reader.read()
        if (done) return
        const at = performance.now()
        for (const [id] of decoder.decode(value, { stream: true }).matchAll(/[0-9a-f]{8}-[0-9a-f-]{27}/g))
          if (sentAt.has(id) && sentAt.get(id).by !== k) heard.push(at - sentAt.get(id).at)
      }
    })().catch(() => {})
  }
  await Promise.all(Array.from({ length: devices }, (_, k) => listen(k)))
  const began = performance.now(),
    had = busy(program.process.pid)
  const device = async (k) => {
    await sleep((every * k) / devices)
    while (performance.now() - began < lasts) {
      const id = crypto.randomUUID(),
        at = performance.now()
      sentAt.set(id, { at, by: k })
      const r = await fetch(`${program.url}/courtside/${session}/inbox`, {
        method: 'POST',
        headers,
        body: JSON.stringify({
          items: [
            { id, kind: 'mark', player: players[k % players.length], drill, figure: 3, points: [], note: 'fifty' },
          ],
        }),
      })
      if (!(await r.json()).answers[0].kept) throw new Error('not kept')
      taken.push(performance.now() - at)
      await sleep(every - (performance.now() - at))
    }
  }
  await Promise.all(Array.from({ length: devices }, (_, k) => device(k)))
  const seconds = (performance.now() - began) / 1000
  console.log(
    `${devices} devices, ${taken.length} marks in ${seconds.toFixed(0)} s: acknowledged p50 ${quantile(taken, 0.5)} ms, p95 ${quantile(taken, 0.95)} ms; ` +
      `heard by the others p50 ${quantile(heard, 0.5)} ms, p95 ${quantile(heard, 0.95)} ms of ${heard.length}; the program used ${((100 * (busy(program.process.pid) - had)) / seconds).toFixed(1)} % of a core`,
  )
  streams.abort()
} finally {
  await program.remove()
}
