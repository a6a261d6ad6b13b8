import { useStorage } from '@vueuse/core'
import type { RemovableRef, UseStorageOptions } from '@vueuse/core'

/**
 * Something that a page for viewers keeps in the browser, from when it is mounted. Within a page of another site browsers may keep nothing
 * for us: then it lasts as long as the page does.
 */
export const useKept = <Value>(key: string, initial: Value, options: UseStorageOptions<Value> = {}): RemovableRef<Value> =>
  useStorage<Value>(key, initial, undefined, { initOnMounted: true, onError: () => undefined, ...options })
