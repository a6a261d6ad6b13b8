<script setup lang="ts">
import { CLIP_GAIN } from '@core/model'
import type { Clip } from '@core/model'

/** How loud a clip is against speech. */
defineProps<{ clip: Clip }>()
defineEmits<{ change: [gain: number] }>()
</script>

<template>
  <SpeechLoudness v-if="clip.media.sound" :gain="clip.gain" :range="CLIP_GAIN" label="How loud it is" @change="$emit('change', $event)" />
  <p v-else class="soft">There is no sound in it.</p>
</template>
