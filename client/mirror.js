// The delayed mirror: a device at the side shows what its camera saw so many seconds ago. Nothing it sees leaves it.
import { clipTime, clipsOf, keepClip, wipeClip } from './clips.js'
import { Ring, angleAt, least, most } from './frames.js'
import { Kept } from './kept.js'
import { Outbox, newID } from './outbox.js'
import { json } from './hall.js'
import { called, gone } from './court/words.js'

const wide = 640, // px of a picture: enough to see a joint, little enough for a minute of them
  perSecond = 25,
  clipLasts = 6000, // ms
  slowly = 0.25

document.addEventListener('alpine:init', () =>
  window.Alpine.data('mirror', () => ({
    state: null,
    started: false,
    says: '',
    delay: 8,
    held: false,
    slow: false,
    at: 0, // the moment that is shown, where it is not so many seconds ago
    showing: '', // the clip that is shown in place of the camera
    tool: '',
    points: [],
    cross: null, // where the keys have brought the next point
    clips: [],
    player: '',
    criterion: '',
    kept: '',
    now: Date.now(),

    init() {
      this.state = JSON.parse(document.getElementById('state').textContent)
      this.delay = Number(localStorage.getItem('gruppo-mirror-delay')) || 8
      this.camera = new Ring()
      this.shownRing = this.camera
      this.canvas = this.$refs.picture
      this.outbox = new Outbox(new Kept(this.state.me.id, this.state.session, this.state.bookedEnd), (items) =>
        this.post(items),
      )
      this.outbox.load().then(() => this.outbox.flush())
      setInterval(() => this.outbox.flush(), 3000)
      this.readClips()
      this.last = performance.now()
      const draw = (t) => {
        this.tick(t)
        requestAnimationFrame(draw)
      }
      requestAnimationFrame(draw)
      document.addEventListener('keydown', (e) => this.key(e))
      const asked = location.hash.match(/^#clip=(.+)$/)
      if (asked) this.show(asked[1])
    },
    async post(items) {
      const r = await fetch('/courtside/' + this.state.session + '/inbox', {
        method: 'POST',
        headers: json,
        body: JSON.stringify({ items }),
      })
      if (!r.ok) throw Object.assign(new Error('The server did not take this.'), { status: r.status })
      return (await r.json()).answers
    },

    // -- the camera

    get noPictures() {
      return this.state.players.filter((p) => p.limits.includes('no pictures')).map((p) => p.name)
    },
    get noPicturesText() {
      return this.noPictures.length ? 'No pictures of ' + this.noPictures.join(', ') + '.' : ''
    },
    async begin() {
      this.says = ''
      try {
        if (!navigator.mediaDevices) throw new Error('insecure')
        const stream = await navigator.mediaDevices.getUserMedia({
          video: { width: { ideal: 1280 }, frameRate: { ideal: 30 }, facingMode: 'environment' },
          audio: false,
        })
        this.video = Object.assign(document.createElement('video'), {
          srcObject: stream,
          muted: true,
          playsInline: true,
        })
        await this.video.play()
      } catch (e) {
        this.says =
          e.message === 'insecure'
            ? 'A browser gives its camera only to a page with https, or to the machine itself.'
            : 'The camera was not given. Allow it for this page in the browser, then begin again.'
        return
      }
      this.started = true
      const shot = document.createElement('canvas')
      let busy = false
      setInterval(() => {
        const v = this.video
        if (busy || !v.videoWidth) return
        busy = true
        shot.width = wide
        shot.height = Math.round((wide * v.videoHeight) / v.videoWidth)
        shot.getContext('2d').drawImage(v, 0, 0, shot.width, shot.height)
        const t = Date.now()
        shot.toBlob(
          (b) => {
            busy = false
            if (b) this.camera.add(t, b)
          },
          'image/jpeg',
          0.75,
        )
      }, 1000 / perSecond)
      navigator.wakeLock?.request('screen').catch(() => {})
    },

    // -- what is shown

    tick(t) {
      const passed = t - this.last
      this.last = t
      this.now = Date.now()
      if (this.showing) {
        if (!this.held) this.at += passed * (this.slow ? slowly : 1)
        if (this.at > this.shownRing.to) this.at = this.shownRing.from // round again
      } else if (this.slow && !this.held) this.at += passed * slowly
      else if (!this.held) this.at = this.now - this.delay * 1000
      const frame = this.shownRing.at(this.at)
      if (frame && frame !== this.drawn && !this.drawing) this.draw(frame)
    },
    async draw(frame) {
      this.drawing = true
      try {
        const bitmap = await createImageBitmap(frame.picture)
        this.canvas.width = bitmap.width
        this.canvas.height = bitmap.height
        this.canvas.getContext('2d').drawImage(bitmap, 0, 0)
        bitmap.close()
        this.drawn = frame
        this.canvas.dataset.at = frame.t
      } finally {
        this.drawing = false
      }
    },
    get agoText() {
      if (!this.started && !this.showing) return ''
      if (this.showing) return this.held ? 'Clip, held' : 'Clip'
      const from = this.camera.from || this.now // before its first picture
      if (from > this.at) return 'ready in ' + Math.ceil((from - this.at) / 1000) + ' s'
      return (
        Math.max(0, Math.round((this.now - this.at) / 1000)) +
        ' s ago' +
        (this.held ? ', held' : this.slow ? ', slow' : '')
      )
    },
    setDelay(e) {
      this.delay = Math.min(most, Math.max(least, Number(e.target.value)))
      localStorage.setItem('gruppo-mirror-delay', String(this.delay))
    },
    hold() {
      this.held = !this.held
      if (!this.held && !this.showing) this.slow = false
      if (!this.held) this.clear()
    },
    step(by) {
      this.held = true
      this.at = this.shownRing.beside(this.at, by)
    },
    toggleSlow() {
      this.slow = !this.slow
      this.held = false
    },
    live() {
      history.replaceState(null, '', location.pathname) // the clip that was asked for is not shown again
      Object.assign(this, { held: false, slow: false, showing: '', shownRing: this.camera })
      this.clear()
    },
    get holdWord() {
      return this.held ? 'Go on' : 'Hold'
    },
    get isLive() {
      return !this.held && !this.slow && !this.showing
    },
    key(e) {
      if (/^(INPUT|SELECT|TEXTAREA)$/.test(e.target.tagName)) return
      if (this.tool && this.moveCross(e)) return e.preventDefault()
      if (e.key === ' ' && e.target.tagName !== 'BUTTON') this.hold()
      else if (e.key === 'ArrowLeft') this.step(-1)
      else if (e.key === 'ArrowRight') this.step(1)
      else if (e.key === 's') this.toggleSlow()
      else if (e.key === 'Escape') this.live()
      else return
      e.preventDefault()
    },

    // -- drawing over it

    use(tool) {
      this.tool = this.tool === tool ? '' : tool
      this.points = []
      this.cross = null
      if (!this.tool) return
      this.held = true
      this.$refs.drawn.focus()
    },
    clear() {
      this.points = []
      this.kept = ''
    },
    // place puts a point where the picture was touched, in thousandths of its width as they are seen.
    place(e) {
      if (!this.tool) return
      const b = e.currentTarget.getBoundingClientRect()
      this.put({ x: ((e.clientX - b.left) / b.width) * 1000, y: ((e.clientY - b.top) / b.width) * 1000 })
    },
    // moveCross draws by keys: arrows move a cross, with Shift by little, and Enter puts a point there.
    moveCross(e) {
      const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
      if (way) {
        const by = e.shiftKey ? 2 : 20,
          most = this.$refs.drawn.clientHeight / this.$refs.drawn.clientWidth,
          at = this.cross || { x: 500, y: 500 * most } // from the middle
        const within = (n, to) => Math.max(0, Math.min(to, n))
        this.cross = { x: within(at.x + by * way[0], 1000), y: within(at.y + by * way[1], 1000 * most) }
      } else if (e.key === 'Enter' && this.cross && e.target === this.$refs.drawn) this.put({ ...this.cross })
      else return false
      return true
    },
    get crossPath() {
      return this.cross ? `M${this.cross.x - 24} ${this.cross.y}h48M${this.cross.x} ${this.cross.y - 24}v48` : ''
    },
    put(p) {
      const full = this.tool === 'angle' ? 3 : 2
      this.points = [...(this.points.length >= full ? [] : this.points), p]
      this.kept = ''
    },
    get path() {
      return this.points.map((p, i) => (i ? 'L' : 'M') + p.x.toFixed(1) + ' ' + p.y.toFixed(1)).join('')
    },
    get dots() {
      return this.points
        .map((p) => `M${(p.x - 7).toFixed(1)} ${p.y.toFixed(1)}a7 7 0 1 0 14 0a7 7 0 1 0 -14 0z`)
        .join('')
    },
    get degrees() {
      return this.tool === 'angle' && this.points.length === 3 ? angleAt(this.points) : null
    },
    get angleText() {
      return this.degrees === null ? '' : this.degrees + '°'
    },
    get angleX() {
      return this.points[1]?.x ?? 0
    },
    get angleY() {
      return (this.points[1]?.y ?? 0) - 14
    },
    get toolSays() {
      if (!this.tool || this.degrees !== null) return ''
      const keys = ' Or by keys: arrows, and Enter for a point.'
      return (this.tool === 'line' ? 'Touch two points.' : 'Touch three: a limb, the joint, the other limb.') + keys
    },

    // -- whose it is: an angle becomes a mark, a clip stands on their card

    get players() {
      return this.state.players
        .filter((p) => !gone.includes(p.said) && !this.noPictures.includes(p.name))
        .map((p) => ({ id: p.id, name: p.name, on: p.id === this.player }))
    },
    get asksWhose() {
      return this.showsMark || this.mayClip
    },
    get criteria() {
      const p = this.state.players.find((q) => q.id === this.player)
      return this.state.criteria
        .filter((c) => c.measure === 'angle' && c.stage === p?.stage)
        .map((c) => ({ id: c.id, wording: c.wording + ', ' + c.standard, on: c.id === this.criterion }))
    },
    setPlayer(e) {
      this.player = e.target.value
      this.criterion = this.criteria[0]?.id || ''
    },
    setCriterion(e) {
      this.criterion = e.target.value
    },
    get mayMark() {
      return this.degrees !== null && Boolean(this.player && this.criterion) && !this.kept
    },
    get markText() {
      const p = this.state.players.find((q) => q.id === this.player)
      return this.angleText + (p ? ' for ' + p.name : '') + ': keep as mark'
    },
    get showsMark() {
      return this.degrees !== null && this.state.criteria.some((c) => c.measure === 'angle')
    },
    async mark() {
      const item = {
        kind: 'mark',
        id: newID(),
        player: this.player,
        criterion: this.criterion,
        drill: '',
        side: '',
        round: 0,
        figure: this.degrees,
        points: [],
        at: new Date().toISOString(),
      }
      this.kept = this.angleText + ' is kept.'
      await this.outbox.add(item)
      const r = await this.outbox.flush()
      if (r.refused.length) this.kept = r.refused[0].why
      else if (!r.sent) this.kept = this.angleText + ' waits here until there is network.'
    },

    // -- clips, on this device only

    async readClips() {
      const whose = (id) => called(this.state.players.find((p) => p.id === id))
      this.clips = (await clipsOf(this.state.club).catch(() => [])).map((c) => ({
        id: c.id,
        name: [whose(c.player), clipTime(c.at, this.state.zone)].filter(Boolean).join(' '),
        on: c.id === this.showing,
        frames: c.frames.length,
      }))
    },
    get mayClip() {
      return this.state.clipDays > 0 && this.started && !this.showing
    },
    get clipsText() {
      if (!this.state.clipDays) return 'Clips are off: your club has not said that pictures may be kept.'
      return (
        'Clips stay on this device and are wiped after ' +
        this.state.clipDays +
        (this.state.clipDays === 1 ? ' day.' : ' days.')
      )
    },
    async clip() {
      const frames = this.camera.between(this.at - clipLasts, this.at)
      if (!frames.length) return
      await keepClip({
        id: newID(),
        club: this.state.club,
        at: this.at,
        player: this.player,
        until: Date.now() + this.state.clipDays * 86_400_000,
        frames,
      }).catch(() => {
        this.says = 'This device has no room for another clip.'
      })
      await this.readClips()
    },
    async show(id) {
      const clip = (await clipsOf(this.state.club)).find((c) => c.id === id)
      if (!clip) return this.readClips()
      const ring = new Ring(Infinity)
      for (const f of clip.frames) ring.add(f.t, f.picture)
      Object.assign(this, { shownRing: ring, showing: id, at: ring.from, held: false, slow: false })
      this.clear()
      this.readClips()
    },
    async wipe() {
      await wipeClip(this.showing)
      this.live()
      this.readClips()
    },
  })),
)
