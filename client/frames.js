// What a mirror has seen: a ring of pictures by their time, and the angle between three points. Nothing here knows a camera or a page.

export const least = 2, // seconds of delay
  most = 60,
  spare = 8 // seconds kept beyond the longest delay, to step back in

export class Ring {
  // keeps is for how many milliseconds a picture stays.
  constructor(keeps = (most + spare) * 1000) {
    Object.assign(this, { keeps, frames: [], __v_skip: true }) // Alpine does not watch a thousand pictures
  }

  // add takes a picture of a moment; what is too old goes.
  add(t, picture) {
    this.frames.push({ t, picture })
    let old = 0
    while (this.frames[old].t < t - this.keeps) old++
    if (old) this.frames.splice(0, old)
  }

  // index is the place of the last picture that is not after a moment; the first where all are, -1 where there is none.
  index(t) {
    let low = 0,
      high = this.frames.length
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.frames[middle].t <= t) low = middle + 1
      else high = middle
    }
    return this.frames.length ? Math.max(0, low - 1) : -1
  }

  at(t) {
    return this.frames[this.index(t)] || null
  }

  // beside is the moment of the picture so many before (-) or after the one of a moment.
  beside(t, by) {
    const i = this.index(t)
    return i < 0 ? t : this.frames[Math.max(0, Math.min(this.frames.length - 1, i + by))].t
  }

  // between are the pictures of a stretch of time.
  between(from, to) {
    return this.frames.filter((f) => f.t >= from && f.t <= to)
  }

  get from() {
    return this.frames[0]?.t ?? 0
  }
  get to() {
    return this.frames.at(-1)?.t ?? 0
  }
}

// angleAt is the angle at the middle one of three points, in whole degrees from 0 to 180.
export function angleAt([a, v, b]) {
  const one = Math.atan2(a.y - v.y, a.x - v.x),
    other = Math.atan2(b.y - v.y, b.x - v.x)
  const turn = Math.abs(one - other) * (180 / Math.PI)
  return Math.round(turn > 180 ? 360 - turn : turn)
}
