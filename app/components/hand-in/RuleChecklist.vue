<script setup lang="ts">
import { CircleCheck, CircleClose, More } from '@element-plus/icons-vue'
import type { Remedy } from '@core/rules'
import type { HeldRule } from '~/composables/useHandIn'
import { RULE_NAMES, remedyWords } from '~/hand-in'

/** Rules as a list: kept, open, or not kept with what to do about it. */
defineProps<{ rules: readonly HeldRule[]; made: boolean; busy: boolean }>()
defineEmits<{ put: [remedy: Remedy] }>()
const STATES = {
  met: { icon: CircleCheck, say: 'kept' },
  open: { icon: More, say: 'open' },
  wrong: { icon: CircleClose, say: 'not kept' },
} as const
</script>

<template>
  <ul class="rules" aria-label="Rules">
    <li v-for="rule in rules" :key="rule.kind" :class="rule.state">
      <component :is="STATES[rule.state].icon" :aria-label="STATES[rule.state].say" />
      <b>{{ RULE_NAMES[rule.kind] }}</b>
      <span class="asks">{{ rule.asks }}</span>
      <span class="found">{{ rule.found }}</span>
      <button
        v-if="rule.state !== 'met' && remedyWords(rule.remedy, made) !== null"
        class="press small"
        :disabled="busy"
        @click="$emit('put', rule.remedy)"
      >
        {{ remedyWords(rule.remedy, made) }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
.rules {
  display: grid;
  grid-template-columns: 20px 100px minmax(0, 1.1fr) minmax(0, 1fr) auto;
  column-gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  align-items: center;
  min-height: 36px;
  padding: 2px 0;
  border-top: 1px solid var(--line);
}
svg {
  width: 19px;
  height: 19px;
}
.met svg {
  color: var(--brand);
}
.open svg {
  color: var(--accent-text);
}
.wrong svg,
.wrong .found {
  color: var(--alarm);
}
.wrong .found,
.open .found {
  font-weight: 600;
}
.asks,
.met .found {
  color: var(--soft);
}
span {
  overflow-wrap: anywhere;
}
</style>
