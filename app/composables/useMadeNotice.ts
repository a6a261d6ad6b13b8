import { useDocumentVisibility, useWebNotification } from '@vueuse/core'
import { isUnderWay } from '@core/model'
import type { DeliveryView } from '@contracts'
import { useTalk } from '~/stores/talk'

/**
 * Tells of files that were made, or failed, while one looked elsewhere: in the tab's title until the page is seen again,
 * and by a notification where that is allowed.
 * @returns what stands before the title; whether notifications can be asked for, and what asks
 */
export function useMadeNotice() {
  const talk = useTalk()
  const seen = useDocumentVisibility()
  const { isSupported, permissionGranted, ensurePermissions, show } = useWebNotification({ requestPermissions: false })
  const before = ref('')
  let known = new Map<string, DeliveryView['state']>()

  watch(
    () => talk.ledger,
    (ledger) => {
      for (const { id, state, file, sentence } of ledger) {
        const last = known.get(id)
        if (last === undefined || !isUnderWay(last) || (state !== 'done' && state !== 'failed')) continue
        const title = state === 'done' ? `${file} is ready` : `${file} was not made`
        if (seen.value !== 'visible') {
          before.value = state === 'done' ? '✓ ready · ' : '! not made · '
          if (permissionGranted.value) void show({ title, body: sentence ?? '', tag: id })
        }
      }
      known = new Map(ledger.map(({ id, state }) => [id, state]))
    },
    { immediate: true },
  )
  watch(seen, (now) => {
    if (now === 'visible') before.value = ''
  })

  const canAsk = computed(() => isSupported.value && !permissionGranted.value && talk.ledger.some(({ state }) => isUnderWay(state)))
  return {
    before,
    canAsk,
    ask: () => {
      void ensurePermissions()
    },
  }
}
