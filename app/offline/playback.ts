import type { BundleTalk } from '@core/bundle'
import { visitAt } from '@core/screening'
import type { Ms } from '@core/model'

/** A visit's last moment is so much before its end, in ms. */
const LAST = 40
/** Going back within this time of a slide goes to the one before it, in ms. */
const EARLY = 2000

/** What gives the time: a film or a voice. */
export interface Clock {
  currentTime: number
  playbackRate: number
  readonly paused: boolean
  readonly ended: boolean
  play: () => Promise<void>
  pause: () => void
}

/** A clock for a talk that was not recorded: nothing is heard, and its slides change at their planned times. */
export class SilentClock implements Clock {
  readonly #length: Ms
  #from = 0
  #since: number | null = null
  #rate = 1

  constructor(length: Ms) {
    this.#length = length
  }

  get currentTime(): number {
    const gone = this.#since === null ? 0 : ((performance.now() - this.#since) / 1000) * this.#rate
    return Math.min(this.#length / 1000, this.#from + gone)
  }

  set currentTime(seconds: number) {
    this.#from = seconds
    if (this.#since !== null) this.#since = performance.now()
  }

  get playbackRate(): number {
    return this.#rate
  }

  set playbackRate(rate: number) {
    this.currentTime = this.currentTime
    this.#rate = rate
  }

  get paused(): boolean {
    return this.#since === null
  }

  get ended(): boolean {
    return this.currentTime >= this.#length / 1000
  }

  play(): Promise<void> {
    this.#since = performance.now()
    return Promise.resolve()
  }

  pause(): void {
    this.#from = this.currentTime
    this.#since = null
  }
}

/** Plays a talk by its clock, and tells where it is. */
export class Playback {
  readonly #talk: BundleTalk
  readonly #clock: Clock
  readonly #shown: (at: Ms) => void
  /** Whether it stops at the end of each slide. */
  waits = false
  /** It stands at the end of a slide until somebody has it go on. */
  #held = false
  #looking = false

  constructor(talk: BundleTalk, clock: Clock, shown: (at: Ms) => void) {
    this.#talk = talk
    this.#clock = clock
    this.#shown = shown
  }

  get at(): Ms {
    return Math.min(this.#talk.length, Math.round(this.#clock.currentTime * 1000))
  }

  get playing(): boolean {
    return !this.#clock.paused && !this.#clock.ended
  }

  set speed(rate: number) {
    this.#clock.playbackRate = rate
  }

  /** Looks where it is for as long as it plays. */
  look = (): void => {
    if (this.#looking) return
    this.#looking = true
    const step = (): void => {
      this.#waitAtEnd()
      this.#shown(this.at)
      if (this.playing) requestAnimationFrame(step)
      else this.#looking = false
    }
    step()
  }

  #waitAtEnd(): void {
    if (!this.waits || !this.playing) return
    const visit = visitAt(this.#talk.visits, this.at)
    if (visit === null) return
    const end = visit.start + visit.length
    if (this.at < end - LAST || end >= this.#talk.length) return
    this.#clock.pause()
    this.#clock.currentTime = (end - LAST) / 1000
    this.#held = true
  }

  toggle(): void {
    if (this.playing) {
      this.#clock.pause()
      this.#shown(this.at)
      return
    }
    if (this.#clock.ended) this.seek(0)
    else if (this.#held) this.seek(this.#endOfVisit())
    this.#held = false
    void this.#clock.play().then(this.look, () => undefined)
  }

  #endOfVisit(): Ms {
    const visit = visitAt(this.#talk.visits, this.at)
    return visit === null ? this.at : visit.start + visit.length
  }

  seek(at: Ms): void {
    this.#held = false
    this.#clock.currentTime = Math.max(0, Math.min(at, this.#talk.length)) / 1000
    this.#shown(this.at)
  }

  /** The slide before or after this one; back begins with this one's own beginning. */
  goBy(step: -1 | 1): void {
    const { visits } = this.#talk
    const here = visitAt(visits, this.at)
    const n = visits.findIndex(({ id }) => id === here?.id)
    const early = here !== null && this.at - here.start < EARLY
    const next = step === 1 ? visits[n + 1] : visits[early ? n - 1 : n]
    if (next !== undefined) this.seek(next.start)
    else if (step === -1) this.seek(0)
  }
}
