<script setup lang="ts">
import { List } from '@element-plus/icons-vue'
import { FACES, PALETTES, layOut, withPictures } from '@core/compose'
import type { Box } from '@core/compose'
import { clearOf } from '@core/layout'
import { MOST_PICTURES } from '@core/model'
import type { Composition, Slide } from '@core/model'
import { ACCEPTED_PICTURES, bringPictures } from '~/client'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'

/** Writing on a slide made here, where the words stand; pictures by dropping them. */
const props = defineProps<{ slide: Slide; talkId: string }>()
const talk = useTalk()
const sheet = useSheet()
type Place = 'heading' | 'body' | 'second'

const writing = ref<Place | null>(null)
const over = ref(false)
const busy = ref(false)
const layer = ref<HTMLElement | null>(null)
const chooser = ref<{ readonly open: () => void } | null>(null)
const composition = computed<Composition>(
  () => props.slide.composition ?? { layout: 'bare', theme: 'paper', heading: '', body: '', second: '', pictures: [], reveal: 'together' },
)
const laid = computed(() => layOut(composition.value, sheet.shape, clearOf(composition.value.layout, props.slide.framing, sheet.shape)))
const palette = computed(() => PALETTES[composition.value.theme])
const HINTS: Readonly<Record<Place, string>> = { heading: 'Heading', body: 'Text', second: 'The other half' }

const style = (box: Box): Record<string, string> => ({
  left: `${String((box.x / laid.value.width) * 100)}%`,
  top: `${String((box.y / laid.value.height) * 100)}%`,
  width: `${String((box.width / laid.value.width) * 100)}%`,
  minHeight: `${String((box.height / laid.value.height) * 100)}%`,
})
/** Size of the words in a place, as a share of the slide's width. */
/** Type sizes of headings that are not the usual one, in layout units. */
const HEADING_SIZE: Partial<Record<Composition['layout'], number>> = { opening: 104, claim: 84, voice: 72 }
const sizeOf = (place: Place): number => {
  const { layout } = composition.value
  const textSize = layout === 'plate' ? 32 : 40
  const size = place === 'heading' ? (HEADING_SIZE[layout] ?? 62) : textSize
  return size / laid.value.width
}
const places = computed(() =>
  (['heading', 'body', 'second'] as const).flatMap((place) => {
    const box = laid.value.slots[place]
    return box === null ? [] : [{ place, box }]
  }),
)
const set = (fields: Partial<Composition>): void => {
  talk.edit({ kind: 'set', slides: [props.slide.id], fields: { composition: { ...composition.value, ...fields } } })
}

function write(place: Place): void {
  writing.value = place
  void nextTick(() => layer.value?.querySelector('textarea')?.focus())
}
function input(place: Place, event: Event): void {
  const text = (event.target as HTMLTextAreaElement).value
  set({ [place]: place === 'heading' ? text.replace(/\n/g, ' ').slice(0, 400) : text.slice(0, 6000) })
}
const area = (): HTMLTextAreaElement | null => layer.value?.querySelector('textarea') ?? null

function wrap(mark: string): void {
  const field = area()
  if (field === null || writing.value === null) return
  const { selectionStart: from, selectionEnd: to, value } = field
  set({ [writing.value]: value.slice(0, from) + mark + value.slice(from, to) + mark + value.slice(to) })
  void nextTick(() => {
    field.focus()
    field.setSelectionRange(from + mark.length, to + mark.length)
  })
}
/** Makes the lines that are selected points of a list, or plain again. */
function points(): void {
  const field = area()
  if (field === null || writing.value === null || writing.value === 'heading') return
  const { selectionStart: from, selectionEnd: to, value } = field
  const start = value.lastIndexOf('\n', from - 1) + 1
  const end = value.indexOf('\n', to) === -1 ? value.length : value.indexOf('\n', to)
  const lines = value.slice(start, end).split('\n')
  const listed = lines.every((line) => line.startsWith('- '))
  set({
    [writing.value]: value.slice(0, start) + lines.map((line) => (listed ? line.slice(2) : `- ${line}`)).join('\n') + value.slice(end),
  })
  void nextTick(() => field.focus())
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Escape' || (event.key === 'Enter' && writing.value === 'heading')) {
    event.preventDefault()
    event.stopPropagation()
    writing.value = null
  } else if ((event.ctrlKey || event.metaKey) && ['b', 'i'].includes(event.key)) {
    event.preventDefault()
    wrap(event.key === 'b' ? '**' : '*')
  } else if (event.key === 'Enter') goOnWithList(event)
}

/** A point is followed by a point; an empty one ends the list. */
function goOnWithList(event: KeyboardEvent): void {
  const field = area()
  if (field === null || writing.value === null) return
  const at = field.selectionStart
  const line = field.value.slice(field.value.lastIndexOf('\n', at - 1) + 1, at)
  if (!line.startsWith('- ')) return
  event.preventDefault()
  const ends = line === '- '
  const text = ends ? field.value.slice(0, at - 2) + field.value.slice(at) : `${field.value.slice(0, at)}\n- ${field.value.slice(at)}`
  const caret = ends ? at - 2 : at + 3
  set({ [writing.value]: text })
  void nextTick(() => {
    field.setSelectionRange(caret, caret)
  })
}

async function place(files: readonly File[]): Promise<void> {
  over.value = false
  const room = MOST_PICTURES - composition.value.pictures.length
  if (files.length === 0 || room <= 0) return
  busy.value = true
  try {
    const pictures = await bringPictures(props.talkId, files.slice(0, room))
    set(withPictures(composition.value, pictures))
  } catch (error) {
    talk.report(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div
    ref="layer"
    class="layer"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="place([...($event.dataTransfer?.files ?? [])])"
  >
    <template v-for="{ place: at, box } in places" :key="at">
      <textarea
        v-if="writing === at"
        class="text"
        :value="composition[at]"
        :style="{
          ...style(box),
          fontSize: `${sizeOf(at) * 100}cqw`,
          fontFamily: at === 'heading' ? FACES.display : FACES.read,
          background: palette.ground,
          color: palette.text,
        }"
        :aria-label="HINTS[at]"
        :placeholder="at === 'heading' ? 'Heading' : 'Text. A line that begins with “- ” is a point.'"
        spellcheck="true"
        :lang="talk.talk?.language"
        @input="input(at, $event)"
        @keydown="key"
        @blur="writing = null"
      />
      <button
        v-else
        type="button"
        class="slot"
        :class="{ empty: composition[at].trim() === '' && (at !== 'second' || composition.pictures.length < 2) }"
        :style="{ ...style(box), color: palette.soft }"
        :aria-label="`Write: ${HINTS[at]}`"
        @click="write(at)"
      >
        <span v-if="composition[at].trim() === ''" :style="{ fontSize: `${sizeOf(at) * 100}cqw` }">{{ HINTS[at] }}</span>
      </button>
    </template>
    <button
      v-if="laid.slots.pictures && composition.pictures.length === 0"
      type="button"
      class="slot empty picture"
      :style="{ ...style(laid.slots.pictures), color: palette.soft }"
      @click="chooser?.open()"
    >
      {{ busy ? 'One moment …' : 'Drop a picture here, or click to choose' }}
    </button>
    <FileChooser ref="chooser" multiple :accept="ACCEPTED_PICTURES" aria-label="Picture to place" @files="place" />
    <div v-if="writing" class="tools">
      <button type="button" class="press small" aria-label="Bold" title="Bold (Ctrl+B)" @mousedown.prevent @click="wrap('**')">
        <b>B</b>
      </button>
      <button type="button" class="press small" aria-label="Italic" title="Italic (Ctrl+I)" @mousedown.prevent @click="wrap('*')">
        <i>I</i>
      </button>
      <button
        v-if="writing !== 'heading'"
        type="button"
        class="press small"
        aria-label="Points"
        title="Points"
        @mousedown.prevent
        @click="points"
      >
        <List />
      </button>
    </div>
    <p v-if="laid.overfull" class="full">There is more text than fits. Shorten it, or part it over two slides.</p>
  </div>
</template>

<style scoped>
.layer {
  position: absolute;
  inset: 0;
  container-type: size;
}
.layer.over {
  outline: 3px solid var(--brand);
  outline-offset: -3px;
}
.slot {
  position: absolute;
  padding: 0;
  border: 1px dashed transparent;
  background: transparent;
  text-align: left;
  cursor: text;
  font-family: var(--read);
  line-height: 1.15;
  display: grid;
  align-items: start;
}
.slot:hover,
.slot.empty {
  border-color: color-mix(in srgb, currentcolor 55%, transparent);
}
.slot.picture {
  place-items: center;
  cursor: pointer;
  font-size: 14px;
}
.text {
  position: absolute;
  padding: 0;
  border: 0;
  resize: none;
  line-height: 1.28;
  font-weight: 400;
  field-sizing: content;
  overflow: hidden;
}
.text:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 3px;
}
.tools {
  position: absolute;
  right: 6px;
  top: 6px;
  display: flex;
  gap: 4px;
}
.full {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  padding: 4px 10px;
  background: var(--alarm);
  color: var(--card);
  font-size: 13.5px;
}
</style>
