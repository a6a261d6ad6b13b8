<script setup lang="ts">
import type { Clip } from '@core/model'
import type { Visit } from '@core/programme'
import { useClips } from '~/composables/useClips'
import { useTalk } from '~/stores/talk'

/** The clips of the slide that is shown: which part of each is played, how loud, and whether it goes round. */
const props = defineProps<{ visit: Visit | null }>()
const talk = useTalk()
const slide = computed(() => talk.slides.find(({ id }) => id === props.visit?.slide) ?? null)
const clips = computed(() => slide.value?.clips ?? [])
/** Changes that were made here and can be taken back here. */
const changes = ref(0)
const edits = useClips(() => {
  if (slide.value === null) throw new Error('no slide is shown')
  return slide.value
})
function change(clip: Clip, fields: Partial<Clip>): void {
  edits.change(clip.id, fields)
  changes.value += 1
}
function takeOff(clip: Clip): void {
  edits.takeOff(clip.id)
  changes.value += 1
}
function takeBack(): void {
  talk.undo()
  changes.value -= 1
}
</script>

<template>
  <template v-if="clips.length > 0 && talk.talk">
    <ul class="clips" aria-label="Clips on this slide">
      <ClipRow
        v-for="clip in clips"
        :key="clip.id"
        :clip="clip"
        :talk-id="talk.talk.id"
        :steps="1"
        @change="change(clip, $event)"
        @off="takeOff(clip)"
      />
    </ul>
    <p class="soft foot">
      <span>It is softer by itself while you speak. A change holds wherever this slide is shown.</span>
      <button v-if="changes > 0" class="press quiet small" @click="takeBack">Take the last change back</button>
    </p>
  </template>
  <p v-else class="soft">There is no clip on this slide. Films and sounds are put on slides in Prepare; go to a slide that has one.</p>
</template>

<style scoped>
.clips {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.foot {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 8px;
  font-size: 14px;
}
</style>
