<script setup lang="ts">
import { CLIP_GAIN } from '@core/model'
import type { Clip } from '@core/model'

/** How loud a clip is against speech. */
const props = defineProps<{ clip: Clip }>()
defineEmits<{ change: [gain: number] }>()
const loudness = computed(() => {
  const { gain } = props.clip
  if (gain === 0) return 'as loud as speech'
  return `${String(Math.abs(gain))} dB ${gain < 0 ? 'softer' : 'louder'} than speech`
})
</script>

<template>
  <label v-if="clip.media.sound" class="loud"
    ><span>{{ loudness }}</span>
    <NumberSlider
      :model-value="clip.gain"
      :min="CLIP_GAIN.least"
      :max="CLIP_GAIN.most"
      :step="1"
      :show-tooltip="false"
      aria-label="How loud it is"
      @change="$emit('change', $event)"
    />
  </label>
  <p v-else class="soft">There is no sound in it.</p>
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
