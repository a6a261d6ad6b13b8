<script setup lang="ts">
import { range, scaleLinear } from 'd3'
import { useElementSize } from '@vueuse/core'
import type { Ms } from '@core/model'
import { rateAt } from '@core/words'
import type { RatePoint } from '@core/words'
import { duration } from '~/words'
import { layBlocks } from './timeline-blocks'
import type { Coming, Drawn, TimelineBlock } from './timeline-blocks'

/** The talk laid out along its limit: a slab for each slide or visit, an end post, the landing. */
const props = defineProps<{
  timelineBlocks: readonly TimelineBlock[]
  limit: Ms | null
  /** Where the talk ends, or will end. */
  landing: Ms
  current?: string | null
  /** A mark that moves: where the film is, or the talk under way. */
  playhead?: Ms | null
  seekable?: boolean
  /** What comes next, seen enlarged over its slab. */
  coming?: Coming | null
  /** Words a minute over the talk, as a line over its slabs. */
  rates?: readonly RatePoint[]
}>()
const emit = defineEmits<{ go: [id: string, stamp: number]; seek: [at: Ms] }>()

const TOP = 10
const HEIGHT = 30
const lane = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(lane)
const span = computed(() => Math.max(props.limit ?? 0, props.landing, 10_000) * 1.03)
const scale = computed(() => scaleLinear([0, span.value], [0, Math.max(1, width.value)]))
/** How fast is spoken at the playhead. */
const rateNow = computed(() => (props.playhead == null ? null : rateAt(props.rates ?? [], props.playhead)))
const drawn = computed(() => layBlocks(props.timelineBlocks, scale.value))
/** Distances between ticks that people count in, in ms. */
const STEPS = [5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600].map((seconds) => seconds * 1000)
const ticks = computed(() => {
  const step = STEPS.find((one) => scale.value(one) - scale.value(0) >= 76) ?? 7_200_000
  return range(0, span.value, step)
})
const over = computed(() => (props.limit === null ? 0 : Math.max(0, props.landing - props.limit)))
const inHand = computed(() => (props.limit === null ? 0 : Math.max(0, props.limit - props.landing)))
const kinds = computed(() => new Set(props.timelineBlocks.map((slab) => slab.state)))

/** Width of what comes next, and where it begins on the lane, in pixels: with its slab, so that those before it are seen. */
const WIDE = 108
const comingAt = computed(() => {
  const slab = drawn.value.find((one) => one.timelineBlocks.some(({ id }) => id === props.coming?.slide))
  return slab === undefined ? null : Math.max(0, Math.min(width.value - WIDE, slab.x))
})
const isOver = (slab: Drawn): boolean => props.limit !== null && slab.to > props.limit
const name = (slab: Drawn): string => {
  const [first] = slab.timelineBlocks
  const last = slab.timelineBlocks.at(-1)
  if (first === undefined || last === undefined) return ''
  const text =
    slab.timelineBlocks.length === 1 ? `${String(first.number)} ${first.title}` : `${String(first.number)} to ${String(last.number)}`
  return `${text}, ${duration(slab.to - slab.from)}${isOver(slab) ? ', past the limit' : ''}`
}
/** A post with a notch cut into its top, for slabs past the limit. */
const notched = (slab: Drawn): string => {
  const x = slab.x + 1
  const w = Math.max(1, slab.width - 2)
  const middle = x + w / 2
  const notch = Math.min(5, w / 4)
  return (
    `M${String(x)} ${String(TOP)}H${String(middle - notch)}L${String(middle)} ${String(TOP + 6)}L${String(middle + notch)} ` +
    `${String(TOP)}H${String(x + w)}V${String(TOP + HEIGHT)}H${String(x)}Z`
  )
}

function hit(slab: Drawn, event: MouseEvent): void {
  const box = lane.value?.getBoundingClientRect()
  const at = box === undefined ? slab.from : scale.value.invert(event.clientX - box.left)
  if (props.seekable === true) {
    emit('seek', Math.max(0, Math.round(at)))
    return
  }
  // Where slabs are drawn together, the place of the click tells which is meant.
  let end = slab.from
  const found = slab.timelineBlocks.find((one) => (end += one.length) > at) ?? slab.timelineBlocks[0]
  if (found !== undefined) emit('go', found.id, event.timeStamp)
}
</script>

<template>
  <section class="aisle" aria-label="Aisle">
    <div class="place">
      <svg ref="lane" class="lane" role="group" aria-label="Slides along the limit">
        <defs>
          <pattern id="dotted" width="6" height="6" patternUnits="userSpaceOnUse">
            <rect class="paper" width="6" height="6" />
            <circle class="dot" cx="3" cy="3" r="1.7" />
          </pattern>
          <pattern id="hatched" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect class="paper" width="6" height="6" />
            <line class="hatch" x1="0" y1="0" x2="0" y2="6" />
          </pattern>
        </defs>
        <line class="floor" x1="0" :x2="width" :y1="TOP + HEIGHT + 0.5" :y2="TOP + HEIGHT + 0.5" />
        <g v-for="at in ticks" :key="at" class="tick">
          <line :x1="scale(at)" :x2="scale(at)" :y1="TOP + HEIGHT" :y2="TOP + HEIGHT + 5" />
          <text
            v-if="Math.abs(scale(at) - scale(landing)) > 22"
            :x="scale(at)"
            :y="TOP + HEIGHT + 17"
            :text-anchor="at === 0 ? 'start' : 'middle'"
          >
            {{ duration(at) }}
          </text>
        </g>
        <g
          v-for="slab in drawn"
          :key="slab.timelineBlocks[0]?.id"
          class="slab"
          tabindex="0"
          role="button"
          :aria-label="name(slab)"
          :class="[slab.state, { over: isOver(slab), current: slab.timelineBlocks.some((one) => one.id === current) }]"
          @click="hit(slab, $event)"
          @keydown.enter="slab.timelineBlocks[0] && emit('go', slab.timelineBlocks[0].id, $event.timeStamp)"
        >
          <title>{{ name(slab) }}</title>
          <path v-if="isOver(slab)" :d="notched(slab)" />
          <rect v-else :x="slab.x + 1" :y="TOP" :width="Math.max(1, slab.width - 2)" :height="HEIGHT" rx="2" />
          <text v-if="slab.width > 22" :x="slab.x + slab.width / 2" :y="TOP + HEIGHT / 2 + 5" text-anchor="middle">
            {{
              slab.timelineBlocks.length === 1 || slab.width < 44
                ? slab.timelineBlocks[0]?.number
                : `${slab.timelineBlocks[0]?.number}–${slab.timelineBlocks.at(-1)?.number}`
            }}
          </text>
        </g>
        <AisleRate v-if="rates" :rates="rates" :scale="scale" :top="TOP" :height="HEIGHT" />
        <g v-if="limit !== null" class="post" :transform="`translate(${String(scale(limit))} 0)`">
          <line y1="2" :y2="TOP + HEIGHT + 6" />
          <circle cy="4" r="3.5" />
        </g>
        <path v-if="landing > 0" class="landing" :d="`M${String(scale(landing))} ${String(TOP + HEIGHT + 1)}l-6 10h12z`" />
        <line v-if="playhead != null" class="playhead" :x1="scale(playhead)" :x2="scale(playhead)" y1="2" :y2="TOP + HEIGHT + 4" />
      </svg>
      <figure v-if="coming && comingAt !== null" class="coming" :style="{ left: `${comingAt}px`, width: `${WIDE}px` }">
        <SlidePicture :talk-id="coming.talkId" :picture="coming.picture" :alt="coming.say" />
        <figcaption>{{ coming.say }}</figcaption>
      </figure>
      <slot name="under" :scale="scale" />
    </div>
    <div class="words">
      <p class="sum" :class="{ alarm: over > 0 }">
        <template v-if="limit !== null">
          <b class="clock">{{ duration(landing) }}</b> of <span class="clock">{{ duration(limit) }}</span>,
          <template v-if="over > 0"
            ><b class="clock">{{ duration(over) }}</b> over</template
          >
          <template v-else
            ><span class="clock">{{ duration(inHand) }}</span> in hand</template
          >
        </template>
        <template v-else
          ><b class="clock">{{ duration(landing) }}</b
          >, no limit</template
        >
      </p>
      <p class="legend soft">
        <span v-if="kinds.has('planned')"><i class="key planned" />planned</span>
        <span v-if="kinds.has('rehearsed')"><i class="key rehearsed" />rehearsed</span>
        <span v-if="kinds.has('recorded')"><i class="key recorded" />recorded</span>
        <span v-if="kinds.has('changed')"><i class="key changed" />slide changed since</span>
        <span v-if="over > 0"><i class="key past" />past the limit</span>
        <span v-if="landing > 0"><i class="key land" />landing</span>
        <span v-if="rateNow !== null"
          ><i class="key pace" /><span class="clock">{{ rateNow }}</span> words a minute</span
        >
      </p>
    </div>
  </section>
</template>

<style scoped>
.aisle {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 20px;
  height: var(--lane);
  padding: 4px 16px 0;
  background: var(--ground);
  border-bottom: 1px solid var(--line);
}
.lane {
  display: block;
  width: 100%;
  height: 64px;
  overflow: visible;
}
/* Clicks go through it to the slabs below. */
.place {
  position: relative;
  min-width: 0;
}
.coming {
  position: absolute;
  z-index: 1;
  top: -2px;
  height: 66px;
  margin: 0;
  border: 2px solid var(--accent);
  border-radius: 2px;
  background: var(--card);
  overflow: hidden;
  pointer-events: none;
}
.coming figcaption {
  position: absolute;
  left: 0;
  bottom: 0;
  padding: 0 5px;
  background: var(--accent);
  color: var(--ground);
  font-size: 11.5px;
  font-weight: 700;
}
.floor {
  stroke: var(--line);
}
.tick line {
  stroke: var(--line);
}
.tick text {
  font: 11.5px var(--clock);
  fill: var(--soft);
}
.slab {
  cursor: pointer;
}
.slab rect,
.slab path {
  fill: var(--card);
  stroke: var(--brand);
  stroke-width: 1.5;
}
.slab text {
  font: 600 13px var(--read);
  fill: var(--text);
  pointer-events: none;
}
.slab.recorded rect {
  fill: var(--brand);
}
.slab.rehearsed rect {
  fill: url('#hatched');
}
.slab.changed rect {
  fill: url('#dotted');
}
.dot {
  fill: var(--brand);
}
.paper {
  fill: var(--card);
}
.hatch {
  stroke: var(--brand);
  stroke-width: 2.5;
  opacity: 0.55;
}
.slab.changed text,
.slab.rehearsed text {
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 4px;
}
.slab.recorded text {
  fill: var(--brand-ink);
}
.slab.mixed rect {
  fill: color-mix(in srgb, var(--brand) 35%, var(--card));
}
.slab.over path {
  fill: var(--alarm);
  stroke: var(--alarm);
}
.slab.over text {
  fill: var(--card);
}
.slab.current rect,
.slab.current path {
  stroke: var(--accent);
  stroke-width: 3;
}
.slab:hover rect {
  filter: brightness(0.96);
}
.slab:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: 1px;
}
.post line {
  stroke: var(--text);
  stroke-width: 3;
}
.post circle {
  fill: var(--text);
}
.landing {
  fill: var(--accent);
}
.playhead {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.words {
  display: grid;
  align-content: center;
  justify-items: end;
  gap: 2px;
  min-width: 200px;
}
.sum {
  font-size: 16px;
}
.sum.alarm {
  color: var(--alarm);
}
.legend {
  display: flex;
  gap: 12px;
  font-size: 12.5px;
}
.legend span {
  display: inline-flex;
  align-items: center;
  gap: 5px;
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
  background: repeating-linear-gradient(45deg, var(--brand) 0 1.5px, var(--card) 1.5px 4px);
}
.key.changed {
  border: 1.5px solid var(--brand);
  background: radial-gradient(var(--brand) 34%, var(--card) 38%) 0 0 / 5px 5px;
}
.key.pace {
  height: 0;
  border: 0;
  border-top: 2px solid var(--accent);
  border-radius: 0;
}
.key.past {
  background: var(--alarm);
  border-color: var(--alarm);
  clip-path: polygon(0 0, 30% 0, 50% 40%, 70% 0, 100% 0, 100% 100%, 0 100%);
}
.key.land {
  width: 0;
  height: 0;
  border: 5px solid transparent;
  border-bottom: 8px solid var(--accent);
  border-top: 0;
  background: none;
  border-radius: 0;
}
@media (max-width: 900px) {
  .aisle {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
    height: auto;
    padding-bottom: 6px;
  }
}
</style>
