import { Refusal } from '@core/model'
import { localTakes } from './local-takes'
import { sendTake } from './send-take'
import { takeLock } from './broken-takes'

/** How often what is not on the server yet is sent, in ms. */
const SEND_EVERY = 1000

export interface HeldTake {
  /** Sends what there is now; when it returns, that was tried. */
  readonly flush: () => Promise<void>
  readonly release: () => void
}

/** Keeps other pages from taking a take under way for a broken one, and sends it as it grows. */
export function holdTake(id: string, events: { readonly onUnsent: (unsent: boolean) => void, readonly onTrouble: (error: unknown) => void, readonly onFinished: () => void }): HeldTake {
  let free: (() => void) | null = null
  void navigator.locks.request(takeLock(id), () => new Promise<void>((resolve) => { free = resolve }))
  let sending: Promise<void> | null = null

  async function pump(): Promise<void> {
    const take = await (await localTakes()).get('takes', id)
    if (take === undefined) return
    try {
      const finished = await sendTake(take)
      events.onUnsent(false)
      if (finished) events.onFinished()
    } catch (error) {
      // Nothing is lost: it is kept here and sent as soon as the server answers.
      events.onUnsent(true)
      if (error instanceof Refusal && error.code !== 'unavailable' && error.code !== 'conflict') events.onTrouble(error)
    }
  }
  const once = (): Promise<void> => (sending ??= pump().finally(() => { sending = null }))
  const timer = setInterval(() => { void once() }, SEND_EVERY)
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
