import type { SeriesFields, SeriesView } from '@contracts'
import { api, saveFile } from '~/client'
import { useAttempt } from './useAttempt'

/** A presenter's series; changes are saved at once, one after the other. */
export function useSeries() {
  const series = shallowRef<readonly SeriesView[] | null>(null)
  const { trouble, attempt } = useAttempt()
  let saving: Promise<void> = Promise.resolve()
  const taken = (ask: () => Promise<readonly SeriesView[]>): Promise<void> =>
    attempt(async () => {
      series.value = await ask()
    })

  const load = (): Promise<void> => taken(() => api.get<readonly SeriesView[]>('/series'))
  const make = (name: string): Promise<void> => taken(() => api.post<readonly SeriesView[]>('/series', { name }))
  const remove = (one: SeriesView): Promise<void> => taken(() => api.delete<readonly SeriesView[]>(`/series/${one.id}`))
  function change({ id, address: _, talks, ...fields }: SeriesView, more: Partial<SeriesFields>): void {
    const next: SeriesFields = { ...fields, talks: talks.map((talk) => talk.id), ...more }
    saving = saving.then(() => taken(() => api.put<readonly SeriesView[]>(`/series/${id}`, next)))
  }
  /** @returns how many were written to; null when that did not happen */
  async function tell(one: SeriesView, talk: string): Promise<number | null> {
    let told: number | null = null
    await attempt(async () => {
      const { count } = await api.post<{ count: number }>(`/series/${one.id}/letters`, { talk })
      told = count
    })
    return told
  }
  /** What is said in its talks, as a document. */
  const transcript = (one: SeriesView): Promise<void> =>
    attempt(() => saveFile(`/series/${one.id}/transcript?kind=docx`, `${one.name}-transcript.docx`))
  return { series, transcript, trouble, load, make, remove, change, tell }
}
