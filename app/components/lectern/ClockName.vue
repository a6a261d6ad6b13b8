<script setup lang="ts">
import type { ClockName } from '~/stores/preferences'
import { usePreferences } from '~/stores/preferences'

/** A clock's name: a click makes the clock large, or small again. */
const props = defineProps<{ clock: ClockName }>()
const preferences = usePreferences()
const large = computed(() => preferences.now.large.includes(props.clock))
function turn(): void {
  preferences.set({
    large: large.value ? preferences.now.large.filter((one) => one !== props.clock) : [...preferences.now.large, props.clock],
  })
}
</script>

<template>
  <button class="name" :aria-pressed="large" :title="large ? 'Make this clock small' : 'Make this clock large'" @click="turn">
    <slot />
  </button>
</template>

<style scoped>
.name {
  justify-self: start;
  padding: 0;
  border: 0;
  background: none;
  color: var(--soft);
  font: 15px var(--read);
  cursor: pointer;
}
.name:hover {
  color: var(--text);
  text-decoration: underline;
}
</style>
