<script setup lang="ts">
import { max, scaleBand, scaleLinear, sum } from 'd3'
import { useElementSize } from '@vueuse/core'
import type { FilmDay } from '@contracts'

/** Files made on each of the last days. */
const props = defineProps<{ days: readonly FilmDay[] }>()
const plot = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(plot)
const HEIGHT = 120
const FOOT = 20
const x = computed(() =>
  scaleBand(
    props.days.map(({ day }) => day),
    [0, Math.max(10, width.value)],
  ).paddingInner(0.25),
)
const y = computed(() => scaleLinear([0, Math.max(4, max(props.days, ({ made, failed }) => made + failed) ?? 0)], [0, HEIGHT - FOOT - 4]))
const made = computed(() => sum(props.days, (day) => day.made))
const minutes = computed(() => sum(props.days, (day) => day.minutes))
const failed = computed(() => sum(props.days, (day) => day.failed))
/** Days that are named. */
const named = computed(() => props.days.filter((_, n) => n % 7 === props.days.length % 7))
const dayName = (day: string): string =>
  new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short' }).format(new Date(`${day}T12:00`))
</script>

<template>
  <div class="days">
    <p>
      <b>{{ made }}</b> {{ made === 1 ? 'file' : 'files' }} of {{ minutes }} minutes in {{ days.length }} days<template v-if="failed > 0"
        >, <b class="bad">{{ failed }}</b> could not be made</template
      >.
    </p>
    <svg ref="plot" :height="HEIGHT" role="img" :aria-label="`${made} files made in ${days.length} days`">
      <g v-for="day in days" :key="day.day" :transform="`translate(${x(day.day) ?? 0}, 0)`">
        <title>{{ dayName(day.day) }}: {{ day.made }} made, {{ day.failed }} failed, {{ day.minutes }} minutes</title>
        <rect class="ground" y="0" :width="x.bandwidth()" :height="HEIGHT - FOOT" />
        <rect class="made" :y="HEIGHT - FOOT - y(day.made)" :width="x.bandwidth()" :height="y(day.made)" />
        <rect class="failed" :y="HEIGHT - FOOT - y(day.made + day.failed)" :width="x.bandwidth()" :height="y(day.failed)" />
      </g>
      <line :x1="0" :x2="width" :y1="HEIGHT - FOOT" :y2="HEIGHT - FOOT" />
      <text v-for="day in named" :key="day.day" :x="x(day.day) ?? 0" :y="HEIGHT - 5">{{ dayName(day.day) }}</text>
    </svg>
  </div>
</template>

<style scoped>
.days {
  display: grid;
  gap: 8px;
}
svg {
  width: 100%;
}
.ground {
  fill: transparent;
}
.made {
  fill: var(--brand);
}
.failed {
  fill: var(--alarm);
}
.bad {
  color: var(--alarm);
}
line {
  stroke: var(--line);
}
text {
  fill: var(--soft);
  font-size: 13px;
}
</style>
