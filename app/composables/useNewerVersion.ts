import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import type { ScreeningView } from '@contracts'
import { api } from '~/client'

/** How often it is looked whether a talk was changed, in ms: more often while it is being recorded. */
const EVERY = 30_000
const SOON = 4000

/** Whether a talk was changed since its page was loaded, and whether it is being recorded now. A line that is lost says nothing. */
export function useNewerVersion(key: string, view: ScreeningView) {
  const state = shallowRef<Pick<ScreeningView, 'version' | 'recording'>>(view)
  const visible = useDocumentVisibility()
  const every = computed(() => (state.value.recording ? SOON : EVERY))
  useIntervalFn(() => {
    if (visible.value !== 'visible') return
    api.get<Pick<ScreeningView, 'version' | 'recording'>>(`/screenings/${key}/state`).then(
      (now) => {
        state.value = now
      },
      () => undefined,
    )
  }, every)
  return { newer: computed(() => state.value.version !== view.version), recording: computed(() => state.value.recording) }
}
