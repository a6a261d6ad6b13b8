<script setup lang="ts">
import { MOST_COVERED, coveredShare, faceRect, framingOf } from '@core/layout'
import type { Framing, Size, Slide, Stroke } from '@core/model'

/**
 * Where the camera picture sits on a slide, and how much it covers. `own`: a framing that is not the slide's; `ink`: what was drawn on
 * it.
 */
const props = defineProps<{ slide: Slide; shape: Size; own?: Framing | undefined; ink?: readonly Stroke[] }>()
const framing = computed(() => props.own ?? framingOf(props.slide, props.shape))
const rect = computed(() => faceRect(framing.value))
const covered = computed(() => coveredShare(props.slide, framing.value, props.shape, props.ink))
const units = computed(() => {
  const scale = 48 / Math.max(props.shape.width, props.shape.height)
  return { width: props.shape.width * scale, height: props.shape.height * scale }
})
const say = computed(() => {
  if (framing.value.off) return 'No face on this slide'
  if (framing.value.placing === 'full') return 'The face fills this slide'
  if (framing.value.placing === 'beside') return 'The face is beside this slide'
  return `The face covers ${String(Math.round(covered.value * 100))}% of what is on this slide`
})
</script>

<template>
  <svg class="map" :viewBox="`0 0 ${units.width} ${units.height}`" role="img" :aria-label="say">
    <title>{{ say }}</title>
    <rect class="page" width="100%" height="100%" />
    <path v-if="framing.off" class="none" :d="`M4 4L${units.width - 4} ${units.height - 4}`" />
    <rect
      v-else
      class="face"
      :class="{ warn: covered > MOST_COVERED && framing.placing === 'over' }"
      :rx="framing.outline === 'round' ? 20 : 1.5"
      :x="rect.x * units.width"
      :y="rect.y * units.height"
      :width="rect.w * units.width"
      :height="rect.h * units.height"
    />
  </svg>
</template>

<style scoped>
.map {
  height: 26px;
}
.page {
  fill: var(--ground);
  stroke: var(--line);
  stroke-width: 2;
}
.face {
  fill: var(--brand);
}
.face.warn {
  fill: var(--accent);
  stroke: var(--alarm);
  stroke-width: 2;
}
.none {
  stroke: var(--soft);
  stroke-width: 1.5;
}
</style>
