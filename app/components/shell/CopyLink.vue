<script setup lang="ts">
import { useClipboard } from '@vueuse/core'

/** A link that is given to others, or kept. */
defineProps<{ address: string; label: string }>()
const { copy, copied } = useClipboard({ legacy: true })
</script>

<template>
  <span class="link">
    <input :value="address" readonly :aria-label="label" @focus="($event.target as HTMLInputElement).select()" />
    <button type="button" class="press small" @click="copy(address)">{{ copied ? 'Copied' : 'Copy' }}</button>
  </span>
</template>

<style scoped>
.link {
  display: flex;
  gap: 8px;
  align-items: center;
  width: 100%;
}
input {
  flex: 1;
  min-width: 0;
  min-height: 34px;
  padding: 4px 10px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--ground);
  font: 14px var(--clock);
  text-overflow: ellipsis;
}
</style>
