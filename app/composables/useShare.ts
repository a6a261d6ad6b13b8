import type { AnswerRequest, QuestionView, ShareChange, ShareView } from '@contracts'
import { api } from '~/client'
import { useAttempt } from './useAttempt'

/** How a talk is shown to others, and what they asked; changes are saved at once, one after the other. */
export function useShare(talk: () => string) {
  const share = shallowRef<ShareView | null>(null)
  const questions = shallowRef<readonly QuestionView[]>([])
  const { trouble, attempt } = useAttempt()
  /** Changes that are on their way. */
  const unsaved = ref(0)
  let saving: Promise<void> = Promise.resolve()

  const load = (): Promise<void> =>
    attempt(async () => {
      const [view, asked] = await Promise.all([
        api.get<ShareView>(`/talks/${talk()}/share`),
        api.get<readonly QuestionView[]>(`/talks/${talk()}/questions`),
      ])
      share.value = view
      questions.value = asked
    })

  /** Changes what is said of it. What could not be saved is said, and shown as it was. */
  function change({ phrase, ...fields }: Partial<ShareChange>): void {
    if (share.value === null) return
    const before = share.value
    const { address, phrased, ...now } = { ...before, ...fields }
    share.value = { ...now, address, phrased: phrase === undefined ? phrased : phrase !== null }
    const sent: ShareChange = phrase === undefined ? now : { ...now, phrase }
    unsaved.value += 1
    saving = saving.then(() =>
      attempt(async () => {
        try {
          await api.put<ShareView>(`/talks/${talk()}/share`, sent)
        } catch (error) {
          share.value = before
          throw error
        } finally {
          unsaved.value -= 1
        }
      }),
    )
  }

  const renew = (): Promise<void> =>
    attempt(async () => {
      share.value = await api.post<ShareView>(`/talks/${talk()}/share/link`)
    })
  const answer = (id: string, request: AnswerRequest): Promise<void> =>
    attempt(async () => {
      questions.value = await api.put<readonly QuestionView[]>(`/talks/${talk()}/questions/${id}`, request)
    })
  const remove = (id: string): Promise<void> =>
    attempt(async () => {
      questions.value = await api.delete<readonly QuestionView[]>(`/talks/${talk()}/questions/${id}`)
    })
  return { share, questions, trouble, saved: computed(() => unsaved.value === 0), load, change, renew, answer, remove }
}
