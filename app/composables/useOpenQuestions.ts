import type { Ref } from 'vue'
import type { Ms } from '@core/model'
import type { QuestionView } from '@contracts'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'

/** A question that waits for its answer, and where in the film it was asked. */
export interface OpenQuestion {
  readonly id: string
  readonly at: Ms
  readonly words: string
}

/** What was asked of the open talk and has no answer yet. Nothing else waits for it: what cannot be had now comes with the next change. */
export function useOpenQuestions(): Readonly<Ref<readonly OpenQuestion[]>> {
  const talk = useTalk()
  const open = shallowRef<readonly OpenQuestion[]>([])
  watch(
    [() => talk.talk?.id, () => talk.asked, () => talk.programme.revision],
    async ([id]) => {
      if (id === undefined || talk.isGuests) return
      const asked = await api.get<readonly QuestionView[]>(`/talks/${id}/questions`).catch(() => [])
      if (talk.talk?.id !== id) return
      open.value = asked.flatMap(({ id: question, at, words, answer }) =>
        answer === null && at !== null ? [{ id: question, at, words }] : [],
      )
    },
    { immediate: true },
  )
  return open
}
