import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { useSession } from './session'
import type { ClappedDevices } from '~/devices'

export const PROMPTER_MOVES = ['hand', 'rate', 'voice'] as const
/** What moves the notes: keys, the presenter's own rate, or the voice. */
export type PrompterMoves = (typeof PROMPTER_MOVES)[number]

export const BAND_PLACES = ['top', 'left', 'right', 'foot'] as const
/** Where the notes stand at the Lectern. */
export type BandPlace = (typeof BAND_PLACES)[number]
export type ClockName = 'talk' | 'slide' | 'landing'

/** How somebody likes to work at the Lectern in this browser. */
export interface Preferences {
  /** Seconds counted before a recording, 0 to 10. */
  readonly countdown: number
  readonly endAtLimit: boolean
  readonly endAfterLast: boolean
  /** Whether a stroke that ends with the hand held still becomes the shape it resembles. */
  readonly tidy: boolean
  /** Size of the notes, in pixels, 22 to 48. */
  readonly letters: number
  /** Where the notes stand, by the camera's id: near it, so that reading is looking into it. */
  readonly bands: Readonly<Record<string, BandPlace>>
  /** The clocks that are shown large. */
  readonly large: readonly ClockName[]
  readonly moves: PrompterMoves
  /** The devices used last, by the browser's ids for them, with the names they had. */
  readonly camera: { readonly id: string; readonly label: string } | null
  readonly mic: { readonly id: string; readonly label: string } | null
  /** The browser's own work on the voice. */
  readonly echo: boolean
  readonly noise: boolean
  readonly gain: boolean
  /** What claps said of pairs of devices, the newest first. */
  readonly claps: readonly ClappedDevices[]
}

const USUAL: Preferences = {
  countdown: 3,
  endAtLimit: false,
  endAfterLast: false,
  tidy: true,
  letters: 28,
  bands: {},
  large: ['talk'],
  moves: 'hand',
  camera: null,
  mic: null,
  echo: false,
  noise: true,
  gain: false,
  claps: [],
}

/** Each person's habits, remembered in this browser. */
export const usePreferences = defineStore('habits', () => {
  const session = useSession()
  const kept = useLocalStorage<Preferences>(`aisle-habits:${session.person?.id ?? 'here'}`, USUAL, { mergeDefaults: true })
  const now = computed(() => kept.value)
  function set(change: Partial<Preferences>): void {
    kept.value = { ...kept.value, ...change }
  }
  return { now, set }
})
