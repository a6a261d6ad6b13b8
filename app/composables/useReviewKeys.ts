import { useEventListener } from '@vueuse/core'
import type { Ms } from '@core/model'
import { useInkAfterwards } from '~/stores/ink-afterwards'
import { useProgrammeEdits } from '~/stores/programme-edits'

/** What Review's keys move. */
export interface ReviewKeys {
  readonly toggle: () => void
  readonly move: (by: Ms) => void
  readonly start: () => void
  readonly jump: (by: -1 | 1) => void
  readonly peg: (which: 'from' | 'to') => void
}

/** Keys of Review in words. */
export const REVIEW_KEY_WORDS: readonly (readonly [string, string])[] = [
  ['Space', 'play, pause'],
  ['← →', 'two seconds back, on'],
  ['Shift ← →', 'a frame back, on'],
  ['↑ ↓', 'the visit, step, stroke or silence before, after'],
  ['[ ]', 'the chosen part begins, ends here'],
  ['Delete', 'deletes the chosen strokes, or cuts the chosen part'],
  ['Esc', 'lets go'],
  ['Ctrl Z', 'takes back; with Shift does again'],
  ['Home', 'to the start'],
  ['O', 'held under Dressing: voices as they were recorded'],
]

const FAR: Ms = 2000
const FRAME: Ms = 1000 / 30

/** Whether a key is for what has the focus rather than for the film. */
const isTaken = ({ target, key }: KeyboardEvent): boolean =>
  (target instanceof HTMLInputElement && (target.type !== 'checkbox' || key === ' ')) ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLElement && target.closest('.el-dialog, .el-select, .el-slider, .el-dropdown-menu') !== null) ||
  (target instanceof HTMLButtonElement && (key === ' ' || key === 'Enter'))

/** The keys of Review. What is chosen goes by Delete: strokes first, then the part between the pegs. */
export function useReviewKeys(film: ReviewKeys): void {
  const programmeEdits = useProgrammeEdits()
  const ink = useInkAfterwards()

  function takeOut(): void {
    if (ink.chosen !== null) void ink.remove()
    else if (programmeEdits.range !== null) void programmeEdits.edit({ kind: 'cut', parts: [programmeEdits.range] })
  }
  function letGo(): void {
    if (ink.chosen !== null) ink.letGo()
    else if (ink.pen !== null) ink.pen = null
    else programmeEdits.range = null
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.altKey || isTaken(event)) return
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      void programmeEdits.back(event.shiftKey ? 'redo' : 'undo')
      return
    }
    if (event.ctrlKey || event.metaKey) return
    const actions: Readonly<Record<string, () => void>> = {
      ' ': film.toggle,
      ArrowRight: () => {
        film.move(event.shiftKey ? FRAME : FAR)
      },
      ArrowLeft: () => {
        film.move(event.shiftKey ? -FRAME : -FAR)
      },
      ArrowDown: () => {
        film.jump(1)
      },
      ArrowUp: () => {
        film.jump(-1)
      },
      Home: film.start,
      '[': () => {
        film.peg('from')
      },
      ']': () => {
        film.peg('to')
      },
      Delete: takeOut,
      Escape: letGo,
    }
    const action = actions[event.key]
    if (action === undefined) return
    event.preventDefault()
    action()
  })
}
