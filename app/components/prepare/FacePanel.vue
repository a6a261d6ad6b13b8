<script setup lang="ts">
import { LEAST_SIZE, MOST_COVERED, MOST_SIZE, framingOf, sizeOfInset } from '@core/layout'
import { BORDERS, MOST_ZOOM, OUTLINES, PLACINGS } from '@core/model'
import type { Border, Outline, Placing, Slide } from '@core/model'
import { useFramingChange } from '~/composables/useFramingChange'
import { useSheet } from '~/stores/sheet'
import { BORDER_WORDS, OUTLINE_WORDS, PLACING_WORDS } from '~/words'

/** Where the face sits on the slides that are concerned, and how it looks. */
const props = defineProps<{ slide: Slide; covered: number }>()
const sheet = useSheet()
const framings = useFramingChange()
const said = ref<string | null>(null)
watch(
  () => props.slide.id,
  () => {
    said.value = null
  },
)

const framing = computed(() => framingOf(props.slide, sheet.shape))
const placing = computed<Placing | 'off'>(() => (framing.value.off ? 'off' : framing.value.placing))
const placings = ([...PLACINGS, 'off'] as const).map((value) => ({ value, label: PLACING_WORDS[value] }))
const outlines = OUTLINES.map((value) => ({ value, label: OUTLINE_WORDS[value] }))
const borders = BORDERS.map((value) => ({ value, label: BORDER_WORDS[value] }))
const size = computed(() => Math.round(sizeOfInset(framing.value, sheet.shape) * 100))
const pan = (axis: 'x' | 'y', value: number): void => {
  framings.change({ centre: { ...framing.value.centre, [axis]: value / 100 } })
}
function setPlacing(value: Placing | 'off'): void {
  if (value === 'off') framings.change({ off: true })
  else framings.change({ off: false, placing: value })
}
</script>

<template>
  <p class="say" :class="{ bad: covered > MOST_COVERED }" role="status">
    <template v-if="placing === 'off'">No face on this slide.</template>
    <template v-else-if="covered > MOST_COVERED"
      >The face covers <b>{{ Math.round(covered * 100) }}%</b> of what is on this slide.</template
    >
    <template v-else-if="slide.framing === null">{{
      slide.proposedInset ? 'Proposed: where it hides nothing, and stays on the slides around.' : 'Proposed: where this slide is emptiest.'
    }}</template>
    <template v-else>It covers {{ covered < 0.005 ? 'nothing' : `${Math.round(covered * 100)}%` }} of what is on this slide.</template>
  </p>
  <div class="rows">
    <el-segmented
      class="wide"
      :model-value="placing"
      :options="placings"
      size="small"
      aria-label="Where the face is"
      @update:model-value="setPlacing($event as Placing | 'off')"
    />
    <template v-if="placing === 'over'">
      <el-segmented
        class="wide"
        :model-value="framing.outline"
        :options="outlines"
        size="small"
        aria-label="Outline"
        @update:model-value="framings.setOutline($event as Outline)"
      />
    </template>
    <template v-if="placing !== 'off'">
      <div class="sliders">
        <label v-if="placing === 'over'" class="row"
          >Size
          <NumberSlider
            :model-value="size"
            :min="LEAST_SIZE * 100"
            :max="MOST_SIZE * 100"
            :format-tooltip="(value: number) => `${value}%`"
            aria-label="Size"
            @change="framings.setSize($event / 100)"
        /></label>
        <label class="row"
          >Closer
          <NumberSlider
            :model-value="framing.zoom"
            :min="1"
            :max="MOST_ZOOM"
            :step="0.05"
            aria-label="How close"
            @change="framings.change({ zoom: $event })"
        /></label>
        <label class="row"
          >Left, right
          <NumberSlider
            :model-value="framing.centre.x * 100"
            aria-label="Middle of the camera picture, left to right"
            @change="pan('x', $event)"
        /></label>
        <label class="row"
          >Up, down
          <NumberSlider
            :model-value="framing.centre.y * 100"
            aria-label="Middle of the camera picture, up and down"
            @change="pan('y', $event)"
        /></label>
      </div>
      <div class="pair">
        <label v-if="placing !== 'full'" class="row border"
          >Border
          <el-segmented
            :model-value="framing.border"
            :options="borders"
            size="small"
            aria-label="Border"
            @update:model-value="framings.change({ border: $event as Border })"
        /></label>
        <el-checkbox :model-value="framing.mirrored" size="small" @update:model-value="framings.change({ mirrored: $event === true })"
          >Mirrored</el-checkbox
        >
      </div>
    </template>
  </div>
  <div class="acts">
    <button
      class="press small"
      :disabled="slide.framing === null && sheet.concerned.length < 2"
      @click="framings.propose()"
      title="Where it hides as little as can be"
    >
      Proposed place
    </button>
    <button class="press small" @click="framings.everywhere(framing)" title="This framing on every slide">On all slides</button>
    <button class="press small" @click="said = framings.clearAll()" title="Moves the face off what it covers, on every slide">
      Clear everywhere
    </button>
  </div>
  <p v-if="said" class="notice" role="status">{{ said }}</p>
</template>

<style scoped>
.say {
  font-size: 14.5px;
}
.say.bad {
  color: var(--alarm);
}
.rows {
  display: grid;
  gap: 8px;
}
.wide {
  width: 100%;
}
.row {
  display: grid;
  grid-template-columns: 66px 1fr;
  gap: 14px;
  align-items: center;
  font-size: 14px;
  color: var(--soft);
  padding-right: 10px;
}
.sliders {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 16px;
}
.row :deep(.el-slider) {
  height: 24px;
}
.pair {
  display: flex;
  gap: 18px;
  align-items: center;
}
.row.border {
  grid-template-columns: 66px auto;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
