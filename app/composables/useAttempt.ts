import { sentenceOf } from '~/client'

/** Work that may be refused: whether it is under way, and what is said when it failed. One piece of work at a time. */
export function useAttempt() {
  const busy = ref(false)
  const trouble = ref<string | null>(null)

  async function attempt(work: () => Promise<void>): Promise<void> {
    busy.value = true
    trouble.value = null
    try {
      await work()
    } catch (error) {
      trouble.value = sentenceOf(error)
    } finally {
      busy.value = false
    }
  }
  return { busy, trouble, attempt }
}
