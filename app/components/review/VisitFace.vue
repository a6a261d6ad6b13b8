<script setup lang="ts">
import { LEAST_SIZE, MOST_COVERED, MOST_SIZE, coveredShare, framingInVisit, resized, sizeOfInset } from '@core/layout'
import { inkOfVisit } from '@core/scene'
import { OUTLINES, PLACINGS } from '@core/model'
import type { Framing, Light, Outline, Placing, Size } from '@core/model'
import type { Visit } from '@core/programme'
import type { CameraPlace } from '~/composables/useTriedBackdrop'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { OUTLINE_WORDS, PLACING_WORDS } from '~/words'

/** Where the face is in the visit that is on, or in those that are picked. */
const props = defineProps<{ visit: Visit | null; shape: Size; measure: () => Light | null; seen: () => CameraPlace | null }>()
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const concerned = computed<readonly Visit[]>(() => {
  if (programmeEdits.chosen.length > 0) return programmeEdits.chosen
  return props.visit === null ? [] : [props.visit]
})
const slideOf = (visit: Visit) => talk.index?.film.slides.get(visit.slide)
const framingIn = (visit: Visit): Framing | null => {
  const slide = slideOf(visit)
  return slide === undefined ? null : framingInVisit(talk.programme, visit.id, slide, props.shape)
}
const first = computed(() => concerned.value[0] ?? null)
const framing = computed(() => (first.value === null ? null : framingIn(first.value)))
const own = computed(() => concerned.value.some((visit) => talk.programme.framings[visit.id] !== undefined))
const choice = computed<Placing | 'off' | 'slide'>(() => {
  if (first.value === null || talk.programme.framings[first.value.id] === undefined) return 'slide'
  return framing.value?.off === true ? 'off' : (framing.value?.placing ?? 'over')
})
const choices = [
  { value: 'slide', label: 'As on the slide' },
  ...([...PLACINGS, 'off'] as const).map((value) => ({ value, label: PLACING_WORDS[value] })),
]
const outlines = OUTLINES.map((value) => ({ value, label: OUTLINE_WORDS[value] }))
const size = computed(() => (framing.value === null ? 0 : Math.round(sizeOfInset(framing.value, props.shape) * 100)))
const placeOf = computed(() => new Map(talk.visits.map((visit, n) => [visit.id, n + 1])))

/** What the face covers of slide and ink in each, the worst first. */
const covers = computed(() =>
  concerned.value
    .flatMap((visit) => {
      const [slide, now] = [slideOf(visit), framingIn(visit)]
      if (slide === undefined || now === null || talk.index === null) return []
      return [
        {
          visit,
          share: coveredShare(
            slide,
            now,
            props.shape,
            inkOfVisit(talk.index, visit).map(({ stroke }) => stroke),
          ),
        },
      ]
    })
    .sort((a, b) => b.share - a.share),
)
const worst = computed(() => covers.value[0] ?? null)

/** Changes the framing of each, as one edit. */
function change(make: (framing: Framing) => Framing | null): void {
  const edits = concerned.value.flatMap((visit) => {
    const now = framingIn(visit)
    return now === null ? [] : [{ kind: 'framing' as const, visits: [visit.id], framing: make(now) }]
  })
  const [only] = edits
  if (edits.length === 1 && only !== undefined) void programmeEdits.edit(only)
  else if (edits.length > 0) void programmeEdits.edit({ kind: 'all', edits })
}
function place(value: Placing | 'off' | 'slide'): void {
  change((now) => {
    if (value === 'slide') return null
    return value === 'off' ? { ...now, off: true } : { ...now, off: false, placing: value }
  })
}
defineExpose({
  move: (rect: Framing['rect']) => {
    change((now) => ({ ...now, off: false, placing: 'over', rect }))
  },
})
</script>

<template>
  <section class="panel" aria-label="Face">
    <p v-if="programmeEdits.chosen.length > 0">
      For the <b>{{ concerned.length }}</b> {{ concerned.length === 1 ? 'visit that is' : 'visits that are' }} picked.
      <button class="press quiet small" @click="programmeEdits.pickNone()">Pick none</button>
    </p>
    <p v-else-if="first">
      For visit <b>{{ placeOf.get(first.id) }}</b>, the one that is on.
      <button class="press quiet small" @click="programmeEdits.pickAll()">Pick all {{ talk.visits.length }}</button>
    </p>
    <el-segmented
      class="wide"
      :model-value="choice"
      :options="choices"
      size="small"
      :disabled="programmeEdits.busy"
      aria-label="Where the face is"
      @update:model-value="place($event as Placing | 'off' | 'slide')"
    />
    <template v-if="framing && !framing.off && framing.placing === 'over'">
      <el-segmented
        class="wide"
        :model-value="framing.outline"
        :options="outlines"
        size="small"
        :disabled="programmeEdits.busy"
        aria-label="Outline"
        @update:model-value="change((now) => resized(now, $event as Outline, sizeOfInset(now, shape), shape))"
      />
      <label class="row"
        >Size
        <NumberSlider
          :model-value="size"
          :min="LEAST_SIZE * 100"
          :max="MOST_SIZE * 100"
          :format-tooltip="(value: number) => `${value}%`"
          aria-label="Size"
          @change="change((now) => resized(now, now.outline, $event / 100, shape))"
      /></label>
      <p class="soft">Drag the dashed box on the picture to move it.</p>
    </template>
    <p v-if="worst && worst.share > MOST_COVERED" class="bad" role="status">
      In visit {{ placeOf.get(worst.visit.id) }} it covers <b>{{ Math.round(worst.share * 100) }}%</b> of what is on the slide and drawn on
      it.
    </p>
    <p v-else-if="worst && framing && !framing.off" class="soft" role="status">
      It covers {{ worst.share < 0.005 ? 'nothing' : `${Math.round(worst.share * 100)}%` }} of what is on the slide and drawn on it.
    </p>
    <FaceLight :visit="visit" :measure="measure" />
    <FaceBackdrop :visit="visit" :place="seen" />
    <p v-if="own" class="soft">Said here, for the talk as recorded; the slide itself keeps its own in Prepare.</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
}
.wide {
  width: 100%;
}
.row {
  display: grid;
  grid-template-columns: 40px 1fr;
  gap: 14px;
  align-items: center;
  padding-right: 12px;
  color: var(--soft);
}
.bad {
  color: var(--alarm);
}
</style>
