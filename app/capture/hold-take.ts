import { Refusal } from '@core/model'
import type { Ms } from '@core/model'
import { localTakes } from './local-takes'
import { CHUNK_MS } from './recorder'
import { sendTake, chunksWaiting } from './send-take'
import { takeLock } from './broken-takes'

/** How often what is not on the server yet is sent, in ms. */
const SEND_EVERY = 1000
/** A conflict that stays is told after so many tries. */
const TOLD_AFTER = 3

export interface HeldTake {
  /** Sends what there is now; when it returns, that was tried. */
  readonly flush: () => Promise<void>
  readonly release: () => void
}

/**
 * Takes a talk for this page alone, as far as this browser goes.
 * @returns what gives it back
 * @throws Refusal `conflict` when another tab is recording it
 */
export async function claimTalk(talk: string): Promise<() => void> {
  return await new Promise((resolve, reject) => {
    void navigator.locks.request(`aisle-talk:${talk}`, { ifAvailable: true }, (lock) => {
      if (lock === null) {
        reject(new Refusal('conflict', 'This talk is being recorded in another tab of this browser. Stop that take there first.'))
        return undefined
      }
      return new Promise<void>((free) => {
        resolve(free)
      })
    })
  })
}

/** Keeps other pages from taking a take under way for a broken one, and sends it as it grows. */
export function holdTake(
  id: string,
  events: {
    readonly safeTo: () => Ms
    readonly onUnsent: (unsent: boolean, to: Ms, waiting: Ms) => void
    readonly onTrouble: (error: unknown) => void
    readonly onFinished: () => void
  },
): HeldTake {
  let free: (() => void) | null = null
  void navigator.locks.request(
    takeLock(id),
    () =>
      new Promise<void>((resolve) => {
        free = resolve
      }),
  )
  let sending: Promise<void> | null = null
  /** Refusals one after the other that may go away by themselves: what was sent last may not have been kept yet. */
  let refusals = 0

  async function pump(): Promise<void> {
    const take = await (await localTakes()).get('takes', id)
    if (take === undefined) return
    const to = events.safeTo()
    try {
      const finished = await sendTake(take, (count) => {
        const what = count === 1 ? 'One thing that was drawn or pressed' : `${String(count)} things that were drawn or pressed`
        events.onTrouble(
          new Refusal(
            'malformed',
            `${what} could not be taken in by the server. The recording goes on without; they are kept in this browser.`,
          ),
        )
      })
      refusals = 0
      events.onUnsent(false, to, 0)
      if (finished) events.onFinished()
    } catch (error) {
      // Nothing is lost: it is kept here and sent as soon as the server answers.
      events.onUnsent(true, events.safeTo(), (await chunksWaiting(id)) * CHUNK_MS)
      if (!(error instanceof Refusal) || error.code === 'unavailable') return
      refusals += 1
      if (error.code !== 'conflict' || refusals >= TOLD_AFTER) events.onTrouble(error)
    }
  }
  const once = (): Promise<void> =>
    (sending ??= pump().finally(() => {
      sending = null
    }))
  const timer = setInterval(() => {
    void once()
  }, SEND_EVERY)
  return {
    flush: async () => {
      await sending
      await once()
    },
    release: () => {
      clearInterval(timer)
      free?.()
    },
  }
}
