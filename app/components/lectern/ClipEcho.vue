<script setup lang="ts">
import type { ClipScene } from '@core/scene'
import { useClipEcho } from '~/composables/useClipEcho'

/** Says that the microphone hears the clips of the slide, and has it closed while they play. */
const props = defineProps<{ clips: readonly ClipScene[]; elementOf: (clip: ClipScene) => HTMLMediaElement | undefined }>()
const echo = useClipEcho(
  () => props.clips,
  (clip) => props.elementOf(clip),
)
</script>

<template>
  <p v-if="echo === 'heard'" class="echo" role="alert" @click.stop>
    <span>Your microphone hears the clip, so it would be in your video twice. Use headphones, or</span>
    <button class="press small" @click="echo = 'closing'">close the microphone while clips play</button>
    <button class="press quiet small" @click="echo = 'left'">Leave it</button>
  </p>
</template>

<style scoped>
.echo {
  position: absolute;
  left: 50%;
  top: 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
  width: min(94%, 640px);
  padding: 8px 12px;
  border-radius: 6px;
  background: rgb(16 28 26 / 92%);
  color: #efebdf;
  transform: translateX(-50%);
}
</style>
