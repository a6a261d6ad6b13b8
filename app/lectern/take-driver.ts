import { isRetake } from '@core/session'
import type { Ms, Slide, Snapshot, TakeKind } from '@core/model'
import type { Interruption, RecordingEvent, RecordingPlan, Screen } from '@core/session'
import type { Ref } from 'vue'
import { TakeRecorder, watchSleep } from '~/capture'
import type { HeardPart, SlideTimes, Source } from '~/capture'
import type { NoteCue } from './lectern-screen'

/** What kind of take a plan makes. */
function takeKindOf(plan: RecordingPlan): TakeKind {
  if (plan.mode === 'dub') return 'dub'
  return isRetake(plan) ? 'retake' : 'full'
}

export interface TakeDriven {
  /** The talk's id. */
  readonly talk: () => string
  readonly plan: Ref<RecordingPlan>
  readonly slide: Ref<Slide | null>
  readonly screen: Ref<Screen>
  readonly note: NoteCue
  /** Clips and what moves on the slide as they are when a stretch begins, by the page's clock. */
  readonly openingOf: (began: number) => Pick<Snapshot, 'clips' | 'moved'>
  /** Has the devices open that the plan needs. @returns what to record from */
  readonly openSource: (plan: RecordingPlan) => Promise<Source>
  readonly send: (event: RecordingEvent) => void
  readonly fail: (error: unknown) => void
  /** What is not on the server yet, see `TakeEvents.onUnsent`. */
  readonly unsent: (is: boolean, to: Ms, waiting: Ms) => void
}

/** Has a take recorded: begins it, opens and closes its stretches, goes back in it, ends it. */
export function takeDriver({ talk, plan, slide, screen, note, openingOf, openSource, send, fail, unsent }: TakeDriven) {
  const take = shallowRef<TakeRecorder | null>(null)
  let awake: (() => void) | null = null

  const interrupt = (by: Interruption): void => {
    send({ kind: 'interrupted', by })
  }

  /** Lets go of a take that is over, or that never began. */
  function drop(): void {
    awake?.()
    take.value = null
  }

  async function begin(meant: RecordingPlan): Promise<void> {
    take.value = await TakeRecorder.begin(talk(), takeKindOf(meant), meant.intent, {
      onTrouble: fail,
      onFinished: () => {
        drop()
        send({ kind: 'finished' })
      },
      onUnsent: unsent,
      onRate: () => {
        interrupt({ kind: 'rateChanged' })
      },
      onLost: () => {
        interrupt({ kind: 'micLost' })
      },
    })
    awake = watchSleep((last, asleep) => {
      interrupt({ kind: 'slept', awake: last, asleep })
    })
  }

  async function openStretch(): Promise<void> {
    const current = slide.value
    if (take.value === null || current === null) return
    await take.value.open(await openSource(plan.value), (began): Snapshot => {
      const { step, blank, inset, ink } = screen.value
      return { slide: current.id, step, blank, inset, ink, ...openingOf(began) }
    })
    // A stretch says for itself that its voice is missing from the first.
    if (screen.value.muted) note((at) => ({ kind: 'mute', at, on: true }), performance.now())
    send({ kind: 'opened' })
  }

  /** Stops the take for good; sending what is left goes on after it. @returns null when there is none */
  function stop(): { readonly id: string; readonly length: Ms } | null {
    if (take.value === null) {
      send({ kind: 'finished' })
      return null
    }
    const ended = { id: take.value.id, length: take.value.now() }
    take.value.stop().catch(fail)
    return ended
  }

  return {
    take,
    begin,
    drop,
    openStretch,
    stop,
    /** @param stamp when it ends, on the page's clock; null: now */
    close: (stamp: number | null): Promise<void> => take.value?.close(stamp ?? undefined) ?? Promise.resolve(),
    /** Goes back to a time of the take. @returns what was on screen then, and how long each slide was up until then */
    goBackTo: async (at: Ms): Promise<{ readonly there: Snapshot; readonly times: SlideTimes } | null> => {
      if (take.value === null) return null
      const there = await take.value.backTo(at)
      return { there, times: take.value.times() }
    },
    /** What of the paused take can be heard. */
    parts: (): readonly HeardPart[] => take.value?.parts() ?? [],
  }
}
