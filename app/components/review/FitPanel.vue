<script setup lang="ts">
import { fitTo, leastTime, wholeFit } from '@core/pace'
import type { FitStep } from '@core/pace'
import { useMending } from '~/stores/mending'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** How the talk is brought to its limit, from the gentlest way on, with what each wins. */
const talk = useTalk()
const mending = useMending()
const limit = computed(() => talk.talk?.limit ?? null)
const skipped = computed(() => new Set(talk.slides.filter((slide) => slide.skip).map((slide) => slide.id)))
const plan = computed(() => (talk.index === null || limit.value === null ? null
  : fitTo(talk.index.film, talk.film?.peaks ?? {}, limit.value, (slide) => leastTime(slide, talk.speaker), skipped.value)))
const length = computed(() => talk.index?.length ?? 0)
const over = computed(() => (limit.value === null ? 0 : length.value - limit.value))

function saying(step: FitStep): string {
  const places = step.places === 1 ? 'one place' : `${String(step.places)} places`
  switch (step.kind) {
    case 'pauses': return `Pauses down to ${(step.to / 1000).toFixed(1)} s, in ${places}`
    case 'ends': return `Slack where slides come and go down to ${(step.to / 1000).toFixed(1)} s, in ${places}`
    case 'tempo': return `Everything ${((step.to - 1) * 100).toFixed(1)}% faster, at the same pitch`
    case 'skipped': return `Without the slides that the run sheet skips, ${places}`
  }
}
/** Where the talk lands after each step, all before it included. */
const landings = computed(() => {
  let left = length.value
  return (plan.value?.steps ?? []).map((step) => (left -= step.won))
})
</script>

<template>
  <section class="panel" aria-label="Fit to the limit">
    <p v-if="limit === null">This talk has no limit. <NuxtLink :to="`/talks/${talk.talk?.id}/prepare`">Set one in Prepare</NuxtLink>, and this shows how to keep it.</p>
    <p v-else-if="over <= 0">The talk is <b class="clock">{{ duration(length) }}</b> long, <b class="clock">{{ duration(-over) }}</b> under its limit of {{ duration(limit) }}. Nothing needs to go.</p>
    <template v-else-if="plan">
      <p><b class="clock over">{{ duration(over) }}</b> over the limit of {{ duration(limit) }}. From the gentlest way on:</p>
      <ol>
        <li v-for="(step, n) in plan.steps" :key="step.kind">
          <span>{{ saying(step) }}</span>
          <span class="clock won">−{{ (step.won / 1000).toFixed(1) }} s</span>
          <span class="clock soft" :title="`Landing after this and all above`">{{ duration(landings[n] ?? 0) }}</span>
          <button class="press small" :disabled="mending.busy" @click="mending.edit(step.edit)">Only this</button>
        </li>
      </ol>
      <p v-if="plan.steps.length === 0">There is no pause to shorten, and every slide is up only as long as it needs. Cut a part by its waveform, or retake a slide more briefly.</p>
      <p v-else-if="!plan.fits" class="over">Even all of this leaves {{ duration(plan.length - limit) }} too much. Cut a part by its waveform, or retake a slide more briefly.</p>
      <button v-if="plan.steps.length > 0" class="press main" :disabled="mending.busy" @click="mending.edit(wholeFit(plan.steps))">{{ plan.steps.length === 1 ? 'Do this' : 'Do all of this' }}: {{ duration(plan.length) }} long</button>
    </template>
  </section>
</template>

<style scoped>
.panel { display: grid; gap: 10px; justify-items: start; }
ol { display: grid; gap: 6px; width: 100%; margin: 0; padding: 0; list-style: none; }
li { display: grid; grid-template-columns: minmax(0, 1fr) max-content max-content max-content; gap: 12px; align-items: center; padding: 4px 0; border-bottom: 1px solid var(--line); }
.won { font-weight: 700; }
.over { color: var(--alarm); }
</style>
