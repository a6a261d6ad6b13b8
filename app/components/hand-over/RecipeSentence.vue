<script setup lang="ts">
import { FORMATS, FRAME_RATES, LOUDNESSES, isVideo } from '@core/model'
import type { Format, FrameRate, LimitRule, LoudnessWanted, Ms, PartWanted, Recipe } from '@core/model'
import { withoutEnding } from '@core/plan'
import type { EstimateView } from '@contracts'
import { useTalk } from '~/stores/talk'
import { duration, fileSize, roughTime } from '~/words'
import { CAPTIONS, CONTENTS, contentOf } from './contents'

/** What file is wanted, as a sentence whose words can be exchanged. */
const recipe = defineModel<Recipe>({ required: true })
defineProps<{ estimate: EstimateView | null }>()
const talk = useTalk()
const video = computed(() => isVideo(recipe.value.format))

const FORMAT_WORDS: Readonly<Record<Format, { readonly say: string; readonly hint: string }>> = {
  mp4: { say: 'An MP4 video', hint: 'H.264 and AAC: plays everywhere' },
  webm: { say: 'A WebM video', hint: 'VP9 and Opus: open formats, for web pages' },
  m4a: { say: 'An M4A sound file', hint: 'the voice alone, with chapters' },
  mp3: { say: 'An MP3 sound file', hint: 'the voice alone, for any player' },
  wav: { say: 'A WAV sound file', hint: 'the voice alone, as it is, to work on elsewhere' },
}
const formats = FORMATS.map((value) => ({ value, ...FORMAT_WORDS[value] }))
const RATE_HINT: Readonly<Record<FrameRate, string>> = {
  24: 'as films have',
  25: 'as television has in many places',
  30: 'what most upload forms ask for',
  50: 'smoother, and larger',
  60: 'smoother, and larger',
}
const rates = FRAME_RATES.map((value) => ({ value, say: `${String(value)} frames a second`, hint: RATE_HINT[value] }))
const LOUDNESS_WORDS: Readonly<Record<LoudnessWanted, { readonly say: string; readonly hint: string }>> = {
  [-14]: { say: 'as loud as music', hint: '-14 LUFS, as most video pages bring things to' },
  [-16]: { say: 'as loud as speech should be', hint: '-16 LUFS' },
  [-23]: { say: 'as loud as broadcasters ask', hint: '-23 LUFS' },
}
const loudnesses = LOUDNESSES.map((value) => ({ value, ...LOUDNESS_WORDS[value] }))

const content = computed(() => contentOf(recipe.value.without))
function setContent(value: string): void {
  const wanted = CONTENTS.find((one) => one.value === value)
  if (wanted !== undefined) recipe.value = { ...recipe.value, without: wanted.without }
}

const PARTS: readonly { readonly value: PartWanted['kind']; readonly say: string; readonly hint: string }[] = [
  { value: 'all', say: 'the whole talk', hint: 'from its beginning to its end' },
  { value: 'range', say: 'a part of the talk', hint: 'from one time to another' },
  { value: 'slides', say: 'some of its slides', hint: 'the times at which these are up' },
]
const length = computed(() => talk.index?.length ?? 0)
function setPart(kind: PartWanted['kind']): void {
  const parts: Readonly<Record<PartWanted['kind'], PartWanted>> = {
    all: { kind: 'all' },
    range: { kind: 'range', from: 0, to: Math.max(1000, length.value) },
    slides: { kind: 'slides', slides: talk.slides.slice(0, 1).map(({ id }) => id) },
  }
  recipe.value = { ...recipe.value, part: parts[kind] }
}
const TIMINGS = [
  { value: 'recorded', say: 'as it was recorded', hint: 'with its own times and voice' },
  { value: 'planned', say: 'as a slide show', hint: 'every slide for its planned time, without a voice' },
] as const
const EACH = [
  { value: 'talk', say: 'in one file', hint: '' },
  { value: 'slide', say: 'in a file for each slide', hint: 'numbered as on the run sheet' },
] as const

const limit = computed<Ms>(() => (recipe.value.limit.kind === 'none' ? (talk.talk?.limit ?? 600_000) : recipe.value.limit.limit))
const rules = computed(
  () =>
    [
      { value: 'hold', say: `never over ${duration(limit.value)}`, hint: 'a film that is longer is refused' },
      { value: 'warn', say: 'as long as it is, limit or not', hint: 'the file is made as it is and says how far over it is' },
      { value: 'none', say: 'as long as it is', hint: 'no limit is looked at' },
    ] as const,
)

function setRule(kind: LimitRule['kind']): void {
  recipe.value = { ...recipe.value, limit: kind === 'none' ? { kind } : { kind, limit: limit.value } }
}
function setName(text: string): void {
  const name = withoutEnding(text.trim())
  if (name !== '') recipe.value = { ...recipe.value, name }
}
/** How far a figure may be off, as it is said; what is a first guess is called rough instead. */
const off = (within: number): string => (within < 1 ? ` ± ${String(Math.round(within * 100))}%` : '')
</script>

<template>
  <div class="whole">
    <p class="sentence">
      <WordChoice
        :model-value="recipe.format"
        :options="formats"
        label="Format"
        @update:model-value="recipe = { ...recipe, format: $event }"
      />
      of
      <WordChoice :model-value="recipe.part.kind" :options="PARTS" label="Part" @update:model-value="setPart($event)" />{{ ' ' }}
      <WordChoice
        :model-value="recipe.timing"
        :options="TIMINGS"
        label="Timing"
        @update:model-value="recipe = { ...recipe, timing: $event }"
      />,
      <template v-if="video">
        <WordChoice
          v-if="recipe.timing === 'recorded'"
          :model-value="content.value"
          :options="CONTENTS"
          label="Content"
          @update:model-value="setContent($event)"
        />{{ recipe.timing === 'recorded' ? ', with' : 'with' }} <SizeWords v-model="recipe" /> and
        <WordChoice
          :model-value="recipe.rate"
          :options="rates"
          label="Frames"
          @update:model-value="recipe = { ...recipe, rate: $event }"
        />, <QualityWords v-model="recipe" />,
        <template v-if="recipe.timing === 'recorded' && !recipe.without.voice"
          ><WordChoice
            :model-value="recipe.captions"
            :options="CAPTIONS"
            label="Captions"
            @update:model-value="recipe = { ...recipe, captions: $event }"
          />,
        </template>
      </template>
      <WordChoice
        v-if="recipe.timing === 'recorded' && !recipe.without.voice"
        :model-value="recipe.loudness"
        :options="loudnesses"
        label="Loudness"
        @update:model-value="recipe = { ...recipe, loudness: $event }"
      /><template v-if="recipe.timing === 'recorded' && !recipe.without.voice">, </template>
      <WordChoice :model-value="recipe.limit.kind" :options="rules" label="Limit" @update:model-value="setRule($event)" />,
      <WordChoice :model-value="recipe.each" :options="EACH" label="Files" @update:model-value="recipe = { ...recipe, each: $event }" />
      named
      <span class="name"
        ><DraftInput
          :model-value="recipe.name"
          aria-label="File name"
          :size="Math.max(8, recipe.name.length)"
          maxlength="120"
          @update:model-value="setName"
        />.{{ recipe.format }}</span
      ><template v-if="estimate"
        >, {{ estimate.within.size < 1 ? 'about' : 'roughly' }} {{ fileSize(estimate.bytes) }}{{ off(estimate.within.size) }}, ready in
        {{ roughTime(estimate.time) }}{{ off(estimate.within.time) }}</template
      >.
    </p>
    <RecipePart v-model="recipe" :length="length" />
    <NameFields v-model="recipe" />
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  gap: 12px;
  width: 100%;
}
.sentence {
  font: 400 21px/1.6 var(--display);
}
.name {
  color: var(--brand);
  font-weight: 640;
  border-bottom: 2px dashed var(--brand);
}
.name input {
  max-width: 100%;
  padding: 0;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  field-sizing: content;
}
</style>
