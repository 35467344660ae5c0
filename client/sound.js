// Signals made in the browser: nothing is fetched. Each is a list of tones: from when, how long, from which pitch to which, and its shape.
const sounds = {
  bell: [
    [0, 1.2, 880, 880, 'sine'],
    [0, 1.2, 1320, 1320, 'sine'],
  ],
  whistle: [
    [0, 0.35, 2350, 2500, 'square'],
    [0.42, 0.5, 2350, 2450, 'square'],
  ],
  horn: [
    [0, 0.8, 220, 210, 'sawtooth'],
    [0, 0.8, 277, 265, 'sawtooth'],
  ],
  beeps: [
    [0, 0.14, 990, 990, 'sine'],
    [0.24, 0.14, 990, 990, 'sine'],
    [0.48, 0.3, 1320, 1320, 'sine'],
  ],
}
export const names = Object.keys(sounds)

export class Signal {
  constructor(storage) {
    this.storage = storage
    const kept = JSON.parse(storage.getItem('gruppo-signal') || '{}')
    this.name = sounds[kept.name] ? kept.name : 'whistle'
    this.volume = kept.volume ?? 0.7
    this.buzz = kept.buzz ?? true
    this.speaks = kept.speaks ?? false
  }
  keep() {
    const { name, volume, buzz, speaks } = this
    this.storage.setItem('gruppo-signal', JSON.stringify({ name, volume, buzz, speaks }))
  }

  // give sounds and vibrates; change is the call to move on, else it is the call to begin. Words are spoken after it, by the browser's own voice, where that is
  // wanted and there is one.
  give(change, words = '') {
    if (words && this.speaks && this.volume > 0) this.speak(words, change ? 2300 : 1300)
    // a browser lets a page shake the phone only after it was touched
    if (this.buzz && navigator.vibrate && navigator.userActivation?.hasBeenActive !== false)
      navigator.vibrate(change ? [300, 120, 300] : [500])
    if (this.volume <= 0) return
    try {
      this.audio ||= new AudioContext()
      const at = this.audio.currentTime
      for (const [from, long, low, high, type] of sounds[this.name]) {
        for (let again = 0; again < (change ? 2 : 1); again++) this.tone(at + from + again * 1.1, long, low, high, type)
      }
    } catch {
      /* a browser without sound still shows and vibrates */
    }
  }
  speak(words, after) {
    const voice = globalThis.speechSynthesis
    if (!voice) return
    voice.cancel() // what was said before is over
    const it = Object.assign(new SpeechSynthesisUtterance(words), { lang: 'en', volume: this.volume })
    setTimeout(() => voice.speak(it), after)
  }
  tick() {
    if (this.volume > 0 && this.audio) this.tone(this.audio.currentTime, 0.08, 1500, 1500, 'sine')
  }
  tone(at, long, low, high, type) {
    const o = this.audio.createOscillator(),
      g = this.audio.createGain()
    o.type = type
    o.frequency.setValueAtTime(low, at)
    o.frequency.linearRampToValueAtTime(high, at + long)
    g.gain.setValueAtTime(0.0001, at)
    g.gain.exponentialRampToValueAtTime(Math.max(0.001, this.volume * (type === 'sine' ? 0.7 : 0.25)), at + 0.02)
    g.gain.exponentialRampToValueAtTime(0.001, at + long)
    o.connect(g).connect(this.audio.destination)
    o.start(at)
    o.stop(at + long + 0.05)
  }
}
