import { Refusal, asId } from '@core/model'
import type { Cue, Intent, Ms, SlideId, Snapshot, Stretch, TakeKind } from '@core/model'
import { showingsOf } from '@core/programme'
import { snapshotAt } from '@core/scene'
import type { DeviceLatency } from '@core/voice'
import { keepChunks, keepFace, keepLocally } from './local-takes'
import type { LocalStretch, LocalTake } from './local-takes'
import { CHUNK_MS, recordingType, runRecording, runSilently } from './recorder'
import type { StretchRun } from './recorder'
import { claimTalk, holdTake } from './hold-take'
import { USUAL_BYTES } from './room-left'
import { announceTake } from './send-take'
import { recordWindow } from './window-recorder'
import type { ShownWindow, WindowRun } from './window-recorder'

export interface TakeEvents {
  /** Something could not be kept or sent. */
  readonly onTrouble: (error: unknown) => void
  /** Whether what was said last is here alone; until when the take is safe, there or here; and how much of it is here alone, in ms. */
  readonly onUnsent: (unsent: boolean, to: Ms, waiting: Ms) => void
  /** All of it is on the server. */
  readonly onFinished: () => void
  /** The microphone changed its rate: the stretch that is open should give way to a new one. */
  readonly onRate: () => void
  /** The recording ended without being asked to. */
  readonly onLost: () => void
}

/** What a stretch is recorded from; no stream: timings and ink alone. */
export interface Source {
  readonly stream: MediaStream | null
  readonly camera: boolean
  /** How late its devices are known to be. */
  readonly late: DeviceLatency
}

/** A stretch of this take with all that is needed to go back into it. */
interface Held {
  local: LocalStretch
  readonly cues: Cue[]
  readonly chunks: Blob[]
  readonly run: StretchRun
  length: Ms
  kept: Ms
  /** Chunks that are on the disk. */
  safe: number
}

/** A part of what counts of a take, to be heard. */
export interface HeardPart {
  readonly recording: Blob
  /** When it begins in the take, in ms. */
  readonly at: Ms
  readonly length: Ms
}

/** Time that slides were up, and since when the last one is. */
export interface SlideTimes {
  readonly settled: ReadonlyMap<SlideId, Ms>
  readonly since: Ms
}

/**
 * A take under way: its stretches, their cues and chunks, kept here first and sent as they come. Times count what counts: pauses and
 * what was said again left out.
 */
export class TakeRecorder {
  #take: LocalTake
  readonly #events: TakeEvents
  readonly #stretches: Held[] = []
  #open: Held | null = null
  /** The window that is shown, and its recording while a stretch is open. */
  #window: ShownWindow | null = null
  #windowRun: WindowRun | null = null
  /** Recordings of this take: stretches, and windows beside them. */
  #recordings = 0
  #release: (() => void) | null = null
  #flush: () => Promise<void> = () => Promise.resolve()

  private constructor(take: LocalTake, events: TakeEvents) {
    this.#take = take
    this.#events = events
  }

  /** Begins a take. @throws Refusal `conflict` when the talk is being recorded elsewhere; whatever the browser's store throws */
  static async begin(talk: string, kind: TakeKind, intent: Intent, events: TakeEvents): Promise<TakeRecorder> {
    const take: LocalTake = { id: crypto.randomUUID(), talk, kind, intent, stopped: false, began: Date.now() }
    const giveBack = await claimTalk(talk)
    try {
      // A server that does not answer is no reason not to record; one that says no is.
      await announceTake(take).catch((error: unknown) => {
        if (!(error instanceof Refusal && error.code === 'unavailable')) throw error
      })
      await keepLocally('takes', take)
    } catch (error) {
      giveBack()
      throw error
    }
    const recorder = new TakeRecorder(take, events)
    const held = holdTake(take.id, {
      ...events,
      safeTo: () => recorder.safeTo,
      onFinished: () => {
        recorder.#release?.()
        events.onFinished()
      },
    })
    recorder.#release = () => {
      held.release()
      giveBack()
    }
    recorder.#flush = held.flush
    return recorder
  }

  get id(): string {
    return this.#take.id
  }

  /** Whether it has a stretch. */
  get begun(): boolean {
    return this.#stretches.length > 0
  }

  /** Whether a stretch is being recorded. */
  get running(): boolean {
    return this.#open !== null
  }

  #before(until: Held | null): Ms {
    let sum = 0
    for (const held of this.#stretches) {
      if (held === until) break
      sum += held.kept
    }
    return sum
  }

  /** Time of the take, in ms. @param stamp on the page's clock */
  now(stamp?: number): Ms {
    return this.#before(this.#open) + (this.#open?.run.now(stamp) ?? 0)
  }

  /** When the take will be so long, on the page's clock. @param length of the take, in ms */
  stampAt(length: Ms): number {
    return (this.#open?.run.began ?? performance.now()) + length - this.#before(this.#open)
  }

  /**
   * Opens a stretch. If one is open, the new one takes over without a gap.
   * @param opening what is on screen then, by the page's clock
   */
  async open(source: Source, opening: (began: number) => Snapshot): Promise<void> {
    const last = this.#open
    const id = crypto.randomUUID()
    let stored: Promise<void> = Promise.resolve()
    let prints = 0
    const run =
      source.stream === null
        ? runSilently()
        : runRecording(
            id,
            { stream: source.stream, pictures: source.camera ? 'camera' : null, late: source.late },
            {
              onChunks: async (chunks) => {
                await stored
                held.chunks.push(...chunks.map(({ blob }) => blob))
                await keepChunks(id, chunks)
                held.safe += chunks.length
              },
              onFingerprint: (print) => {
                prints += 1
                void keepLocally('prints', { stretch: id, n: prints - 1, ...print }).catch(this.#events.onTrouble)
              },
              onFace: (pictures) => keepFace(id, pictures).catch(this.#events.onTrouble),
              onOffsets: (offsets) => {
                void this.#note(held, { offsets }).catch(this.#events.onTrouble)
              },
              onRate: () => {
                if (this.#open === held) this.#events.onRate()
              },
              onEnded: () => {
                if (this.#open === held) this.#events.onLost()
              },
              onTrouble: this.#events.onTrouble,
            },
          )
    const held: Held = {
      local: {
        id,
        take: this.#take.id,
        number: this.#nextNumber(),
        camera: source.camera,
        voice: source.stream !== null,
        mime: recordingType(source.camera),
        opening: opening(run.began),
        offsets: null,
        closing: null,
        kept: null,
      },
      cues: [],
      chunks: [],
      run,
      length: 0,
      kept: 0,
      safe: 0,
    }
    this.#stretches.push(held)
    this.#open = held
    stored = keepLocally('stretches', held.local)
    const over = this.#windowRun
    this.#recordWindow(0)
    await over?.close(run.began)
    if (last !== null) await this.#close(last, run.began)
    await stored
  }

  #nextNumber(): number {
    this.#recordings += 1
    return this.#recordings - 1
  }

  /** Has what is shown of a window recorded beside the stretch that is open. @param at when it came, in ms of the stretch */
  #recordWindow(at: Ms): void {
    const held = this.#open
    this.#windowRun =
      this.#window === null || held === null
        ? null
        : recordWindow(
            this.#window,
            { take: this.#take.id, stretch: held.local.id, number: this.#nextNumber(), run: held.run, at },
            this.#events.onTrouble,
          )
  }

  /** Shows a window, which goes over pauses, or the slides again. @param stamp when, on the page's clock */
  async showWindow(window: ShownWindow | null, stamp: number): Promise<void> {
    const over = this.#windowRun
    this.#window = window
    this.#recordWindow(this.#open?.run.now(stamp) ?? 0)
    await over?.close(stamp)
  }

  async #note(held: Held, fields: Partial<LocalStretch>): Promise<void> {
    held.local = { ...held.local, ...fields }
    await keepLocally('stretches', held.local)
  }

  async #close(held: Held, stamp?: number): Promise<void> {
    held.length = held.run.now(stamp)
    held.kept = held.length
    const { length, chunks } = await held.run.stop(stamp ?? held.run.began + held.length)
    await this.#note(held, { closing: { chunks, cues: held.cues.length, length } })
  }

  /** Closes the stretch that is open. @param stamp when it ends, on the page's clock; now when left out */
  async close(stamp?: number): Promise<void> {
    const held = this.#open
    if (held === null) return
    const over = this.#windowRun
    this.#open = null
    this.#windowRun = null
    await Promise.all([this.#close(held, stamp), over?.close(stamp)])
  }

  /** Notes an event. @param stamp when it happened, on the page's clock */
  cue(make: (at: Ms) => Cue, stamp: number): void {
    const held = this.#open
    if (held === null) return
    const cue = make(held.run.now(stamp))
    const n = held.cues.length
    held.cues.push(cue)
    void keepLocally('cues', { stretch: held.local.id, n, cue }).catch(this.#events.onTrouble)
  }

  /** Until which time of the take everything is on this machine's disk, at least. */
  get safeTo(): Ms {
    const held = this.#open
    const before = this.#before(held)
    if (held === null) return before
    return before + (held.local.voice ? Math.min(held.run.now(), held.safe * CHUNK_MS) : held.run.now())
  }

  /** Bytes that a second of this take needs, as far as seen. */
  get perSecond(): number {
    const bytes = this.#stretches.flatMap((held) => held.chunks).reduce((sum, chunk) => sum + chunk.size, 0)
    const time = this.now() / 1000
    return time > 10 && bytes > 0 ? bytes / time : USUAL_BYTES
  }

  /** What of the take is there to be heard; while it is paused. */
  parts(): readonly HeardPart[] {
    return this.#stretches
      .filter((held) => held.kept > 0 && held.chunks.length > 0)
      .map((held) => ({ recording: new Blob(held.chunks, { type: held.local.mime }), at: this.#before(held), length: held.kept }))
  }

  #stretch(held: Held): Stretch {
    const { id, camera, voice, opening } = held.local
    return {
      id: asId(id),
      length: held.length,
      kept: held === this.#open ? held.run.now() : held.kept,
      camera,
      voice,
      opening,
      cues: held.cues,
    }
  }

  /** How long each slide was up before the one that is up now, and since when that is. */
  times(): SlideTimes {
    let before = 0
    const showings = this.#stretches
      .flatMap((held) => {
        const stretch = this.#stretch(held)
        const at = before
        before += stretch.kept
        return stretch.kept === 0 ? [] : showingsOf(stretch).map(({ slide, from }) => ({ slide, from: at + from }))
      })
      .filter((showing, n, all) => showing.slide !== all[n - 1]?.slide)
    const settled = new Map<SlideId, Ms>()
    for (const [n, next] of showings.slice(1).entries()) {
      const showing = showings[n]
      if (showing !== undefined) settled.set(showing.slide, (settled.get(showing.slide) ?? 0) + next.from - showing.from)
    }
    return { settled, since: showings.at(-1)?.from ?? 0 }
  }

  /**
   * Goes back: what was said from a time on does not count, and is said again. The recording of it is kept.
   * @param at time of the take; the take must be paused
   * @returns what was on screen then
   * @throws Refusal when there is nothing at that time
   */
  async backTo(at: Ms): Promise<Snapshot> {
    const inside = this.#stretches.findLast((held) => held.kept > 0 && this.#before(held) <= at) ?? this.#stretches[0]
    if (inside === undefined) throw new Refusal('unavailable', 'Nothing was recorded yet.')
    const into = Math.min(inside.kept, Math.max(0, at - this.#before(inside)))
    const snapshot = snapshotAt({ opening: inside.local.opening, cues: inside.cues }, into)
    for (const held of this.#stretches.slice(this.#stretches.indexOf(inside))) {
      held.kept = held === inside ? into : 0
      await this.#note(held, { kept: held.kept })
    }
    return snapshot
  }

  /** Stops the take for good; it is finished once the server has it all. */
  async stop(stamp?: number): Promise<void> {
    await this.close(stamp)
    this.#take = { ...this.#take, stopped: true }
    await keepLocally('takes', this.#take)
    await this.#flush()
  }
}
