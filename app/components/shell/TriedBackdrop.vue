<script setup lang="ts">
import type { BackdropStillView } from '@contracts'
import { adviceWords } from '~/words'

/** One picture with a backdrop, and what would help. */
const props = defineProps<{ still: BackdropStillView | null; busy: boolean; trouble: string | null }>()
const help = computed(() => adviceWords(props.still?.advice ?? []))
</script>

<template>
  <div class="tried" aria-live="polite">
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-else-if="busy" class="soft" role="status">The picture is being made …</p>
    <figure v-else-if="still">
      <img :src="`data:image/jpeg;base64,${still.picture}`" alt="The face with this backdrop" />
      <figcaption>{{ help === '' ? 'The outline is clear.' : help }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
figure {
  display: grid;
  grid-template-columns: minmax(0, 220px) minmax(0, 1fr);
  gap: 12px;
  margin: 0;
  align-items: start;
}
img {
  width: 100%;
  border: 1px solid var(--line);
}
</style>
