// Keys: who has one, which to teach, and the first look.
import { first, gone } from './words.js'
import { newID } from '../outbox.js'
import { teach } from '../pads.js'

// toShow is which of a station's keys is shown: the one of the day until the group has it, then the next that they lack; the last when they have all.
// has says whether a player has a key.
export function toShow(list, day, players, has, share = usual) {
  const at = list.findIndex((k) => k.toLowerCase() === day.toLowerCase())
  if (at >= 0 && !holds(list[at], players, has, share)) return at
  const t = teach(list, players, has, share)
  return t.at < 0 ? list.length - 1 : t.at
}

// holds reports whether the share of a group has a key from which it holds: the club's, or seven in ten (common practice, no source).
export const usual = 0.7
export const holds = (key, players, has, share = usual) =>
  players.length > 0 && players.filter((p) => has(p, key)).length >= share * players.length

// mostLack is, after a first look, the first key that fewer than seven in ten have of those of whom it was said.
export function mostLack(look, players, said, share = usual) {
  for (const key of look) {
    const words = players.map((p) => said(p, key)).filter(Boolean)
    const lack = words.filter((k) => !k.has).length
    if (words.length && words.length - lack < share * words.length) return { key, lack, of: words.length }
  }
  return null
}

export const keys = {
  keyPick: {},
  hasKey(player, key) {
    return Boolean(this.keysOf(player).find((k) => k.key === key)?.has)
  },
  putKey(k) {
    const i = this.state.keys.findIndex((o) => o.player === k.player && o.key === k.key)
    if (i < 0) this.state.keys.push(k)
    else if (Date.parse(this.state.keys[i].at) <= Date.parse(k.at)) this.state.keys[i] = k
    this.beat++
  },
  // keyList are the keys of the place; where it has none, the one that the plan has for it
  get keyList() {
    const { keys, key } = this.station || {}
    return keys?.length ? keys : key ? [key] : []
  },
  get keyAt() {
    const list = this.keyList,
      where = this.tab + ' ' + (this.here?.name || '')
    const picked = this.keyPick[where]
    if (picked !== undefined) return Math.min(picked, list.length - 1)
    // no key changes under a finger that taps
    const shown = where + ' ' + list.join()
    if (!this.settled && this.keyShown[shown] !== undefined) return this.keyShown[shown]
    return (this.keyShown[shown] = this.firstKey(list))
  },
  keyShown: {},
  firstKey(list) {
    return toShow(
      list,
      this.station?.key || '',
      this.present.map((p) => p.id),
      (p, k) => this.hasKey(p, k),
      this.holdShare,
    )
  },
  get holdShare() {
    return (this.state.holds || 100 * usual) / 100
  },
  groupHas(key) {
    return holds(
      key,
      this.present.map((p) => p.id),
      (p, k) => this.hasKey(p, k),
      this.holdShare,
    )
  },
  // keyShare is how many of a hundred here have the key, for its bar, and keyMark where it holds.
  get keyShare() {
    const ids = this.present.map((p) => p.id)
    return ids.length && this.keyNow ? (100 * ids.filter((id) => this.hasKey(id, this.keyNow)).length) / ids.length : 0
  },
  get keyMark() {
    return 100 * this.holdShare
  },
  get keyNow() {
    return this.keyList[this.keyAt] || ''
  },
  get keyCount() {
    const ids = this.present.map((p) => p.id)
    return ids.length && this.keyNow
      ? ids.filter((id) => this.hasKey(id, this.keyNow)).length + ' of ' + ids.length + ' have it'
      : ''
  },
  get keyHolds() {
    return Boolean(this.keyNow) && this.groupHas(this.keyNow) && this.keyAt < this.keyList.length - 1
  },
  get nextKeyText() {
    return this.keyHolds ? 'It holds. Next: ' + this.keyList[this.keyAt + 1] : ''
  },
  moveKey(by) {
    this.pickKey(Math.min(this.keyList.length - 1, Math.max(0, this.keyAt + by)))
  },
  pickKey(at) {
    this.keyPick = { ...this.keyPick, [this.tab + ' ' + (this.here?.name || '')]: at }
    this.keysOpen = false
  },
  keysOpen: false,
  openKeys() {
    this.keysOpen = !this.keysOpen
  },
  get keyRows() {
    if (!this.keysOpen) return []
    const ids = this.present.map((p) => p.id)
    return this.keyList.map((key, at) => ({
      at,
      key,
      on: at === this.keyAt,
      count: ids.length ? ids.filter((id) => this.hasKey(id, key)).length + ' of ' + ids.length : '',
    }))
  },
  toggleKey(r) {
    this.setKey(r.player.id, this.keyNow, !this.hasKey(r.player.id, this.keyNow))
  },
  setKey(player, key, has) {
    const { session, me } = this.state
    const k = { kind: 'has', id: newID(), player, key, has, session, by: me.id, at: this.stamp() }
    this.putKey(k)
    this.keep(k)
    this.keepState()
  },
  // the first look: everybody is looked at; then the key that most of those lack of whom something was said. Who was looked at is shared by all
  // devices; a key that was not tapped says nothing. Rows stay where they are.
  lookedBy(id) {
    return [
      ...new Set(
        (this.state.looked || [])
          .filter((l) => l.player === id)
          .map((l) => (l.by === this.state.me.id ? 'you' : first(l.byName || ''))),
      ),
    ]
  },
  saidOf(player, key) {
    return this.keysOf(player).find((k) => k.key === key)
  },
  get lookRows() {
    return this.state.players
      .filter((p) => !gone.includes(p.said))
      .map((p) => ({
        player: p,
        name: p.name,
        looked: this.isLooked(p.id),
        by: this.lookedBy(p.id).join(', '),
        allLabel: p.name + ': looked at',
        looks: (this.state.look || []).map((k) => {
          const said = this.saidOf(p.id, k)
          return {
            key: k,
            lackLabel: p.name + ' lacks: ' + k,
            has: Boolean(said?.has),
            lacks: Boolean(said && !said.has),
            text: k,
            label: p.name + ': ' + k + (said ? (said.has ? ', has it' : ', lacks it') : ', nothing said yet'),
          }
        }),
      }))
  },
  isLooked(id) {
    return this.lookedBy(id).length > 0
  },
  look(r, key, has) {
    this.setKey(r.player.id, key, has)
    this.lookDone(r)
  },
  // lookKnows: most were looked at, so that what is said of them holds for the group.
  get lookKnows() {
    const all = this.lookRows
    return all.filter((r) => r.looked).length * 2 > all.length
  },
  lookDone(r) {
    const me = this.state.me
    if ((this.state.looked || []).some((l) => l.player === r.player.id && l.by === me.id)) return
    const l = {
      kind: 'looked',
      id: newID(),
      player: r.player.id,
      by: me.id,
      byName: me.name,
      at: this.stamp(),
    }
    this.state.looked = [...(this.state.looked || []), l]
    this.keep(l)
    this.keepState()
  },
  // lookAbout is which situation the task of the look shows, and how they move in it
  get lookAbout() {
    const b = this.state.segments.find((s) => s.what === 'look')?.block
    return this.state.tasks.find((t) => t.block === b)?.about || ''
  },
  get lookText() {
    const all = this.lookRows,
      open = all.filter((r) => !r.looked)
    if (open.length) return open.length + ' of ' + all.length + ' not looked at yet'
    return 'Everybody was looked at.'
  },
  get lookKey() {
    if (!this.lookKnows) return null
    const here = this.state.players.filter((p) => !gone.includes(p.said)).map((p) => p.id)
    return mostLack(this.state.look || [], here, (id, key) => this.saidOf(id, key), this.holdShare)
  },
  get lookAdvice() {
    if (!this.lookKnows) return ''
    const k = this.lookKey,
      all = this.lookRows,
      of = 'Of ' + all.filter((r) => r.looked).length + ' of ' + all.length + ' seen: enough'
    if (k) return k.lack + ' of the ' + k.of + ' of whom it was said lack “' + k.key + '”. Teach that today.'
    return (this.state.look || []).some((key) => this.state.players.some((p) => this.saidOf(p.id, key)))
      ? of + ' have all that was looked for. Go on to the next skill.'
      : ''
  },
  get mayTeach() {
    return Boolean(this.lookKey) && this.lookKey.key !== this.state.key
  },
  teachIt() {
    this.ask('key', { key: this.lookKey.key })
  },
}
