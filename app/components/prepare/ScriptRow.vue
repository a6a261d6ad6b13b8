<script setup lang="ts">
import { Delete, Hide, Rank, View } from '@element-plus/icons-vue'
import { plannedTime, proposedTime, spokenWords } from '@core/pace'
import type { Rehearsed, Speaker } from '@core/pace'
import { broughtClips } from '@core/model'
import type { Ms, Size, Slide } from '@core/model'
import type { SlideFields } from '@core/deck'
import { duration, readDuration } from '~/words'

/** A slide as a row of a script: its picture on the left, what is said on the right, its times behind. */
const props = defineProps<{
  slide: Slide
  number: number
  talkId: string
  shape: Size
  speaker: Speaker
  language: string
  current: boolean
  picked: boolean
  movable: boolean
  recorded: Ms
  rehearsed: Rehearsed | null
}>()
const emit = defineEmits<{ set: [fields: SlideFields]; remove: []; open: []; select: [how: { more: boolean; range: boolean }] }>()

const picture = computed(() => props.slide.steps.at(-1)?.picture)
const clipWords = computed(() => {
  const clips = broughtClips(props.slide)
  if (clips.length < (props.slide.clips?.length ?? 0)) return 'a window'
  const [only] = clips
  return only !== undefined && clips.length === 1 ? `clip ${duration(only.to - only.from)}` : `${String(clips.length)} clips`
})
const words = computed(() => spokenWords(props.slide.notes))
const planned = computed(() => plannedTime({ ...props.slide, skip: false }, props.speaker))
const name = computed(() => props.slide.title || `Slide ${String(props.number)}`)
/** Once it was open it stays: a row that shrinks would move what is under the hand. */
const opened = ref(false)
watch(
  () => props.current,
  (now) => {
    opened.value ||= now
  },
  { immediate: true },
)
const viewerShown = computed(() => opened.value || props.slide.viewerNotes !== '')

function setPlanned(text: string): void {
  const read = text.trim() === '' ? null : readDuration(text)
  const unread = read === null && text.trim() !== ''
  if (!unread && read !== props.slide.planned) emit('set', { planned: read })
}
const setSection = (event: Event): void => {
  emit('set', { section: (event.target as HTMLInputElement).value.trim() })
}
const setTitle = (event: Event): void => {
  emit('set', { title: (event.target as HTMLInputElement).value.trim() })
}
</script>

<template>
  <!-- One element, so that what is asked of a row is asked of all of it. -->
  <div>
    <input
      v-if="movable && slide.section !== ''"
      class="section"
      :value="slide.section"
      :aria-label="`Heading above slide ${number}`"
      maxlength="120"
      @change="setSection"
    />
    <article
      class="row"
      :class="{ current, skipped: slide.skip, picked }"
      :aria-label="`Slide ${number}: ${name}`"
      @focusin="current || emit('open')"
    >
      <div class="grip">
        <span
          class="handle"
          :class="{ movable }"
          :title="movable ? `Drag to move slide ${number}` : 'Order follows the view; show all slides to move one'"
          ><b class="clock">{{ number }}</b
          ><Rank v-if="movable" aria-hidden="true"
        /></span>
        <input
          type="checkbox"
          :checked="picked"
          :aria-label="`Pick slide ${number}`"
          @click.stop="emit('select', { more: true, range: $event.shiftKey })"
        />
      </div>
      <div class="left" @click="emit('select', { more: $event.ctrlKey || $event.metaKey, range: $event.shiftKey })">
        <SlidePicture v-if="picture" class="picture" :talk-id="talkId" :picture="picture" :drawn="{ slide }" :alt="name" />
        <span class="under soft"
          ><span v-if="slide.steps.length > 1">{{ slide.steps.length }} steps</span
          ><span v-if="slide.clips?.length" class="clips">{{ clipWords }}</span
          ><span v-if="slide.transition !== 'cut'">{{ slide.transition }}</span></span
        >
      </div>
      <div class="words">
        <input
          v-if="slide.composition === null"
          class="title"
          :value="slide.title"
          :placeholder="`Slide ${number}`"
          :aria-label="`Title of slide ${number}`"
          maxlength="200"
          @change="setTitle"
        />
        <p v-else class="title made" :title="`Its heading is written on the slide itself`">{{ slide.title || `Slide ${number}` }}</p>
        <NotesField
          :model-value="slide.notes"
          :label="`Notes of slide ${number}`"
          hint="What you will say. Only you see it."
          :language="language"
          pause
          @update:model-value="emit('set', { notes: $event })"
        >
          <span class="clock soft count">{{ words }} words, {{ duration(proposedTime(slide, speaker)) }}</span>
        </NotesField>
        <NotesField
          v-if="viewerShown"
          class="viewer"
          :model-value="slide.viewerNotes"
          :label="`Words for viewers of slide ${number}`"
          hint="For viewers: what they can read beside this slide."
          :language="language"
          @update:model-value="emit('set', { viewerNotes: $event })"
        />
      </div>
      <div class="times">
        <label class="plan">
          <span class="soft">planned</span>
          <DraftInput
            class="clock"
            :model-value="duration(planned)"
            :class="{ own: slide.planned !== null }"
            :aria-label="`Planned time of slide ${number}`"
            @update:model-value="setPlanned"
          />
        </label>
        <p v-if="rehearsed" :title="`Median of all run-throughs: ${duration(rehearsed.median)}`">
          <span class="soft">rehearsed</span><span class="clock">{{ duration(rehearsed.last) }}</span>
        </p>
        <p v-if="recorded > 0">
          <span class="soft">recorded</span><span class="clock">{{ duration(recorded) }}</span>
        </p>
        <p v-if="words > 0">
          <span class="soft">words</span><span class="clock">{{ words }}</span>
        </p>
        <div class="foot">
          <InsetMap :slide="slide" :shape="shape" />
          <button
            class="press quiet small"
            :aria-label="slide.skip ? `Use slide ${number} again` : `Skip slide ${number}`"
            :title="slide.skip ? 'Use again' : 'Skip'"
            @click.stop="emit('set', { skip: !slide.skip })"
          >
            <component :is="slide.skip ? View : Hide" aria-hidden="true" />
          </button>
          <button class="press quiet small" :aria-label="`Delete slide ${number}`" title="Delete" @click.stop="emit('remove')">
            <Delete aria-hidden="true" />
          </button>
        </div>
      </div>
    </article>
  </div>
</template>

<style scoped>
.section {
  width: 100%;
  padding: 14px 16px 6px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  font: 640 16px var(--display);
}
.row {
  display: grid;
  grid-template-columns: 34px 148px minmax(0, 1fr) 138px;
  gap: 10px;
  padding: 12px 12px 12px 0;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid transparent;
  background: var(--card);
}
.row.current {
  border-left-color: var(--accent);
}
.row.picked {
  background: var(--brand-wash);
}
.row.skipped .left,
.row.skipped .words {
  opacity: 0.5;
}
.grip {
  display: grid;
  justify-items: center;
  align-content: start;
  gap: 8px;
  padding-top: 2px;
  color: var(--soft);
}
.handle {
  display: grid;
  justify-items: center;
  gap: 4px;
}
.handle.movable {
  cursor: grab;
}
.grip svg {
  width: 15px;
}
.grip input {
  width: 16px;
  height: 16px;
  margin: 0;
  accent-color: var(--brand);
}
.left {
  display: grid;
  gap: 4px;
  align-content: start;
  cursor: pointer;
}
.picture {
  width: 148px;
  border: 1px solid var(--line);
}
.under {
  display: flex;
  justify-content: space-between;
  font-size: 13px;
}
.words {
  display: grid;
  gap: 2px;
  align-content: start;
}
.title {
  width: 100%;
  border: 1px solid transparent;
  border-radius: 4px;
  background: transparent;
  font: 600 15.5px var(--read);
  padding: 2px 8px;
  text-overflow: ellipsis;
  overflow: hidden;
  white-space: nowrap;
}
input.title:hover {
  border-color: var(--line);
}
.viewer {
  margin-top: 4px;
  border-left: 3px solid var(--line);
  font-size: 14px;
}
.viewer :deep(textarea) {
  font-size: 14px;
}
.count {
  margin-left: auto;
  font-size: 13px;
}
.times {
  display: grid;
  align-content: start;
  gap: 4px;
  font-size: 14px;
}
.times p,
.plan {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding-right: 8px;
}
.plan {
  padding-right: 0;
}
.plan input {
  width: 62px;
  text-align: right;
  padding: 1px 7px;
  border: 1px dashed var(--line);
  border-radius: 4px;
  background: transparent;
}
.plan input.own {
  border-style: solid;
  border-color: var(--brand);
  font-weight: 700;
}
.foot {
  display: flex;
  align-items: center;
  gap: 2px;
  margin-top: 2px;
}
.foot :first-child {
  margin-right: auto;
}
</style>
