<script setup lang="ts">
import type { Ms } from '@core/model'
import type { ScreenedSaying } from '@contracts'
import { duration } from '~/words'

/** What is said, going along with the film; a click goes to where it is said. */
const props = defineProps<{ said: readonly ScreenedSaying[]; at: Ms }>()
const emit = defineEmits<{ seek: [at: Ms] }>()
const current = computed(() => props.said.findLastIndex(({ from }) => from <= props.at))
</script>

<template>
  <section v-if="said.length > 0" class="saying" aria-labelledby="said-title">
    <h2 id="said-title">What is said</h2>
    <ol>
      <li v-for="({ from, words }, n) in said" :key="from" :class="{ current: n === current }">
        <a :href="`#at-${from}`" @click.prevent="emit('seek', from)"
          ><span class="clock">{{ duration(from) }}</span> {{ words }}</a
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
h2 {
  font-size: 20px;
}
ol {
  max-height: 40vh;
  margin: 8px 0 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
a {
  display: block;
  padding: 4px 8px;
  color: inherit;
  text-decoration: none;
}
.current a {
  border-left: 4px solid var(--accent);
  background: var(--card);
}
</style>
