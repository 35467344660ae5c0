// A station's place on the Floor, in metres from its top left corner: x and y, length along x, width along y, and the direction of play in
// degrees. As words it is "x y turn length width", the way the page and the server hand it to each other.

export const parse = (text) => {
  const [x, y, turn, l, w] = text.split(' ').map(Number)
  return { x, y, turn, l, w }
}
export const words = (p) => [p.x, p.y, p.turn, p.l, p.w].map((n) => Math.round(n * 100) / 100).join(' ')

let step = 0.5
// stepOf sets the grid: half a metre, or a foot where the club reads feet.
export const stepOf = (metres) => {
  step = metres || 0.5
}
export const grid = () => step

const foot = 0.3048
const yard = 0.9144
const sizes = Object.fromEntries(
  Object.entries({
    'm metre metres meter meters': 1,
    cm: 0.01,
    mm: 0.001,
    km: 1000,
    "ft foot feet ' ′ ’": foot,
    'in inch inches " ″ ”': foot / 12,
    'yd yds yard yards y': yard,
  }).flatMap(([called, size]) => called.split(' ').map((word) => [word, size])),
)

// unit is what the club reads lengths in, and figure a length in it: metres to a hundredth, feet to a half.
export const unit = () => (step === foot ? 'ft' : 'm')
export const figure = (metres) => (step === foot ? Math.round((metres / foot) * 2) / 2 : Math.round(metres * 100) / 100)

// metres reads a length that was typed, a bare number in the club's unit; NaN where it is none. The program reads it alike (coach.Units).
export function metres(text) {
  let said = text.trim().toLowerCase()
  if (/^-?[\d.,]+$/.test(said)) said += unit()
  if (!/^-?[\d.,]/.test(said)) return NaN
  let sum = 0
  for (const [, n, word] of said.matchAll(/(-?[\d.,]+)(\D*)/g))
    sum += Number(n.replace(',', '.')) * (sizes[word.trim().replace(/\.$/, '')] ?? NaN)
  return sum
}
const half = (n) => Math.round(n / step) * step

// turned is a quarter clockwise about its middle.
export function turned(p) {
  const cx = p.x + p.l / 2,
    cy = p.y + p.w / 2
  return { x: half(cx - p.w / 2), y: half(cy - p.l / 2), turn: (p.turn + 90) % 360, l: p.w, w: p.l }
}

// sized is at least a metre each way, on the grid.
export const sized = (p) => ({
  ...p,
  l: Math.max(Math.ceil(1 / step) * step, half(p.l)),
  w: Math.max(Math.ceil(1 / step) * step, half(p.w)),
})

// snapped goes to the grid, or to a court line that either edge is nearer to than 0.4 m.
export const snapped = (p, xs, ys) => ({ ...p, x: near(p.x, p.l, xs), y: near(p.y, p.w, ys) })
export function near(at, length, lines) {
  for (const l of lines) {
    if (Math.abs(at - l) < 0.4) return l
    if (Math.abs(at + length - l) < 0.4) return l - length
  }
  return half(at)
}
