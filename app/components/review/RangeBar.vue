<script setup lang="ts">
import type { Ms } from '@core/model'
import { useMending } from '~/stores/mending'
import { preciseDuration } from '~/words'

/** What can be done with a chosen part. */
const props = defineProps<{ range: { readonly from: Ms, readonly to: Ms } }>()
defineEmits<{ play: [], loop: [] }>()
const mending = useMending()
const cut = (): void => { void mending.edit({ kind: 'cut', parts: [props.range] }) }
</script>

<template>
  <p class="bar" role="group" aria-label="The chosen part">
    <span class="clock">{{ preciseDuration(range.to - range.from) }}</span>
    <button class="press small" @click="$emit('play')">Play</button>
    <button class="press small" @click="$emit('loop')" title="Play it over and over">Loop</button>
    <button class="press small" :disabled="mending.busy" @click="cut">Cut</button>
    <button class="press quiet small" @click="mending.range = null">Let go</button>
  </p>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.bar .clock { padding-right: 4px; font-size: 14px; }
</style>
