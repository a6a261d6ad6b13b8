import type { Recipe } from '@core/model'
import type { EstimateView } from '@contracts'
import { api, oneAtATime, sentenceOf } from '~/client'
import { useTalk } from '~/stores/talk'

/** The open talk's recipe, which is changed here and on the server, and what a file by it would cost. */
export function useRecipe() {
  const talk = useTalk()
  const recipe = ref<Recipe | null>(null)
  const estimate = ref<EstimateView | null>(null)
  const trouble = ref<string | null>(null)
  /** Changes that are on their way: a talk that was asked for before them does not know of them. */
  let changing = 0

  const guess = oneAtATime(async () => {
    if (talk.talk === null || recipe.value === null || (talk.index === null && recipe.value.timing === 'recorded')) return
    try {
      estimate.value = await api.post<EstimateView>(`/talks/${talk.talk.id}/estimate`, recipe.value)
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  })

  /** The last one wins, in whatever order they are chosen. */
  const save = oneAtATime(async () => {
    await api.put(`/talks/${talk.talk?.id ?? ''}/recipe`, recipe.value)
  })

  /** Takes another recipe; when the server refuses it, the one before stays and that is said. */
  async function change(next: Recipe): Promise<void> {
    if (talk.talk === null) return
    changing += 1
    recipe.value = next
    trouble.value = null
    try {
      await save()
      await Promise.all([talk.refreshTalk(), guess()])
    } catch (error) {
      trouble.value = sentenceOf(error)
    } finally {
      changing -= 1
      if (changing === 0) recipe.value = talk.talk?.recipe ?? null
    }
  }

  watch(
    // Rules change the recipe on the server.
    () => talk.talk?.recipe,
    (now) => {
      if (changing === 0) recipe.value = now ?? null
    },
    { immediate: true },
  )
  watch([() => talk.programme.revision, () => talk.estimateVersion, () => recipe.value === null], () => void guess(), { immediate: true })

  return { recipe, estimate, trouble, change }
}
