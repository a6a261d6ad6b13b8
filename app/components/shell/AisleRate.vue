<script setup lang="ts">
import { curveMonotoneX, line, scaleLinear } from 'd3'
import type { ScaleLinear } from 'd3'
import type { RatePoint } from '@core/words'

/** How fast is spoken over the talk, as a line over its slabs. */
const props = defineProps<{ rates: readonly RatePoint[]; scale: ScaleLinear<number, number>; top: number; height: number }>()
/** As fast as the lane is high, in words a minute: the usual pace runs above the numbers of slabs. */
const FASTEST = 190
const path = computed(() => {
  const speed = scaleLinear([0, FASTEST], [props.top + props.height - 2, props.top + 2]).clamp(true)
  const rateLine = line<RatePoint>(
    ({ at }) => props.scale(at),
    ({ wordsPerMinute }) => speed(wordsPerMinute),
  ).curve(curveMonotoneX)
  return rateLine(props.rates) ?? ''
})
</script>

<template>
  <g aria-hidden="true">
    <path class="edge" :d="path" />
    <path class="rate" :d="path" />
  </g>
</template>

<style scoped>
/* Seen on slabs and beside them; clicks go through it to the slabs below. */
path {
  fill: none;
  pointer-events: none;
}
.edge {
  stroke: var(--card);
  stroke-width: 3.5;
  opacity: 0.55;
}
.rate {
  stroke: var(--accent);
  stroke-width: 1.75;
}
</style>
