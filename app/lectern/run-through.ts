import { NOTHING_HEARD, listened } from '@core/voice'
import type { LevelBlock } from '@core/voice'
import type { RunThrough } from '@core/pace'
import type { Ms, SlideId } from '@core/model'
import { api } from '~/client'
import { RunClock } from './run-clock'

/** Calls back with each block of levels. @returns what ends that */
export type Listen = (hear: (block: LevelBlock) => void) => () => void

export interface EndedRun {
  readonly run: RunThrough
  /** Sends it to the server. @returns false when nothing was seen in it, which is not kept */
  readonly keep: (talk: string) => Promise<boolean>
}

/** A run-through: everything as when recording, but nothing is kept but the timings. */
export function runThrough() {
  let clock: RunClock | null = null
  let unsubscribe: (() => void) | null = null

  function start(listen: Listen): void {
    const begun = new RunClock()
    clock = begun
    let hearing = NOTHING_HEARD
    let heardAt = performance.now()
    unsubscribe = listen((block) => {
      hearing = listened(hearing, block.rms, block.at)
      begun.hear(block.at - heardAt, hearing.speaking)
      heardAt = block.at
    })
  }

  /** Ends it. @returns null when there is none */
  function end(): EndedRun | null {
    unsubscribe?.()
    const ended = clock
    clock = null
    if (ended === null) return null
    const keep = async (talk: string): Promise<boolean> => {
      if (ended.run.visits.length === 0) return false
      await api.put(`/talks/${talk}/rehearsals/${ended.id}`, { started: ended.started, ...ended.run })
      return true
    }
    return { run: ended.run, keep }
  }

  return {
    start,
    end,
    /** Time of it, pauses left out; null when there is none. */
    now: (): Ms | null => clock?.now() ?? null,
    left: (slide: SlideId, length: Ms): void => {
      clock?.left(slide, length)
    },
    pause: (): void => {
      clock?.pause()
    },
    goOn: (): void => {
      clock?.goOn()
    },
  }
}
