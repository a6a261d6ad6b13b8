<script setup lang="ts">
/** How loud something is against speech, in dB. */
const props = defineProps<{ gain: number; range: { readonly least: number; readonly most: number }; label: string }>()
defineEmits<{ change: [gain: number] }>()
const loudness = computed(() => {
  const { gain } = props
  if (gain === 0) return 'as loud as speech'
  return `${String(Math.abs(gain))} dB ${gain < 0 ? 'softer' : 'louder'} than speech`
})
</script>

<template>
  <label class="loud"
    ><span>{{ loudness }}</span>
    <NumberSlider
      :model-value="gain"
      :min="range.least"
      :max="range.most"
      :step="1"
      :show-tooltip="false"
      :aria-label="label"
      @change="$emit('change', $event)"
    />
  </label>
</template>

<style scoped>
.loud {
  display: grid;
  grid-template-columns: 190px 1fr;
  gap: 12px;
  align-items: center;
  padding-right: 10px;
  font-size: 14px;
}
</style>
