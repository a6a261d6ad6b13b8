<script setup lang="ts">
import { area, curveStepAfter, max, scaleLinear, scaleSqrt } from 'd3'
import { useElementSize } from '@vueuse/core'
import type { WatchedView } from '@contracts'
import { api } from '~/client'
import { duration } from '~/words'

/** How a talk was watched: how many stayed until when, where they left, where they went back to. Counts alone. */
const props = defineProps<{ talkId: string }>()
const watched = shallowRef<WatchedView | null>(null)
const { trouble, attempt } = useAttempt()
watch(
  () => props.talkId,
  () =>
    attempt(async () => {
      watched.value = await api.get<WatchedView>(`/talks/${props.talkId}/share/watched`)
    }),
  { immediate: true },
)

const plot = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(plot)
const HEIGHT = 132
const [TOP, FOOT] = [14, 34]
/** Days that are named. */
const DAYS = 7
const parts = computed(() => watched.value?.parts ?? [])
const x = computed(() => scaleLinear([0, Math.max(1, watched.value?.length ?? 1)], [0, Math.max(10, width.value)]))
const y = computed(() => scaleLinear([0, Math.max(1, max(parts.value, (part) => part.played) ?? 1)], [HEIGHT - FOOT, TOP]))
const size = computed(() => scaleSqrt([0, Math.max(1, max(parts.value, (part) => Math.max(part.left, part.back)) ?? 1)], [0, 6]))
const curve = computed(() => {
  const last = parts.value.at(-1)
  const ends = last === undefined ? [] : [{ ...last, at: watched.value?.length ?? 0 }]
  return (
    area<(typeof parts.value)[number]>()
      .x((part) => x.value(part.at))
      .y0(HEIGHT - FOOT)
      .y1((part) => y.value(part.played))
      .curve(curveStepAfter)([...parts.value, ...ends]) ?? ''
  )
})
/** Where most did something, the most first. */
function places(of: 'left' | 'back'): string {
  const found = parts.value.filter((part) => part[of] > 0 && (of === 'back' || part !== parts.value.at(-1)))
  return [...found]
    .sort((a, b) => b[of] - a[of])
    .slice(0, 3)
    .map((part) => `${duration(part.at)} (${String(part[of])})`)
    .join(', ')
}
const left = computed(() => places('left'))
const back = computed(() => places('back'))
const share = computed(() =>
  watched.value === null || watched.value.visits === 0 ? 0 : Math.round((watched.value.finished / watched.value.visits) * 100),
)
const dayName = (day: string): string =>
  new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short' }).format(new Date(`${day}T12:00`))
</script>

<template>
  <section v-if="watched" class="watched" aria-labelledby="watched-title">
    <h2 id="watched-title">How it was watched</h2>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="watched.visits === 0" class="soft">Nobody has watched it yet. Counts come here: no names, no addresses.</p>
    <template v-else>
      <p class="numbers">
        <b>{{ watched.visits === 1 ? 'One visit' : `${watched.visits} visits` }}</b><span>{{ share }}% to the end</span>
      </p>
      <svg
        ref="plot"
        :height="HEIGHT"
        role="img"
        :aria-label="`How many watched until when. Left most at: ${left || 'nowhere before the end'}.`"
      >
        <path class="curve" :d="curve" />
        <line :x1="0" :x2="width" :y1="HEIGHT - FOOT" :y2="HEIGHT - FOOT" />
        <template v-for="part in parts" :key="part.at">
          <circle v-if="part.back > 0" class="back" :cx="x(part.at)" :cy="TOP - 6" :r="size(part.back)" />
          <circle v-if="part.left > 0" class="left" :cx="x(part.at)" :cy="HEIGHT - FOOT + 10" :r="size(part.left)" />
        </template>
        <text :x="0" :y="HEIGHT - 2">0:00</text>
        <text :x="width" :y="HEIGHT - 2" text-anchor="end">{{ duration(watched.length) }}</text>
      </svg>
      <dl>
        <div v-if="left">
          <dt><i class="left" />Left at</dt>
          <dd class="clock">{{ left }}</dd>
        </div>
        <div v-if="back">
          <dt><i class="back" />Went back to</dt>
          <dd class="clock">{{ back }}</dd>
        </div>
        <div v-for="day in watched.days.slice(0, DAYS)" :key="day.day">
          <dt>{{ dayName(day.day) }}</dt>
          <dd>{{ day.visits === 1 ? '1 visit' : `${day.visits} visits` }}, {{ day.finished }} to the end</dd>
        </div>
      </dl>
    </template>
    <ul v-if="watched.people && watched.people.length > 0" aria-label="Who has watched to the end">
      <li v-for="person in watched.people" :key="person.address">
        <span>{{ person.name || person.address }}</span><span class="soft">{{
          person.finished === null ? 'not to the end yet' : `to the end, ${dayName(person.finished.slice(0, 10))}`
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.watched {
  display: grid;
  gap: 12px;
  padding: 22px 26px;
  border: 1px solid var(--line);
  background: var(--card);
}
h2 {
  font-size: 19px;
}
.numbers {
  display: flex;
  gap: 18px;
  font-size: 17px;
}
svg {
  width: 100%;
  overflow: visible;
}
.curve {
  fill: var(--brand);
  opacity: 0.85;
}
line {
  stroke: var(--line);
}
text {
  fill: var(--soft);
  font: 13px var(--clock);
}
circle.left,
i.left {
  fill: var(--alarm);
  background: var(--alarm);
}
circle.back,
i.back {
  fill: var(--accent);
  background: var(--accent);
}
i {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 8px;
  border-radius: 50%;
}
dl {
  display: grid;
  gap: 2px;
  margin: 0;
}
dl div,
li {
  display: grid;
  grid-template-columns: 160px 1fr;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
ul {
  display: grid;
  gap: 2px;
  max-height: 300px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
li {
  grid-template-columns: minmax(0, 1fr) auto;
}
</style>
