<script setup lang="ts">
import { broughtClips } from '@core/model'
import type { Clip, ClipId, Slide } from '@core/model'
import { useClips } from '~/composables/useClips'

/** The clips of a slide, each to be changed or taken off. */
const props = defineProps<{
  slide: Slide
  talkId: string
  /** Whether it can be said which step brings one. */
  stepped?: boolean
}>()
const emit = defineEmits<{ changed: [] }>()
const edits = useClips(() => props.slide)
function change(id: ClipId, fields: Partial<Clip>): void {
  edits.change(id, fields)
  emit('changed')
}
function takeOff(id: ClipId): void {
  edits.takeOff(id)
  emit('changed')
}
</script>

<template>
  <ul class="clips" aria-label="Clips on this slide">
    <ClipRow
      v-for="clip in broughtClips(slide)"
      :key="clip.id"
      :clip="clip"
      :talk-id="talkId"
      :steps="stepped ? slide.steps.length : 1"
      @change="change(clip.id, $event)"
      @off="takeOff(clip.id)"
    />
  </ul>
</template>

<style scoped>
.clips {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
