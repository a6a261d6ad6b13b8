import type { Ref } from 'vue'
import type { Ms, NewBackdrop, StretchId } from '@core/model'
import type { BackdropStillView } from '@contracts'
import { sentenceOf } from '~/client'

/** A picture of a camera that a backdrop is tried on. */
export type TryBackdrop = (backdrop: NewBackdrop) => Promise<BackdropStillView>

/** A moment of a recording's camera. */
export interface CameraPlace {
  readonly stretch: StretchId
  /** ms into the recording. */
  readonly at: Ms
}

/** Tries backdrops on one picture: the one that was asked for last is shown. */
export function useTriedBackdrop(tryOut: TryBackdrop): {
  readonly still: Readonly<Ref<BackdropStillView | null>>
  readonly busy: Readonly<Ref<boolean>>
  readonly trouble: Readonly<Ref<string | null>>
  readonly show: (backdrop: NewBackdrop | null) => Promise<void>
} {
  const still = shallowRef<BackdropStillView | null>(null)
  const busy = ref(false)
  const trouble = ref<string | null>(null)
  let asked = 0

  /** @param backdrop null: nothing is tried any more */
  async function show(backdrop: NewBackdrop | null): Promise<void> {
    asked += 1
    const own = asked
    trouble.value = null
    still.value = null
    busy.value = backdrop !== null
    if (backdrop === null) return
    try {
      const shown = await tryOut(backdrop)
      if (own === asked) still.value = shown
    } catch (error) {
      if (own === asked) trouble.value = sentenceOf(error)
    }
    if (own === asked) busy.value = false
  }
  return { still, busy, trouble, show }
}
