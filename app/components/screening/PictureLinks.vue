<script setup lang="ts">
import type { PageLink } from '@core/model'

/** Links of the slide on screen, over the picture where they stand on it. */
defineProps<{ links: readonly PageLink[] }>()
const percent = (share: number): string => `${(share * 100).toFixed(3)}%`
</script>

<template>
  <a
    v-for="({ address, box }, n) in links"
    :key="n"
    class="link"
    :href="address"
    :title="address"
    :aria-label="address"
    target="_blank"
    rel="noopener noreferrer"
    :style="{ left: percent(box.x), top: percent(box.y), width: percent(box.w), height: percent(box.h) }"
  />
</template>

<style scoped>
.link {
  position: absolute;
  border-radius: 2px;
}
.link:hover {
  outline: 2px solid var(--focus);
}
@media print {
  .link {
    display: none;
  }
}
</style>
