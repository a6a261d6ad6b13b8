<script setup lang="ts">
import { padTo, wholeFit } from '@core/pace'
import type { PadStep } from '@core/pace'
import { fitSaying, useFitPlan } from '~/composables/useFitPlan'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** How the talk is brought to its limit, from the gentlest way on, with what each wins. */
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const limit = computed(() => talk.talk?.limit ?? null)
const plan = useFitPlan(() => limit.value)
const length = computed(() => talk.index?.length ?? 0)
const over = computed(() => (limit.value === null ? 0 : length.value - limit.value))

/** The least that the talk must be, in seconds; null: as short as it likes. */
const least = ref<number | null>(null)
const padding = computed(() =>
  talk.index === null || least.value === null || least.value * 1000 <= length.value ? null : padTo(talk.index.film, least.value * 1000),
)
const padSaying = (step: PadStep): string =>
  step.kind === 'tempo'
    ? `Everything ${((1 - step.to) * 100).toFixed(1)}% slower, at the same pitch`
    : `The last picture stays ${(step.to / 1000).toFixed(1)} s longer`
/** Where the talk lands after each step, all before it included. */
const landings = computed(() => {
  let left = length.value
  return (plan.value?.steps ?? []).map((step) => (left -= step.won))
})
</script>

<template>
  <section class="panel" aria-label="Fit to the limit">
    <p v-if="limit === null">
      This talk has no limit. <NuxtLink :to="`/talks/${talk.talk?.id}/prepare`">Set one in Prepare</NuxtLink>, and this shows how to keep
      it.
    </p>
    <p v-else-if="over <= 0">
      The talk is <b class="clock">{{ duration(length) }}</b> long, <b class="clock">{{ duration(-over) }}</b> under its limit of
      {{ duration(limit) }}. Nothing needs to go.
    </p>
    <template v-else-if="plan">
      <p>
        <b class="clock over">{{ duration(over) }}</b> over the limit of {{ duration(limit) }}. From the gentlest way on:
      </p>
      <ol>
        <li v-for="(step, n) in plan.steps" :key="step.kind">
          <span>{{ fitSaying(step) }}</span>
          <span class="clock won">−{{ (step.won / 1000).toFixed(1) }} s</span>
          <span class="clock soft" :title="`Landing after this and all above`">{{ duration(landings[n] ?? 0) }}</span>
          <button class="press small" :disabled="programmeEdits.busy" @click="programmeEdits.edit(step.edit)">Only this</button>
        </li>
      </ol>
      <p v-if="plan.steps.length === 0">
        There is no pause to shorten, and every slide is up only as long as it needs. Cut a part by its waveform, or retake a slide more
        briefly.
      </p>
      <p v-else-if="!plan.fits" class="over">
        Even all of this leaves {{ duration(plan.length - limit) }} too much. Cut a part by its waveform, or retake a slide more briefly.
      </p>
      <button
        v-if="plan.steps.length > 0"
        class="press main"
        :disabled="programmeEdits.busy"
        @click="programmeEdits.edit(wholeFit(plan.steps))"
      >
        {{ plan.steps.length === 1 ? 'Do this' : 'Do all of this' }}: {{ duration(plan.length) }} long
      </button>
    </template>
    <form class="least" @submit.prevent>
      <label
        >It must be at least
        <el-input-number
          v-model="least"
          :min="1"
          :max="10800"
          :step="10"
          size="small"
          :controls="false"
          aria-label="Seconds that the talk must be at least"
        />
        s long</label
      >
      <template v-if="least !== null && padding === null"
        ><span class="soft">It is: {{ duration(length) }}.</span></template
      >
    </form>
    <template v-if="padding">
      <ol>
        <li v-for="step in padding.steps" :key="step.kind">
          <span>{{ padSaying(step) }}</span><span class="clock won">+{{ (step.added / 1000).toFixed(1) }} s</span>
        </li>
      </ol>
      <button
        class="press"
        :disabled="programmeEdits.busy || !padding.reaches"
        @click="programmeEdits.edit({ kind: 'all', edits: padding.steps.map((step) => step.edit) })"
      >
        Do this: {{ duration(padding.length) }} long
      </button>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  justify-items: start;
}
ol {
  display: grid;
  gap: 6px;
  width: 100%;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) max-content max-content max-content;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.won {
  font-weight: 700;
}
.least {
  padding-top: 8px;
  border-top: 1px solid var(--line);
  width: 100%;
}
.least .el-input-number {
  width: 84px;
}
.over {
  color: var(--alarm);
}
</style>
