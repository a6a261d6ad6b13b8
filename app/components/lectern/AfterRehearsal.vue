<script setup lang="ts">
import type { DeckEdit } from '@core/deck'
import { plannedTime, runLength, timesOfRun } from '@core/pace'
import type { Ms, SlideId } from '@core/model'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration, moment } from '~/words'

/** What a run-through says: how long it took, which slides ran long, and the plan that could follow from it. */
const lectern = useLectern()
const talk = useTalk()
const said = ref<string | null>(null)

const runs = computed(() => talk.talk?.rehearsals ?? [])
const run = computed(() => lectern.lastRun)
const length = computed(() => (run.value === null ? 0 : runLength(run.value)))
const limit = computed(() => talk.talk?.limit ?? null)
const longest = computed(() => {
  if (run.value === null) return []
  const times = timesOfRun(run.value)
  return talk.slides
    .flatMap((slide, n) => {
      const took = times.get(slide.id)
      const planned = plannedTime(slide, talk.speaker)
      return took === undefined || took - planned < 3000 ? [] : [{ number: n + 1, title: slide.title, took, over: took - planned }]
    })
    .sort((a, b) => b.over - a.over)
    .slice(0, 4)
})

function use(name: string, timeOf: (slide: SlideId) => Ms | undefined): void {
  const edits = talk.slides.flatMap((slide): DeckEdit[] => {
    const time = timeOf(slide.id)
    return time === undefined || time < 1000
      ? []
      : [{ kind: 'set', slides: [slide.id], fields: { planned: Math.round(time / 1000) * 1000 } }]
  })
  if (edits.length === 0) return
  talk.edit({ kind: 'all', edits })
  said.value = `${name} the plan of ${String(edits.length)} slides now. Undo in Prepare takes it back.`
}
</script>

<template>
  <section v-if="run" class="after" aria-label="After the run-through">
    <h2>
      <span class="clock">{{ duration(length) }}</span> rehearsed
    </h2>
    <p v-if="limit !== null" :class="{ bad: length > limit }">
      {{
        length > limit
          ? `${duration(length - limit)} over the limit of ${duration(limit)}.`
          : `${duration(limit - length)} in hand of ${duration(limit)}.`
      }}
      Nothing was recorded.
    </p>
    <p v-else>Nothing was recorded; the timings are kept.</p>
    <div v-if="longest.length > 0">
      <p class="soft">Longer than planned:</p>
      <ul>
        <li v-for="one in longest" :key="one.number">
          <b>{{ one.number }}</b> {{ one.title }} <span class="clock">{{ duration(one.took) }}</span>,
          <span class="clock over">+{{ duration(one.over) }}</span>
        </li>
      </ul>
    </div>
    <p v-if="runs.length > 1" class="soft">
      Run-throughs:
      <template v-for="(one, n) in runs.slice(0, 5)" :key="one.id"
        ><template v-if="n > 0">; </template>{{ moment(one.started) }} <span class="clock">{{ duration(runLength(one)) }}</span></template
      >
    </p>
    <p v-if="said" class="notice" role="status">{{ said }}</p>
    <div class="row">
      <button class="press main" @click="use('These times are', (slide) => talk.rehearsed.get(slide)?.last)">Use these as the plan</button>
      <button v-if="runs.length > 1" class="press" @click="use('The medians are', (slide) => talk.rehearsed.get(slide)?.median)">
        Use the medians
      </button>
      <button class="press" @click="lectern.rest()">Back to the Lectern</button>
    </div>
  </section>
</template>

<style scoped>
.after {
  display: grid;
  gap: 12px;
  width: min(560px, 100%);
  max-height: 100%;
  overflow-y: auto;
  padding: 22px 26px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
h2 {
  font-size: 28px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 2px;
}
.over,
.bad {
  color: var(--alarm);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
