<script setup lang="ts">
import { asksOf } from '@core/rules'
import type { Rules } from '@core/rules'
import { RULE_NAMES } from '~/hand-in'

/** What rules ask for, as a list to be read. */
const props = defineProps<{ rules: Rules }>()
// The last moment of a call is its own.
const lines = computed(() => asksOf(props.rules).filter(({ kind }) => kind !== 'until'))
</script>

<template>
  <dl class="asked-list" aria-label="Rules">
    <div v-for="{ kind, asks } in lines" :key="kind">
      <dt>{{ RULE_NAMES[kind] }}</dt>
      <dd>{{ asks }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.asked-list {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0 22px;
  margin: 0;
}
.asked-list div {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
