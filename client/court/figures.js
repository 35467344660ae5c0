// What the pad of a criterion shows, from what was tapped so far. Nothing here knows the page.
import { circuit, points, runs } from '../pads.js'
import { foot, less } from './words.js'

const padsOf = {
  makes: 'tries',
  streak: 'tries',
  set: 'tries',
  check: 'points',
  grade: 'grade',
  count: 'count',
  hold: 'watch',
  time: 'watch',
  distance: 'distance',
  angle: 'angle',
  faults: 'faults',
  routine: 'routine',
  none: 'none',
}

// meets mirrors evidence.Meets: whether a mark's figure, tries and points are good enough for a criterion.
export function meets(c, m) {
  if (c.measure === 'makes') return m.tries >= c.of && m.figure * c.of >= c.want * m.tries
  if (c.measure === 'check') return c.points.length > 0 && c.points.every((_, i) => m.points[i])
  if (c.measure === 'angle') return Math.abs(m.figure - c.want) <= c.tolerance
  return less.includes(c.measure) ? m.figure <= c.want : m.figure >= c.want
}

// figures is what the pad of a criterion shows, from what was tapped so far: its kind, the figure, the words under it, and what else that kind needs.
export function figures(
  c,
  { tries = '', zones = '', value, points = [], falls = 0, end = 0, timing = false, now = 0 },
) {
  const pad = padsOf[c.measure] || 'figure'
  const plain = { pad, value: value ?? 0, figure: String(value ?? 0), figureUnder: c.measure }
  switch (pad) {
    case 'tries':
      return { ...plain, ...counted(c, tries, zones), canKeep: tries.length > 0 }
    case 'points':
      return { ...plain, points: c.points.map((text, i) => ({ text, on: Boolean(points[i]) })) }
    case 'grade': {
      const words = c.points.length ? c.points : ['', '', '', '']
      return { ...plain, grades: words.map((word, i) => ({ n: i + 1, word, text: i + 1 + (word ? ' ' + word : '') })) }
    }
    case 'count': {
      const left = end ? Math.max(0, Math.ceil((end - now) / 1000)) : 0
      return {
        ...plain,
        counting: left > 0,
        figureUnder: left ? left + ' s left' : end ? 'time is up' : 'in ' + c.of + ' s',
      }
    }
    case 'watch':
      return { ...plain, timing, figure: plain.value.toFixed(1), figureUnder: timing ? 'stop' : 'start' }
    case 'distance':
      return {
        ...plain,
        figure: c.feet ? (plain.value / foot).toFixed(1) : plain.value.toFixed(2),
        figureUnder: c.feet ? 'feet' : 'metres',
        by: c.feet ? foot / 2 : 0.05,
        max: Math.max(2, Math.ceil(c.want * 2)),
      }
    case 'angle':
      return {
        ...plain,
        ...angle(c, value ?? 90),
        ...(value === undefined && { figure: '–' }),
        untouched: value === undefined,
      }
    case 'routine':
      return { ...plain, ...routine(c, points) }
    case 'faults':
      return { ...plain, figureUnder: falls ? 'faults, ' + falls + ' falls' : 'faults' }
    default:
      return plain
  }
}

// counted is a series of tries: makes of attempts, the run now and the best, or where one is in a circuit.
function counted(c, tries, zones) {
  const n = runs(tries)
  if (c.measure === 'makes') {
    const t = c.target
    if (t?.kind === 'score')
      return { figure: String(points(tries, zones, t.minus, t.bonus)), figureUnder: 'of ' + t.n + ' points' }
    const asked = c.of ? ' (' + c.of + ')' : c.want ? ', to ' + c.want : ''
    return { figure: String(n.good), figureUnder: 'of ' + n.tried + asked }
  }
  if (c.measure === 'set') {
    const at = circuit(tries, c.target.n, c.target.of, c.target.back)
    return { figure: String(at.run), figureUnder: at.done ? 'all done' : 'skill ' + at.skill + ' of ' + c.target.of }
  }
  const words = n.tried + (n.tried === 1 ? ' try' : ' tries')
  return { figure: String(n.run), figureUnder: 'best ' + n.best + ' · ' + words }
}

// routine is a run-through, skill by skill: clean, a fault or a fall; tapping goes round.
export function routine(c, said) {
  const words = ['', 'fault', 'fall'],
    count = (what) => c.points.filter((_, i) => said[i] === what).length
  const faults = count(1) + count(2),
    falls = count(2)
  return {
    figure: c.points.length - faults + ' of ' + c.points.length,
    figureUnder: falls
      ? falls + (falls === 1 ? ' fall' : ' falls')
      : faults
        ? faults + (faults === 1 ? ' fault' : ' faults')
        : 'clean',
    skills: c.points.map((text, i) => ({
      i,
      text,
      word: words[said[i] || 0],
      cls: 'is-' + (words[said[i] || 0] || 'clean'),
    })),
    clean: c.points.map((_, i) => !said[i]),
    note: falls
      ? falls + (falls === 1 ? ' fall: ' : ' falls: ') + c.points.filter((_, i) => said[i] === 2).join(', ')
      : '',
  }
}

// angle is the arm at so many degrees, and the wedge in which it is good.
function angle(c, degrees) {
  const at = (deg, far) =>
    (60 + far * Math.cos((deg * Math.PI) / 180)).toFixed(1) +
    ' ' +
    (62 - far * Math.sin((deg * Math.PI) / 180)).toFixed(1)
  return {
    value: degrees,
    figure: degrees + '°',
    figureUnder: c.want + '° ± ' + c.tolerance,
    arm: 'M60 62L' + at(degrees, 52),
    wedge: 'M60 62L' + at(c.want - c.tolerance, 46) + 'A46 46 0 0 0 ' + at(c.want + c.tolerance, 46) + 'Z',
  }
}
