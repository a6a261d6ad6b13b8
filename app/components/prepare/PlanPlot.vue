<script setup lang="ts">
import { max, scaleBand, scaleLinear } from 'd3'
import { useElementSize } from '@vueuse/core'
import { leastTime, plannedTime } from '@core/pace'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** Planned and recorded time of each slide, one column a slide. */
const talk = useTalk()
const plot = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(plot)
const HEIGHT = 250
const LEFT = 44
const BOTTOM = 24

const columns = computed(() =>
  talk.slides.map((slide, n) => ({
    slide,
    number: n + 1,
    planned: plannedTime(slide, talk.speaker),
    least: leastTime(slide),
    recorded: talk.recorded.get(slide.id) ?? 0,
    rehearsed: talk.rehearsed.get(slide.id)?.last ?? 0,
  })),
)
const x = computed(() =>
  scaleBand(
    columns.value.map((one) => one.slide.id),
    [LEFT, Math.max(LEFT + 10, width.value - 4)],
  )
    .paddingInner(0.25)
    .paddingOuter(0.1),
)
const y = computed(() =>
  scaleLinear(
    [0, Math.max(10_000, max(columns.value, (one) => Math.max(one.planned, one.recorded, one.rehearsed)) ?? 0) * 1.08],
    [HEIGHT - BOTTOM, 6],
  ),
)
/** Steps of the time axis that people count in. */
const STEPS = [5, 10, 15, 30, 60, 120, 300, 600].map((seconds) => seconds * 1000)
const ticks = computed(() => {
  const top = y.value.domain()[1] ?? 0
  const step = STEPS.find((one) => top / one <= 6) ?? 900_000
  return Array.from({ length: Math.floor(top / step) + 1 }, (_, n) => n * step)
})
/** Every so many slides are numbered, so that numbers never touch. */
const every = computed(() => [1, 2, 5, 10, 20, 50, 100].find((step) => x.value.step() * step >= 22) ?? 200)
const anyRecorded = computed(() => columns.value.some((one) => one.recorded > 0))
const anyRehearsed = computed(() => columns.value.some((one) => one.rehearsed > 0))
const say = (one: (typeof columns.value)[number]): string =>
  `Slide ${String(one.number)}, ${one.slide.title || 'untitled'}: ` +
  `${one.slide.skip ? 'skipped' : `${duration(one.planned)} planned`}` +
  `${one.rehearsed > 0 ? `, ${duration(one.rehearsed)} rehearsed` : ''}${one.recorded > 0 ? `, ${duration(one.recorded)} recorded` : ''}`
</script>

<template>
  <figure>
    <svg ref="plot" class="plot" :height="HEIGHT" role="group" aria-label="Time of each slide">
      <g v-for="at in ticks" :key="at" class="tick">
        <line :x1="LEFT" :x2="width" :y1="y(at)" :y2="y(at)" />
        <text :x="LEFT - 6" :y="y(at) + 4" text-anchor="end">{{ duration(at) }}</text>
      </g>
      <g
        v-for="one in columns"
        :key="one.slide.id"
        class="column"
        :class="{ current: one.slide.id === talk.slide?.id }"
        tabindex="0"
        role="button"
        :aria-label="say(one)"
        @click="talk.select(one.slide.id)"
        @keydown.enter="talk.select(one.slide.id)"
      >
        <title>{{ say(one) }}</title>
        <rect class="hit" :x="x(one.slide.id)" y="0" :width="x.bandwidth()" :height="HEIGHT" />
        <rect
          v-if="one.planned > 0"
          class="planned"
          :x="x(one.slide.id)"
          :y="y(one.planned)"
          :width="x.bandwidth()"
          :height="Math.max(0, y(0) - y(one.planned))"
          rx="1"
        />
        <rect
          v-if="one.recorded > 0"
          class="recorded"
          :x="(x(one.slide.id) ?? 0) + x.bandwidth() * 0.22"
          :y="y(one.recorded)"
          :width="x.bandwidth() * 0.56"
          :height="Math.max(0, y(0) - y(one.recorded))"
        />
        <line
          v-if="one.rehearsed > 0"
          class="rehearsed"
          :x1="x(one.slide.id)"
          :x2="(x(one.slide.id) ?? 0) + x.bandwidth()"
          :y1="y(one.rehearsed)"
          :y2="y(one.rehearsed)"
        />
        <template v-if="one.planned > 0">
          <line
            v-for="layer in ['least under', 'least']"
            :key="layer"
            :class="layer"
            :x1="(x(one.slide.id) ?? 0) - 2"
            :x2="(x(one.slide.id) ?? 0) + x.bandwidth() + 2"
            :y1="y(one.least)"
            :y2="y(one.least)"
          />
        </template>
        <text
          v-if="one.number % every === 0 || (every > 1 && one.number === 1)"
          :x="(x(one.slide.id) ?? 0) + x.bandwidth() / 2"
          :y="HEIGHT - 7"
          text-anchor="middle"
        >
          {{ one.number }}
        </text>
      </g>
      <line class="floor" :x1="LEFT" :x2="width" :y1="y(0)" :y2="y(0)" />
    </svg>
    <figcaption class="soft">
      <span><i class="key" />planned</span><span v-if="anyRehearsed"><i class="key rehearsed" />rehearsed last</span
      ><span v-if="anyRecorded"><i class="key recorded" />recorded</span><span><i class="key least" />least, to read it</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.plot {
  width: 100%;
  overflow: visible;
}
.tick line {
  stroke: var(--line);
}
.tick text,
.column text {
  font: 11.5px var(--clock);
  fill: var(--soft);
}
.column {
  cursor: pointer;
}
.hit {
  fill: transparent;
}
.planned {
  fill: var(--card);
  stroke: var(--brand);
  stroke-width: 1.5;
}
.recorded {
  fill: var(--brand);
}
.rehearsed {
  stroke: var(--accent);
  stroke-width: 3;
}
/* On a ground of its own, so that it is seen on every bar. */
.least {
  stroke: var(--text);
  stroke-width: 2;
  stroke-dasharray: 4 2;
}
.least.under {
  stroke: var(--card);
  stroke-width: 5;
  stroke-dasharray: none;
}
.current .planned {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.current text {
  fill: var(--text);
  font-weight: 700;
}
.column:focus-visible {
  outline: 2px solid var(--focus);
}
.floor {
  stroke: var(--text);
}
figcaption {
  display: flex;
  gap: 16px;
  padding: 4px 0 0 44px;
  font-size: 13px;
}
figcaption span {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.key {
  width: 12px;
  height: 10px;
  border: 1.5px solid var(--brand);
  border-radius: 2px;
  background: var(--card);
}
.key.recorded {
  background: var(--brand);
}
.key.rehearsed {
  height: 0;
  border: 0;
  border-top: 3px solid var(--accent);
  border-radius: 0;
}
.key.least {
  height: 0;
  border: 0;
  border-top: 2px dashed var(--text);
  border-radius: 0;
}
</style>
