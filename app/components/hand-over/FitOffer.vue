<script setup lang="ts">
import { wholeFit } from '@core/pace'
import type { Ms } from '@core/model'
import { fitSaying, useFitPlan } from '~/composables/useFitPlan'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** How a talk that is over its limit is brought to it, to be done from here. */
const props = defineProps<{ limit: Ms }>()
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const plan = useFitPlan(() => props.limit)
</script>

<template>
  <div v-if="plan" class="offer">
    <p v-for="step in plan.steps" :key="step.kind" class="soft">
      {{ fitSaying(step) }} <b class="clock">−{{ (step.won / 1000).toFixed(1) }} s</b>
    </p>
    <p class="do">
      <button
        v-if="plan.fits"
        class="press small"
        :disabled="programmeEdits.busy"
        title="It can be taken back in Review"
        @click="programmeEdits.edit(wholeFit(plan.steps))"
      >
        Fit it: {{ duration(plan.length) }} long
      </button>
      <span v-else class="soft">No fit is enough by itself.</span>
      <NuxtLink :to="`/talks/${talk.talk?.id}/review?panel=fit`">{{
        plan.fits ? 'Look at it in Review' : 'Shorten it in Review'
      }}</NuxtLink>
    </p>
    <p v-if="programmeEdits.trouble" class="notice bad" role="alert">{{ programmeEdits.trouble }}</p>
  </div>
</template>

<style scoped>
.offer {
  display: grid;
  gap: 4px;
  padding-top: 4px;
  font-size: 14px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}
</style>
