<script setup lang="ts">
import { Plus } from '@element-plus/icons-vue'
import { MOST_CLIPS } from '@core/model'
import type { Slide } from '@core/model'
import { ACCEPTED_CLIPS } from '~/client'
import { useClips } from '~/composables/useClips'

/** Films, moving pictures and sounds of a slide. */
const props = defineProps<{ slide: Slide; talkId: string }>()
const { change, takeOff, bring } = useClips(() => props.slide)
const chooser = ref<HTMLInputElement | null>(null)
const clips = computed(() => props.slide.clips ?? [])

function chosen(event: Event): void {
  const field = event.target as HTMLInputElement
  const files = [...(field.files ?? [])]
  field.value = ''
  void bring(files)
}
</script>

<template>
  <p v-if="clips.length === 0" class="soft">
    A film, a moving picture or a sound can play on this slide while you speak: its own picture and sound go into your video. Drop it on the
    slide above, or choose it.
  </p>
  <ul v-else class="clips" aria-label="Clips on this slide">
    <ClipRow
      v-for="clip in clips"
      :key="clip.id"
      :clip="clip"
      :talk-id="talkId"
      :steps="slide.steps.length"
      @change="change(clip.id, $event)"
      @off="takeOff(clip.id)"
    />
  </ul>
  <button v-if="clips.length < MOST_CLIPS" class="press small add" @click="chooser?.click()"><Plus />Add a film or sound …</button>
  <input ref="chooser" type="file" hidden :accept="ACCEPTED_CLIPS" aria-label="A film or sound for this slide" @change="chosen" />
</template>

<style scoped>
.clips {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.add {
  justify-self: start;
  align-self: start;
}
</style>
