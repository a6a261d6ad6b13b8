<script setup lang="ts">
import type { Ms } from '@core/model'
import type { SharedLink } from '@contracts'
import { duration } from '~/words'

/** Links that go with the talk, those with a time beside it. */
defineProps<{ links: readonly SharedLink[] }>()
const emit = defineEmits<{ seek: [at: Ms] }>()
</script>

<template>
  <section v-if="links.length > 0" class="links" aria-labelledby="links-title">
    <h2 id="links-title">Links</h2>
    <ul class="listed">
      <li v-for="(link, n) in links" :key="n">
        <a :href="link.address" target="_blank" rel="noopener noreferrer">{{ link.title || link.address }}</a>
        <button
          v-if="link.during"
          class="press quiet small clock"
          :aria-label="`Go to ${duration(link.during.from)}, where it is spoken of`"
          @click="emit('seek', link.during.from)"
        >
          {{ duration(link.during.from) }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.links {
  display: grid;
  gap: 8px;
}
h2 {
  font-size: 20px;
}
li {
  display: flex;
  gap: 12px;
  align-items: baseline;
  justify-content: space-between;
}
a {
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
