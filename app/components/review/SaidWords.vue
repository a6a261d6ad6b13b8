<script setup lang="ts">
import type { Ms } from '@core/model'
import type { FilmWord } from '@core/words'
import { useWordCorrection } from '~/composables/useWordCorrection'
import { DOUBTFUL } from '~/stores/said'

/**
 * What is said in a visit, with what was written and not said struck through in its place. A click goes to a word, a drag over words
 * chooses their part of the talk, and a word can be put right where it stands.
 */
const props = defineProps<{
  words: readonly FilmWord[]
  /** The word that is being said; -1: none. */
  saying: number
}>()
const emit = defineEmits<{ go: [at: Ms]; range: [from: Ms, to: Ms]; loop: [] }>()
const text = ref<HTMLElement | null>(null)
const cursor = ref(0)

const correction = useWordCorrection(
  computed(() => props.words),
  (from, to) => {
    emit('range', from, to)
    void nextTick(() => {
      emit('loop')
    })
  },
)
const { editing, draft, first, last } = correction

const classOf = (word: FilmWord, n: number): Record<string, boolean> => ({
  doubtful: word.source === 'heard' && word.sure < DOUBTFUL,
  heard: word.source === 'heard',
  typed: word.source === 'typed',
  now: n === props.saying,
  cursor: n === cursor.value,
})
const titleOf = ({ source, sure }: FilmWord): string | undefined => {
  if (source === 'typed') return 'Put right by hand'
  if (source === 'written') return undefined
  return sure < DOUBTFUL ? 'Heard, and doubtful: F2 puts it right' : 'Heard; it is not written'
}

/** The words that are selected on the page, as places of the first and the last; null: none. */
function selected(): readonly [number, number] | null {
  const selection = document.getSelection()
  if (selection === null || selection.isCollapsed || text.value === null) return null
  const places = [...text.value.querySelectorAll<HTMLElement>('[data-n]')].flatMap((word) =>
    selection.containsNode(word, true) ? [Number(word.dataset['n'])] : [],
  )
  const [begin, end] = [places[0], places.at(-1)]
  return begin === undefined || end === undefined || begin === end ? null : [begin, end]
}

function released(event: PointerEvent): void {
  const chosen = selected()
  if (chosen !== null) {
    const [begin, end] = [props.words[chosen[0]], props.words[chosen[1]]]
    document.getSelection()?.removeAllRanges()
    if (begin !== undefined && end !== undefined) emit('range', begin.from, end.until)
    return
  }
  const place = event.target instanceof HTMLElement ? event.target.dataset['n'] : undefined
  if (place === undefined) return
  cursor.value = Number(place)
  const word = props.words[cursor.value]
  if (word !== undefined) emit('go', word.from)
}

function key(event: KeyboardEvent): void {
  const word = props.words[cursor.value]
  const moves: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 }
  const move = moves[event.key]
  if (move !== undefined) cursor.value = Math.max(0, Math.min(props.words.length - 1, cursor.value + move))
  else if (event.key === 'Enter' && word !== undefined) emit('go', word.from)
  else if (event.key === 'F2') correction.begin(cursor.value, cursor.value)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div
    ref="text"
    class="said"
    tabindex="0"
    role="group"
    aria-label="What is said. Arrow keys go from word to word, Enter goes there, F2 puts a word right."
    @pointerup="released"
    @dblclick="correction.begin(cursor, cursor)"
    @keydown="key"
  >
    <template v-for="(word, n) in words" :key="`${word.from}-${n}`"
      ><del v-if="word.unsaid" title="Written, not said">{{ word.unsaid }}</del
      >{{ ' '
      }}<span v-if="editing && n === first" class="edit"
        ><input
          :ref="correction.focus"
          v-model="draft"
          aria-label="What is said here"
          :size="Math.max(6, draft.length)"
          @keydown.enter.stop.prevent="correction.save"
          @keydown.esc.stop.prevent="correction.end"
          @keydown.stop
          @pointerup.stop
          @dblclick.stop
        /><button class="press small" @click.stop="correction.save">Save</button
        ><button v-if="word.correction" class="press quiet small" @click.stop="correction.takeBack(word.correction)">As heard</button></span
      ><span v-else-if="!editing || n < first || n > last" class="word" :class="classOf(word, n)" :title="titleOf(word)" :data-n="n">{{
        word.text
      }}</span></template
    >
  </div>
</template>

<style scoped>
.said {
  padding: 4px 2px;
  font-size: 14px;
  line-height: 1.5;
}
.said:focus-visible .cursor {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}
.word {
  border-radius: 3px;
  cursor: pointer;
}
.word:hover {
  background: var(--accent-wash);
}
.heard {
  font-style: italic;
}
.doubtful {
  text-decoration: underline dotted 2px;
  text-underline-offset: 3px;
}
.typed {
  border-bottom: 1px solid var(--brand);
}
.now {
  background: var(--accent-wash);
}
del {
  color: var(--soft);
}
.edit {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
.edit input {
  padding: 1px 4px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--ground);
  color: var(--text);
  font: inherit;
}
</style>
