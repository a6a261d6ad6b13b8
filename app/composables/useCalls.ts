import type { CallFields, CallView } from '@contracts'
import { api } from '~/client'
import { useAttempt } from './useAttempt'

/** A person's calls for talks. */
export function useCalls() {
  const calls = shallowRef<readonly CallView[] | null>(null)
  /** One that was taken back just now. */
  const gone = shallowRef<CallView | null>(null)
  const { busy, trouble, attempt } = useAttempt()

  async function fetchAll(): Promise<void> {
    calls.value = await api.get<readonly CallView[]>('/calls')
  }
  const load = (): Promise<void> => attempt(fetchAll)
  /** @returns the call; null when it was refused */
  async function make(fields: CallFields): Promise<CallView | null> {
    let made: CallView | null = null
    await attempt(async () => {
      made = await api.post<CallView>('/calls', fields)
    })
    return made
  }
  const takeBack = (call: CallView): Promise<void> =>
    attempt(async () => {
      await api.delete(`/calls/${call.id}`)
      gone.value = call
      await fetchAll()
    })
  const bringBack = (): Promise<void> =>
    attempt(async () => {
      if (gone.value !== null) await api.post(`/calls/${gone.value.id}/restore`)
      gone.value = null
      await fetchAll()
    })
  return { calls, gone, busy, trouble, load, make, takeBack, bringBack }
}
