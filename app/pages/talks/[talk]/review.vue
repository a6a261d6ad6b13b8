<script setup lang="ts">
import { ArrowDown, ArrowUp, FullScreen, QuestionFilled, RefreshLeft, RefreshRight, VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { COMES, inkTurns } from '@core/scene'
import FilmStage from '~/components/review/FilmStage.vue'
import VisitFace from '~/components/review/VisitFace.vue'
import { usePlayWithout } from '~/composables/usePlayWithout'
import { REVIEW_KEY_WORDS, useReviewKeys } from '~/composables/useReviewKeys'
import { useDressing } from '~/stores/dressing'
import { useInkAfterwards } from '~/stores/ink-afterwards'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'
import { changeReason, preciseDuration } from '~/words'

const talk = useTalk()
const said = useSaid()
const programmeEdits = useProgrammeEdits()
const ink = useInkAfterwards()
const dressing = useDressing()
const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2]
const PANELS = [
  { key: 'fit', name: 'Fit' },
  { key: 'pauses', name: 'Pauses' },
  { key: 'slips', name: 'Slips' },
  { key: 'words', name: 'Words' },
  { key: 'face', name: 'Face' },
  { key: 'dressing', name: 'Dressing' },
  { key: 'clips', name: 'Clips' },
  { key: 'history', name: 'History' },
  { key: 'takes', name: 'Takes' },
  { key: 'questions', name: 'Questions' },
] as const
const panel = ref<(typeof PANELS)[number]['key']>('fit')
/** Clips only where the talk has any, questions only where it can be shown to others. */
const panels = computed(() => {
  const hasClips = talk.slides.some(({ clips = [] }) => clips.length > 0)
  return PANELS.filter(({ key }) => (key !== 'clips' || hasClips) && (key !== 'questions' || !talk.isGuests))
})
const stage = ref<InstanceType<typeof FilmStage> | null>(null)
const face = ref<InstanceType<typeof VisitFace> | null>(null)

useHead({ title: () => `Review · ${talk.talk?.name ?? 'Aisle Talk'}` })

const shape = computed(() => talk.talk?.shape ?? { width: 16, height: 9 })
/** What the film is doing; nothing while there is none. */
const at = computed(() => stage.value?.player.at ?? 0)
const playing = computed(() => stage.value?.player.playing ?? false)
const visit = computed(() => talk.visits.findLast((one) => one.start <= at.value) ?? null)
const closing = computed(() => (talk.talk?.takes ?? []).some((take) => take.state === 'closing'))

const LEAPS = [
  { value: 'visit', label: 'visit' },
  { value: 'step', label: 'step' },
  { value: 'stroke', label: 'stroke' },
  { value: 'pause', label: 'pause' },
] as const
/** What the up and down keys go by. */
const leap = ref<(typeof LEAPS)[number]['value']>('visit')
const places = computed<readonly number[]>(() => {
  if (talk.index === null) return []
  switch (leap.value) {
    case 'visit':
      return talk.visits.map(({ start }) => start)
    case 'step':
      return programmeEdits.steps
    case 'stroke':
      return inkTurns(talk.index)
    case 'pause':
      return programmeEdits.pauses.map(({ from }) => from)
  }
})
/** Back goes to where this began, and only just after that to the one before it. */
const LATE = 1500
function jump(by: -1 | 1): void {
  const target =
    by === 1
      ? places.value.find((place) => place > at.value + 1)
      : (places.value.findLast((place) => place < at.value - (playing.value || leap.value === 'visit' ? LATE : 1)) ?? places.value[0])
  if (target !== undefined) stage.value?.player.seek(target)
}

function playFrom(time: number): void {
  const player = stage.value?.player
  player?.pause()
  player?.seek(time)
  player?.play()
}
const { playWith, playWithout } = usePlayWithout(at, playFrom)
/** Plays the chosen part over and over, until it is let go. */
function loopRange(): void {
  if (stage.value === null || programmeEdits.range === null) return
  stage.value.player.loop = programmeEdits.range
  playFrom(programmeEdits.range.from)
}
watch(
  () => programmeEdits.range,
  (range) => {
    if (range === null && stage.value !== null) stage.value.player.loop = null
  },
)

/** Sets a peg where the film stands. */
function peg(which: 'from' | 'to'): void {
  const here = Math.round(at.value)
  const { from, to } = programmeEdits.range ?? (which === 'from' ? { from: here, to: talk.index?.length ?? here } : { from: 0, to: here })
  const next = which === 'from' ? { from: here, to: Math.max(to, here + 10) } : { from: Math.min(from, here - 10), to: here }
  if (next.from >= 0) programmeEdits.range = next
}

/** What is chosen on the lane, or was set just now, is changed under Dressing, and seen where it is. */
function showDressed(): void {
  const { chosen } = dressing
  if (chosen === null) return
  panel.value = 'dressing'
  // A little later than it begins, when it has come.
  const come = Math.min(chosen.from + COMES + 1, (chosen.from + chosen.to) / 2)
  if (!playing.value && (at.value < come || at.value >= chosen.to)) stage.value?.player.seek(Math.max(0, come))
}
watch(() => dressing.chosen?.id, showDressed)
onBeforeUnmount(() => {
  dressing.chosenId = null
})

/** Another station may lead to a place and to what is done there. */
const route = useRoute()
const named = PANELS.find(({ key }) => key === route.query['panel'])
if (named !== undefined) panel.value = named.key
watch([stage, () => route.query['at']], ([there, place]) => {
  const wanted = Number(place)
  if (there !== null && Number.isFinite(wanted) && wanted > 0) there.player.seek(wanted)
})

useReviewKeys({
  toggle: () => {
    stage.value?.toggle()
  },
  move: (by) => {
    stage.value?.player.seek(at.value + by)
  },
  start: () => {
    stage.value?.player.seek(0)
  },
  jump,
  peg,
})
</script>

<template>
  <StationFrame
    by-visit
    :playhead="talk.index ? at : null"
    :landing="talk.index?.length ?? 0"
    :rates="said.rates"
    @seek="stage?.player.seek($event)"
  >
    <template v-if="talk.index !== null" #under="{ scale }"><DressingLane :scale="scale" @choose="showDressed" /></template>
    <div v-if="talk.index === null" class="empty">
      <h1>{{ closing ? 'The take is being made ready' : 'Nothing recorded yet' }}</h1>
      <p class="soft">
        {{ closing ? 'It appears here by itself in a moment.' : 'What you record at the Lectern is played and mended here.' }}
      </p>
      <NuxtLink v-if="!closing && talk.talk" class="press main" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
      <TakesPanel v-if="!closing" />
    </div>
    <div v-else class="review">
      <section class="film" aria-label="Film">
        <FilmStage
          ref="stage"
          :class="{ stays: panel === 'face' || panel === 'dressing' }"
          :shape="shape"
          :visit="visit"
          :placing="panel === 'face'"
          :dressing="panel === 'dressing'"
          @place="face?.move($event.rect)"
        />
        <div class="transport">
          <button class="press main" :aria-label="playing ? 'Pause' : 'Play'" @click="stage?.toggle()">
            <VideoPause v-if="playing" /><VideoPlay v-else />{{ playing ? 'Pause' : 'Play' }}
          </button>
          <button class="press" @click="stage?.player.seek(0)">From the start</button>
          <el-select v-if="stage" v-model="stage.player.speed" size="small" class="speed" aria-label="How fast it is played"
            ><el-option v-for="one in SPEEDS" :key="one" :value="one" :label="`× ${one}`"
          /></el-select>
          <button class="press quiet small" aria-label="Fill the screen" title="Fill the screen" @click="stage?.wide()">
            <FullScreen />
          </button>
          <span class="clock time"
            >{{ preciseDuration(at) }} <span class="soft">/ {{ preciseDuration(talk.index.length) }}</span></span
          >
        </div>
        <div class="row">
          <InkBar :visit="visit" class="grows" @go="stage?.player.seek($event)" />
          <span v-show="ink.chosen === null" class="soft by" role="group" aria-label="Jumping"
            >Jump to
            <el-select v-model="leap" size="small" class="leap" aria-label="What is jumped to"
              ><el-option v-for="one in LEAPS" :key="one.value" :value="one.value" :label="one.label"
            /></el-select>
            <button class="press quiet small" :aria-label="`To the ${leap} before`" title="The one before (arrow up)" @click="jump(-1)">
              <ArrowUp />
            </button>
            <button class="press quiet small" :aria-label="`To the next ${leap}`" title="The next one (arrow down)" @click="jump(1)">
              <ArrowDown />
            </button>
          </span>
        </div>
        <p v-if="stage?.player.trouble" class="notice bad" role="alert">{{ stage.player.trouble }}</p>
        <p v-if="closing" class="notice" role="status">A recording is being made ready. It appears here by itself.</p>
        <div class="row">
          <button
            class="press small"
            :disabled="programmeEdits.busy || !programmeEdits.history?.undo"
            :title="programmeEdits.history?.undo ? `Take back: ${changeReason(programmeEdits.history.undo)}` : 'Nothing to take back'"
            @click="programmeEdits.back('undo')"
          >
            <RefreshLeft />Undo
          </button>
          <button
            class="press small"
            :disabled="programmeEdits.busy || !programmeEdits.history?.redo"
            :title="programmeEdits.history?.redo ? `Do again: ${changeReason(programmeEdits.history.redo)}` : 'Nothing to do again'"
            @click="programmeEdits.back('redo')"
          >
            <RefreshRight />Redo
          </button>
          <el-popover placement="top" trigger="click" :width="330">
            <template #reference
              ><button class="press quiet small" aria-label="Keys" title="Keys"><QuestionFilled /></button
            ></template>
            <dl class="keys">
              <template v-for="[key, say] in REVIEW_KEY_WORDS" :key="key"
                ><dt class="clock">{{ key }}</dt>
                <dd>{{ say }}</dd></template
              >
            </dl>
          </el-popover>
          <span class="gap" />
          <NuxtLink v-if="talk.talk" class="press small" :to="`/talks/${talk.talk.id}/lectern`">Retake all</NuxtLink>
          <NuxtLink v-if="talk.talk" class="press small main" :to="`/talks/${talk.talk.id}/hand-over`">Make the file</NuxtLink>
        </div>
        <p v-if="programmeEdits.trouble" class="notice bad" role="alert">
          <span>{{ programmeEdits.trouble }}</span><button class="press quiet small" @click="programmeEdits.trouble = null">Close</button>
        </p>
        <ChangedUnder />
        <div class="panels">
          <div class="tabs" role="tablist" aria-label="Mending">
            <button v-for="{ key, name } in panels" :key="key" role="tab" :aria-selected="panel === key" @click="panel = key">
              {{ name }}
            </button>
          </div>
          <FitPanel v-if="panel === 'fit'" />
          <PausePanel v-else-if="panel === 'pauses'" @go="playFrom" />
          <SlipsPanel v-else-if="panel === 'slips'" @with="playWith" @without="playWithout" />
          <WordsPanel v-else-if="panel === 'words'" :at="at" @go="stage?.player.seek($event)" />
          <VisitFace
            v-else-if="panel === 'face'"
            ref="face"
            :visit="visit"
            :shape="shape"
            :measure="() => stage?.player.measuredLight() ?? null"
            :seen="() => stage?.player.cameraPlace() ?? null"
          />
          <ClipsPanel v-else-if="panel === 'clips'" :visit="visit" />
          <DressingPanel v-else-if="panel === 'dressing'" :visit="visit" :at="at" @go="playFrom" />
          <HistoryPanel v-else-if="panel === 'history'" />
          <QuestionsPanel v-else-if="panel === 'questions'" />
          <TakesPanel v-else />
        </div>
      </section>
      <VisitSheet :at="at" :current="visit?.id ?? null" :playing="playing" @play="playFrom" @loop="loopRange" />
    </div>
  </StationFrame>
</template>

<style scoped>
.review {
  display: grid;
  grid-template-columns: 46% minmax(0, 1fr);
  height: 100%;
}
.film {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 14px 16px;
  border-right: 1px solid var(--line);
  overflow-y: auto;
}
/* What is changed there is watched while it is. */
.stays {
  position: sticky;
  z-index: 2;
  top: 0;
}
.transport {
  display: flex;
  align-items: center;
  gap: 10px;
}
.time {
  margin-left: auto;
  font-size: 19px;
}
.by {
  display: flex;
  gap: 4px;
  align-items: center;
  font-size: 13.5px;
  white-space: nowrap;
}
.keys {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 14px;
  margin: 0;
}
.keys dd {
  margin: 0;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.gap,
.grows {
  flex: 1;
}
.speed {
  width: 84px;
}
.leap {
  width: 84px;
}
.by .press {
  padding: 0 4px;
}
.film > * {
  flex: none;
}
.panels {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  padding-top: 4px;
  border-top: 1px solid var(--line);
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0 2px;
}
.tabs button {
  padding: 6px 7px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: var(--soft);
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--text);
  border-bottom-color: var(--accent);
}
.empty {
  display: grid;
  gap: 14px;
  justify-items: center;
  align-content: center;
  height: 100%;
}
@media (max-width: 900px) {
  .review {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
  .film {
    border-right: 0;
    overflow: visible;
  }
  .transport,
  .row {
    flex-wrap: wrap;
  }
}
</style>
