<script setup lang="ts">
import { changedVisitsOf } from '@core/programme'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'

/** What was recorded on slides that look otherwise by now, and how that is mended: said again one after the other, or left as it is. */
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const changed = computed(() => changedVisitsOf(talk.programme))
const words = computed(() =>
  changed.value.length === 1
    ? 'One slide was changed since it was recorded.'
    : `${String(changed.value.length)} slides were changed since they were recorded.`,
)
</script>

<template>
  <p v-if="talk.talk && changed[0]" class="changed" role="status">
    <span>{{ words }}</span>
    <NuxtLink class="press small" :to="`/talks/${talk.talk.id}/lectern?retake=${encodeURIComponent(changed[0])}`"
      >Retake what changed</NuxtLink
    >
    <button class="press quiet small" @click="programmeEdits.edit({ kind: 'looked', visits: changed })">All of it still fits</button>
  </p>
</template>

<style scoped>
.changed {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin: 0;
  padding: 6px 12px;
  border: 1px solid var(--line);
  border-left: 3px dotted var(--brand);
  border-radius: 6px;
  background: var(--card);
}
</style>
