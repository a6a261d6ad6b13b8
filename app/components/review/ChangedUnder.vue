<script setup lang="ts">
import { retakePath } from '~/composables/useRetakeWish'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'

/** What was recorded on slides that look otherwise by now, and how that is mended: said again one after the other, or left as it is. */
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const words = computed(() =>
  talk.changedVisits.length === 1
    ? 'One slide was changed since it was recorded.'
    : `${String(talk.changedVisits.length)} slides were changed since they were recorded.`,
)
</script>

<template>
  <p v-if="talk.talk && talk.changedVisits[0]" class="changed" role="status">
    <span>{{ words }}</span>
    <NuxtLink class="press small" :to="retakePath(talk.talk.id, talk.changedVisits[0])">Retake what changed</NuxtLink>
    <button class="press quiet small" @click="programmeEdits.edit({ kind: 'looked', visits: talk.changedVisits })">
      All of it still fits
    </button>
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
