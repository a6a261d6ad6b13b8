import type { Updateable } from 'kysely'
import { timeLeft } from '@core/plan'
import type { RenderPlan, Segment } from '@core/plan'
import type { DeliveryFacts, Ms } from '@core/model'
import type { Database, DeliveryTable } from '@server/database'
import { writeDelivery } from '@server/domain'
import type { DeliveryTurn } from '@server/domain'
import { ClaimLost } from '../claims'
import type { Claim } from '../claims'

/** How often a page is told, in ms. */
const PACE = 500

/** What is done so soon after the beginning was there already, in ms. */
const FOUND = 50

/** How much of a part is done once its last frame is encoded; the rest is checking it. */
const ENCODED = 0.8

/** What a delivery is reckoned to take. */
export interface Reckoned {
  /** Of each segment of the plan that is to be made, and of the voice, in any unit. */
  readonly costs: readonly number[]
  readonly voice: number
  /** All of it, and what of that comes after the pictures. */
  readonly time: Ms
  readonly after: Ms
}

/** Keeps a delivery's row up to date and notices when the delivery was cancelled. */
export class Progress {
  readonly #db: Database
  readonly #claim: Claim
  readonly #delivery: DeliveryTurn
  readonly #plan: RenderPlan | null
  readonly #costs: readonly number[]
  readonly #all: number
  readonly #voice: number
  readonly #time: Ms
  readonly #after: Ms
  readonly #stop = new AbortController()
  #began = Date.now()
  #paidBefore = 0
  #spent = 0
  /** How much of the voice is done, 0 to 1. */
  #sounded = 0
  #frames = 0
  /** Share done of each segment that is being made. */
  readonly #under = new Map<Segment, number>()
  #halted = false
  /** Runs while pictures and voice are made: time goes by also while nothing is finished. */
  #ticking: NodeJS.Timeout | undefined
  #told = 0
  #writing: Promise<void> = Promise.resolve()

  constructor(db: Database, claim: Claim, delivery: DeliveryTurn, plan: RenderPlan | null, { costs, voice, time, after }: Reckoned) {
    this.#db = db
    this.#claim = claim
    this.#delivery = delivery
    this.#plan = plan
    this.#costs = costs
    this.#voice = voice
    this.#all = costs.reduce((sum, cost) => sum + cost, voice)
    this.#time = time
    this.#after = after
  }

  get signal(): AbortSignal {
    return this.#stop.signal
  }

  get cancelled(): boolean {
    return this.#stop.signal.aborted
  }

  throwIfCancelled(): void {
    if (this.#halted) throw new Error('another part of the delivery failed')
    this.#stop.signal.throwIfAborted()
  }

  /** Has all that is under way for this delivery end at its next step, without its being cancelled. */
  halt(): void {
    this.#halted = true
  }

  async enter(state: 'making' | 'checking'): Promise<void> {
    this.#rest()
    if (state === 'making') this.#ticking = setInterval(this.#tellSoon, PACE)
    await this.#writing
    await this.#write({ state, ...(state === 'making' ? { frames_done: 0 } : { frames_done: this.#plan?.frames ?? 0, time_left_ms: 0 }) })
    this.throwIfCancelled()
  }

  /** Everything is made once more, another way. */
  async again(): Promise<void> {
    this.#under.clear()
    this.#frames = 0
    this.#spent = 0
    this.#paidBefore = this.#sounded * this.#voice
    this.#began = Date.now()
    await this.enter('making')
  }

  /** So many frames of a segment that is being made are done. */
  within(segment: Segment, frames: number): void {
    this.#under.set(segment, Math.min(1, frames / Math.max(1, segment.drawn)))
    this.#tellSoon()
  }

  /** So much of the voice is done, 0 to 1; once it was made again, because a peak was too high, more than it was told before. */
  readonly sounded = (share: number): void => {
    this.#sounded = Math.max(this.#sounded, share)
    if (share === 1) this.#noteFound(this.#voice)
  }

  /** A segment is done, made now or found made. */
  async finished(segment: Segment): Promise<void> {
    this.#under.delete(segment)
    this.#frames += segment.frames
    this.#spent += this.#costOf(segment)
    this.#noteFound(this.#costOf(segment))
    this.#tellSoon()
    await this.#writing
    this.throwIfCancelled()
  }

  async fail(sentence: string): Promise<void> {
    this.#rest()
    await this.#writing
    await this.#write({ state: 'failed', sentence, time_left_ms: null })
  }

  /** @param digest of the file @param put gives it its name */
  async done(facts: DeliveryFacts, digest: string, put: () => Promise<void>): Promise<void> {
    this.#rest()
    await this.#writing
    await this.#write({ state: 'done', facts: JSON.stringify(facts), digest, time_left_ms: null, frames_done: facts.frames }, put)
  }

  close(): void {
    this.#rest()
    this.#told = Infinity
  }

  #rest(): void {
    clearInterval(this.#ticking)
    this.#ticking = undefined
  }

  /** What is found made is not counted as work when the time left is reckoned. */
  #noteFound(cost: number): void {
    if (Date.now() - this.#began < FOUND) this.#paidBefore += cost
  }

  readonly #tellSoon = (): void => {
    if (this.#ticking === undefined || Date.now() - this.#told < PACE) return
    this.#told = Date.now()
    this.#writing = this.#writing
      .then(() => this.#report())
      .catch((fault: unknown) => {
        if (fault instanceof ClaimLost) this.#stop.abort()
        this.#told = 0
      })
  }

  #costOf(segment: Segment): number {
    return this.#costs[this.#plan?.segments.indexOf(segment) ?? -1] ?? 0
  }

  async #report(): Promise<void> {
    let frames = this.#frames
    let spent = this.#spent + this.#sounded * this.#voice
    for (const [segment, share] of this.#under) {
      frames += Math.round(segment.frames * share)
      spent += this.#costOf(segment) * share * ENCODED
    }
    const left = timeLeft({
      elapsed: Date.now() - this.#began,
      spent,
      found: this.#paidBefore,
      all: this.#all,
      time: this.#time,
      after: this.#after,
    })
    await this.#write({ frames_done: frames, time_left_ms: left })
  }

  /** @param first is done before it is written, once it is sure that nobody else makes this file */
  async #write(columns: Updateable<DeliveryTable>, first: () => Promise<void> = () => Promise.resolve()): Promise<void> {
    const written = await this.#db.transaction().execute(async (q) => {
      await this.#claim.stillHeld(q)
      return await writeDelivery(q, this.#delivery, columns, first)
    })
    if (!written) this.#stop.abort()
  }
}
