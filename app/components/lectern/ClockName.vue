<script setup lang="ts">
import type { ClockName } from '~/stores/habits'
import { useHabits } from '~/stores/habits'

/** A clock's name: a click makes the clock large, or small again. */
const props = defineProps<{ clock: ClockName }>()
const habits = useHabits()
const large = computed(() => habits.now.large.includes(props.clock))
function turn(): void {
  habits.set({ large: large.value ? habits.now.large.filter((one) => one !== props.clock) : [...habits.now.large, props.clock] })
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
