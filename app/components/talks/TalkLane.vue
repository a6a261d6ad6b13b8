<script setup lang="ts">
import { scaleLinear } from 'd3'
import type { TalkCard } from '@contracts'
import { lengthOf, lengthOfSlab } from './next-step'

/** A talk's aisle in miniature. */
const props = defineProps<{ talk: TalkCard }>()
const lane = computed(() => {
  const { talk } = props
  const scale = scaleLinear([0, Math.max(lengthOf(talk), talk.limit ?? 0, 1)], [0, 100])
  let at = 0
  return {
    post: talk.limit === null ? null : scale(talk.limit),
    timelineBlocks: talk.timelineBlocks.map((slab) => {
      const from = at
      at += lengthOfSlab(slab)
      return {
        x: scale(from),
        width: Math.max(0.4, scale(at) - scale(from) - 0.4),
        recorded: slab.recorded > 0,
        over: talk.limit !== null && at > talk.limit,
      }
    }),
  }
})
</script>

<template>
  <svg class="lane" viewBox="0 0 100 8" preserveAspectRatio="none" aria-hidden="true">
    <rect
      v-for="(slab, n) in lane.timelineBlocks"
      :key="n"
      :x="slab.x"
      y="1"
      height="6"
      :width="slab.width"
      :class="{ recorded: slab.recorded, over: slab.over }"
    />
    <line v-if="lane.post !== null" :x1="lane.post" :x2="lane.post" y1="0" y2="8" />
  </svg>
</template>

<style scoped>
.lane {
  width: 100%;
  height: 14px;
  overflow: visible;
}
.lane rect {
  fill: var(--card);
  stroke: var(--brand);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.lane rect.recorded {
  fill: var(--brand);
}
.lane rect.over {
  fill: var(--alarm);
  stroke: var(--alarm);
}
.lane line {
  stroke: var(--text);
  stroke-width: 3;
  vector-effect: non-scaling-stroke;
}
</style>
