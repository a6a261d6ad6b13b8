<script setup lang="ts">
import type { ImportView } from '@contracts'
import { api } from '~/client'
import { retakePath } from '~/composables/useRetakeWish'
import { useTalk } from '~/stores/talk'

/** A deck was replaced: what is left to do, and the way back. */
const props = defineProps<{ imported: ImportView }>()
const emit = defineEmits<{ close: [] }>()
const talk = useTalk()
const { busy, trouble, attempt } = useAttempt()
const changed = computed(() => talk.changedVisits)
const giveBack = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/talks/${talk.talk?.id ?? ''}/imports/${props.imported.id}/give-back`)
    await talk.refresh()
  })
</script>

<template>
  <section class="told" aria-label="The deck was replaced">
    <p>
      <b class="name" :title="imported.name">{{ imported.name }}</b> has taken the place of the deck.
      <template v-if="changed.length > 0">{{
        changed.length === 1 ? 'One slide that you recorded was changed.' : `${changed.length} slides that you recorded were changed.`
      }}</template>
    </p>
    <p class="row">
      <NuxtLink v-if="talk.talk && changed[0]" class="press small main" :to="retakePath(talk.talk.id, changed[0])"
        >Retake what changed</NuxtLink
      >
      <NuxtLink v-if="talk.talk && changed.length > 0" class="press small" :to="`/talks/${talk.talk.id}/review`">Listen first</NuxtLink>
      <button class="press small" :disabled="busy" @click="giveBack">Put the deck before back</button>
      <button class="press quiet small" @click="emit('close')">Close</button>
    </p>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
