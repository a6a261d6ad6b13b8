<script setup lang="ts">
import type { SpokenLine } from '@core/markup'

/** A line of notes as it is read from: what is bold stands out, a pause says how long it is. */
defineProps<{ line: SpokenLine }>()
</script>

<template>
  <span v-if="line.kind === 'pause'" class="pause">pause {{ line.length / 1000 }} s</span>
  <template v-else
    ><component :is="run.bold ? 'b' : run.italic ? 'i' : 'span'" v-for="(run, n) in line.runs" :key="n">{{ run.text }}</component></template
  >
</template>

<style scoped>
.pause {
  padding: 0 0.6em;
  border: 1px solid currentcolor;
  border-radius: 1em;
  font-size: 0.7em;
}
b {
  color: var(--accent);
  font-weight: 600;
}
</style>
