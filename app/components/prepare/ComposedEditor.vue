<script setup lang="ts">
import { FACES, PALETTES, layOut, overlaps, withPictures } from '@core/compose'
import type { Box } from '@core/compose'
import { clearOf } from '@core/layout'
import { blocksOf } from '@core/markup'
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
/** Type sizes of headings that are not the usual one, in layout units. */
const HEADING_SIZE: Partial<Record<Composition['layout'], number>> = { opening: 104, claim: 84, voice: 72 }
/** Size of the words in a place that has none yet, as a share of the slide's width. */
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
/** Type of the words in a place as the painter sets it: as large as they are there now. */
function typeOf(place: Place, box: Box): Readonly<Record<string, string>> {
  const sizes = laid.value.marks.flatMap((mark) =>
    mark.kind === 'line' && overlaps(mark.box, box) ? mark.runs.map(({ font }) => font.size / laid.value.width) : [],
  )
  const { minHeight: _, ...where } = style(box)
  return {
    // As high as its words: what stands below them is seen.
    ...where,
    fontSize: `${String(Math.max(0, ...sizes, sizes.length === 0 ? sizeOf(place) : 0) * 100)}cqw`,
    fontFamily: place === 'heading' ? FACES.display : FACES.read,
    fontWeight: place === 'heading' ? '600' : '400',
    lineHeight: place === 'heading' ? '1.15' : '1.3',
    background: palette.value.ground,
    color: palette.value.text,
  }
}
function input(place: Place, text: string): void {
  set({ [place]: place === 'heading' ? text.replace(/\n/g, ' ').slice(0, 400) : text.slice(0, 6000) })
}
/** Tables, and what else words that are written in place cannot hold, are written as CommonMark. */
const isRaw = (place: Place): boolean => blocksOf(composition.value[place]).some(({ kind }) => kind === 'table')

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
        v-if="writing === at && isRaw(at)"
        class="text"
        :value="composition[at]"
        :style="typeOf(at, box)"
        :aria-label="HINTS[at]"
        spellcheck="true"
        :lang="talk.talk?.language"
        @input="input(at, ($event.target as HTMLTextAreaElement).value)"
        @keydown.esc.stop="writing = null"
        @blur="writing = null"
      />
      <WordsInPlace
        v-else-if="writing === at"
        class="text"
        :model-value="composition[at]"
        :style="typeOf(at, box)"
        :label="HINTS[at]"
        :placeholder="HINTS[at]"
        :single="at === 'heading'"
        :lang="talk.talk?.language"
        @update:model-value="input(at, $event)"
        @done="writing = null"
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
}
textarea.text {
  field-sizing: content;
  overflow: hidden;
}
textarea.text:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 3px;
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
