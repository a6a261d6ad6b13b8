<script setup lang="ts">
import { ChatLineSquare, Flag } from '@element-plus/icons-vue'
import { plannedTime } from '@core/pace'
import { HOLD_RANGE, heldWithoutVoice, isInVisit, pausesIn, piecesOfVisit, rangeInVisit, stumblesIn } from '@core/programme'
import type { Visit } from '@core/programme'
import { inkOfVisit } from '@core/scene'
import type { Ms, Slide } from '@core/model'
import type { OpenQuestion } from '~/composables/useOpenQuestions'
import { retakePath } from '~/composables/useRetakeWish'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'
import { duration, preciseDuration } from '~/words'

/** One showing of one slide: its picture, its voice, what was written for it, how long it is. */
const props = defineProps<{
  visit: Visit
  number: number
  slide: Slide | undefined
  talkId: string
  at: number
  current: boolean
  /** What those who watched asked here, and wait to have answered. */
  questions: readonly OpenQuestion[]
}>()
const emit = defineEmits<{ play: []; go: [at: Ms]; loop: [] }>()
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const allSaid = useSaid()
const said = computed(() => allSaid.ofVisit(props.visit.id))
/** The word that is being said; -1: none. */
const saying = computed(() => (props.current ? said.value.findLastIndex(({ from }) => from <= props.at) : -1))

/** What is played of it. */
const pieces = computed(() => piecesOfVisit(talk.programme, props.visit))
const parts = computed(() =>
  pieces.value.flatMap((piece) => {
    if (piece.kind === 'still' || piece.voice === null) return []
    return [{ peaks: talk.film?.peaks[piece.voice.stretch] ?? [], from: piece.voice.from, to: piece.voice.to }]
  }),
)
const picture = computed(() => props.slide?.steps.at(-1)?.picture)
const pauses = computed(() => pausesIn(pieces.value))
const ink = computed(() => (talk.index === null ? [] : inkOfVisit(talk.index, props.visit)))
const strokes = computed(() => ink.value.length)
/** Its slide looks otherwise than when it was recorded, and nobody has looked yet. */
const changed = computed(() => talk.changedVisits.includes(props.visit.id))
const picked = computed(() => programmeEdits.picked.has(props.visit.id))
/** A slide that is held without a recording: for how long. */
const held = computed(() => heldWithoutVoice(talk.programme, props.visit))
const hold = (length: Ms): void => {
  if (length !== held.value) void programmeEdits.edit({ kind: 'hold', visit: props.visit.id, length })
}
const stumbles = computed(() => stumblesIn(talk.programme, props.visit, (id) => talk.index?.film.stretches.get(id)?.cues ?? []))
/** The chosen part, as far as it lies in this visit, from its beginning on. */
const range = computed(() => rangeInVisit(props.visit, programmeEdits.range))
const silent = computed(() =>
  programmeEdits.pauses
    .filter((pause) => pause.visit === props.visit.id)
    .map(({ from, to }) => ({ from: from - props.visit.start, to: to - props.visit.start })),
)
const marks = computed(() => [
  ...ink.value.map(({ at }) => ({ kind: 'ink' as const, at: at - props.visit.start })),
  ...programmeEdits.steps
    .filter((at) => isInVisit(props.visit, at) && at > props.visit.start)
    .map((at) => ({ kind: 'step' as const, at: at - props.visit.start })),
  ...stumbles.value.map((at) => ({ kind: 'stumble' as const, at })),
])
const seams = computed(() =>
  programmeEdits.seams.filter(({ visit }) => visit === props.visit.id).map((seam) => ({ ...seam, at: seam.at - props.visit.start })),
)
function choose(from: Ms, to: Ms): void {
  if (to > from) programmeEdits.range = { from: props.visit.start + from, to: props.visit.start + to }
}
function chooseSaid(from: Ms, to: Ms): void {
  choose(from - props.visit.start, to - props.visit.start)
}
function playChosen(): void {
  if (range.value !== null) emit('go', range.value.from)
}
/** A click leaves the keys to the film; who came here by keys stays here. */
function playByHand(event: MouseEvent): void {
  if (event.detail > 0 && event.currentTarget instanceof HTMLElement) event.currentTarget.blur()
  emit('play')
}
const planned = computed(() => (props.slide === undefined ? 0 : plannedTime({ ...props.slide, skip: false }, talk.speaker)))
const played = computed(() => Math.max(0, Math.min(1, (props.at - props.visit.start) / props.visit.length)))
</script>

<template>
  <article class="visit" :class="{ current }">
    <button class="picture" :aria-label="`Play from ${number}: ${slide?.title ?? ''}`" @click="playByHand">
      <SlidePicture v-if="picture && slide" :talk-id="talkId" :picture="picture" :drawn="{ slide }" alt="" />
      <b class="clock">{{ number }}</b><span class="clock start">{{ duration(visit.start) }}</span>
    </button>
    <div class="sound">
      <div class="head">
        <input
          type="checkbox"
          class="pick"
          :checked="picked"
          :aria-label="`Pick visit ${number}`"
          title="Pick, to change several together"
          @click="programmeEdits.pick(visit.id, $event.shiftKey)"
        />
        <h3 :title="slide?.title">{{ slide?.title || `Slide ${number}` }}</h3>
        <InsetMap
          v-if="slide && talk.talk"
          :slide="slide"
          :shape="talk.talk.shape"
          :own="talk.programme.framings[visit.id]"
          :ink="ink.map((one) => one.stroke)"
        /><VisitMenu :visit="visit" :title="slide?.title || `Slide ${number}`" />
      </div>
      <label v-if="held !== null" class="held"
        >Held without a voice for
        <SecondsField
          :model-value="held"
          :least="HOLD_RANGE.least"
          :most="HOLD_RANGE.most"
          :step="0.5"
          :disabled="programmeEdits.busy"
          aria-label="Seconds that it is held"
          @update:model-value="hold"
        />
        s</label
      >
      <RangeWave
        v-else
        :parts="parts"
        :played="played"
        :length="visit.length"
        :range="range"
        :seams="seams"
        :pauses="silent"
        :marks="marks"
        @range="choose"
        @go="$emit('go', $event)"
        @reopen="programmeEdits.edit({ kind: 'reopen', seam: $event })"
      />
      <p v-if="changed" class="changed">
        <span>Slide changed since</span>
        <button class="press quiet small" @click="programmeEdits.edit({ kind: 'looked', visits: [visit.id] })">It still fits</button>
      </p>
      <p v-if="stumbles.length + questions.length > 0" class="stumbles">
        <button
          v-for="question in questions"
          :key="question.id"
          class="press quiet small"
          :title="question.words"
          @click="$emit('go', Math.max(0, question.at - visit.start - 3000))"
        >
          <ChatLineSquare />asked at <span class="clock">{{ preciseDuration(question.at) }}</span>
        </button>
        <button
          v-for="place in stumbles"
          :key="place"
          class="press quiet small"
          title="Play from three seconds before"
          @click="$emit('go', Math.max(0, place - 3000))"
        >
          <Flag />stumble at <span class="clock">{{ preciseDuration(visit.start + place) }}</span>
        </button>
      </p>
      <!-- One takes the place of the other, so that the rows below stay where they are. -->
      <RangeBar
        v-if="range && programmeEdits.range"
        :range="programmeEdits.range"
        :visit="visit"
        @play="playChosen"
        class="below"
        @loop="$emit('loop')"
      />
      <p v-else class="marks below soft">
        <NuxtLink class="retake" :to="retakePath(talkId, visit.id)">Retake</NuxtLink>
        <span class="clock" :class="{ long: visit.length > planned * 1.25 }">{{ preciseDuration(visit.length) }}</span> of
        {{ duration(planned) }} planned<template v-if="strokes > 0">, {{ strokes }} {{ strokes === 1 ? 'stroke' : 'strokes' }}</template
        ><template v-if="pauses > 0">, {{ pauses }} {{ pauses === 1 ? 'pause' : 'pauses' }}</template>
      </p>
    </div>
    <SaidWords
      v-if="said.length > 0"
      class="text"
      :words="said"
      :saying="saying"
      @go="$emit('go', $event - visit.start)"
      @range="chooseSaid"
      @loop="$emit('loop')"
    />
    <p v-else class="text soft">{{ slide?.notes || 'Nothing was written for this slide.' }}</p>
  </article>
</template>

<style scoped>
.visit {
  display: grid;
  grid-template-columns: 112px minmax(0, 1.1fr) minmax(0, 1fr);
  gap: 14px;
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid transparent;
  background: var(--card);
}
.changed {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-left: 8px;
  border-left: 3px dotted var(--brand);
  font-size: 14px;
}
.visit.current {
  border-left-color: var(--accent);
  background: color-mix(in srgb, var(--accent-wash) 40%, var(--card));
}
.picture {
  position: relative;
  padding: 0;
  border: 1px solid var(--line);
  background: none;
  cursor: pointer;
  align-self: start;
}
.picture .start {
  position: absolute;
  right: 3px;
  bottom: 3px;
  padding: 0 4px;
  border-radius: 3px;
  background: var(--card);
  font-size: 12.5px;
  color: var(--soft);
}
.picture b {
  position: absolute;
  left: 3px;
  bottom: 3px;
  padding: 0 5px;
  border-radius: 3px;
  background: var(--card);
  font-size: 13px;
}
.sound {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 3px;
  align-content: start;
  min-width: 0;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
.head h3 {
  flex: 1;
  min-width: 0;
}
.head .map {
  height: 20px;
  flex: none;
}
h3 {
  font: 600 15px var(--read);
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.pick {
  width: 16px;
  height: 16px;
  margin: 0;
  accent-color: var(--brand);
}
.held {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 48px;
  font-size: 14px;
}
.held .el-input-number {
  width: 108px;
}
.below {
  min-height: 30px;
}
.marks {
  font-size: 13.5px;
}
.retake {
  float: right;
  color: var(--brand);
  font-weight: 600;
}
.stumbles {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.stumbles .press {
  color: var(--accent-text);
}
.marks .long {
  color: var(--accent-text);
  font-weight: 700;
}
.text {
  font-size: 14px;
  max-height: 84px;
  overflow-y: auto;
  white-space: pre-line;
}
</style>
