<script setup lang="ts">
import { coverage, mergeContent } from '@core/layout'
import { framingOf } from '@core/scene'
import type { Size, Slide } from '@core/model'

/** Where the camera picture sits on a slide, and how much it covers. */
const props = defineProps<{ slide: Slide, shape: Size }>()
const framing = computed(() => framingOf(props.slide))
const covered = computed(() => coverage(mergeContent(props.slide.steps.map((step) => step.content)), framing.value.rect))
const say = computed(() => `The face covers ${String(Math.round(covered.value * 100))}% of what is on this slide`)
</script>

<template>
  <svg class="map" :viewBox="`0 0 ${shape.width * 3} ${shape.height * 3}`" role="img" :aria-label="say">
    <title>{{ say }}</title>
    <rect class="page" width="100%" height="100%" />
    <rect
      class="face" :class="{ warn: covered > 0.03 }" rx="1.5" :x="framing.rect.x * shape.width * 3" :y="framing.rect.y * shape.height * 3"
      :width="framing.rect.w * shape.width * 3" :height="framing.rect.h * shape.height * 3"
    />
  </svg>
</template>

<style scoped>
.map { height: 26px; }
.page { fill: var(--ground); stroke: var(--line); stroke-width: 2; }
.face { fill: var(--brand); }
.face.warn { fill: var(--accent); stroke: var(--alarm); stroke-width: 2; }
</style>
