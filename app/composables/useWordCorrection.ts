import type { Ref } from 'vue'
import type { Ms } from '@core/model'
import type { FilmWord } from '@core/words'
import { useSaid } from '~/stores/said'
import { useProgrammeEdits } from '~/stores/programme-edits'

/** What is heard beside words that are put right, in ms. */
const BESIDE: Ms = 250

/**
 * Puts words right where they stand, while their sound is played over and over.
 * @param words of a visit
 * @param play plays a part of the talk over and over, until no part is chosen any more
 */
export function useWordCorrection(words: Readonly<Ref<readonly FilmWord[]>>, play: (from: Ms, to: Ms) => void) {
  const said = useSaid()
  const edits = useProgrammeEdits()
  const editing = ref(false)
  const draft = ref('')
  const first = ref(0)
  const last = ref(0)

  function begin(from: number, to: number): void {
    const [begins, ends] = [words.value[from], words.value[to]]
    if (begins === undefined || ends === undefined) return
    first.value = from
    last.value = to
    draft.value = words.value
      .slice(from, to + 1)
      .map(({ text }) => text)
      .join(' ')
    editing.value = true
    play(Math.max(0, begins.from - BESIDE), ends.until + BESIDE)
  }

  function end(): void {
    editing.value = false
    edits.range = null
  }

  async function save(): Promise<void> {
    const [begins, ends] = [words.value[first.value], words.value[last.value]]
    if (begins === undefined || ends === undefined) return
    const { stretch, from } = begins.recorded
    const text = draft.value.trim()
    // Words of two recordings are put right one by one.
    const until = ends.recorded.stretch === stretch ? ends.recorded.until : begins.recorded.until
    if (await said.correct([{ stretch, from, until: Math.max(from + 1, until), text }])) {
      if (first.value === last.value) said.noteCorrected(begins.text, text)
      end()
    }
  }

  async function takeBack(correction: string): Promise<void> {
    if (await said.takeBack(correction)) end()
  }

  const focus = (input: unknown): void => {
    if (input instanceof HTMLInputElement && document.activeElement !== input) {
      input.focus()
      input.select()
    }
  }
  return { editing, draft, first, last, begin, end, save, takeBack, focus }
}
