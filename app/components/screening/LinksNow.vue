<script setup lang="ts">
import type { Ms } from '@core/model'
import type { SharedLink } from '@contracts'

/** Links that are spoken of at this moment. The room for them is always kept, so that nothing moves when one comes. */
const props = defineProps<{ links: readonly SharedLink[]; at: Ms }>()
const timed = computed(() => props.links.some(({ during }) => during !== null))
const now = computed(() => props.links.filter(({ during }) => during !== null && during.from <= props.at && props.at < during.to))
</script>

<template>
  <p v-if="timed" class="now" aria-live="polite">
    <template v-if="now.length > 0">
      <span class="soft">Spoken of now:</span>
      <a v-for="(link, n) in now" :key="n" :href="link.address" target="_blank" rel="noopener noreferrer">{{
        link.title || link.address
      }}</a>
    </template>
  </p>
</template>

<style scoped>
.now {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  min-height: 30px;
  margin-top: 8px;
}
a {
  overflow-wrap: anywhere;
}
@media print {
  .now {
    display: none;
  }
}
</style>
