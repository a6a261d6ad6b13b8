import { useEventListener } from '@vueuse/core'

/** What keys do on a screening page. */
export interface ScreeningActions {
  readonly toggle: () => void
  readonly by: (ms: number) => void
  readonly goBy: (step: -1 | 1) => void
  readonly mute: () => void
  readonly captions: () => void
  readonly wait: () => void
  readonly wide: () => void
  readonly find: () => void
  readonly help: () => void
}

/** What each key does, as the help says it. */
export const SCREENING_KEYS: readonly { readonly keys: string; readonly does: string }[] = [
  { keys: 'Space', does: 'play, stop, or go on to the next slide' },
  { keys: '← →', does: 'five seconds back, on' },
  { keys: 'Page Up, Page Down', does: 'the slide before, the next slide' },
  { keys: 'M', does: 'sound off, on' },
  { keys: 'C', does: 'captions off, on' },
  { keys: 'W', does: 'wait at each slide' },
  { keys: 'F', does: 'the whole screen' },
  { keys: '/', does: 'find words' },
  { keys: '?', does: 'these keys' },
]

const STEP = 5000
/** Where keys are typed, or mean something of their own. */
const OWN_KEYS = 'input:not([type=checkbox]), textarea, select, dialog, [contenteditable]'
const BUTTONS = 'a, button, summary, input'

/** Plays a screening page by keys, wherever on it one is. */
export function useScreeningKeys(page: ScreeningActions): void {
  const byKey: Readonly<Record<string, () => void>> = {
    ' ': page.toggle,
    ArrowLeft: () => {
      page.by(-STEP)
    },
    ArrowRight: () => {
      page.by(STEP)
    },
    PageUp: () => {
      page.goBy(-1)
    },
    PageDown: () => {
      page.goBy(1)
    },
    m: page.mute,
    c: page.captions,
    w: page.wait,
    f: page.wide,
    '/': page.find,
    '?': page.help,
  }
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || !(event.target instanceof Element)) return
    if (event.target.closest(OWN_KEYS) !== null) return
    // A button that has the focus is pressed by the space bar.
    if (event.key === ' ' && event.target.closest(BUTTONS) !== null) return
    const does = byKey[event.key.length === 1 ? event.key.toLowerCase() : event.key]
    if (does === undefined) return
    event.preventDefault()
    does()
  })
}
