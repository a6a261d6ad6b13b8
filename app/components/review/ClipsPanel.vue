<script setup lang="ts">
import { broughtClips } from '@core/model'
import type { Clip, ClipId } from '@core/model'
import type { Visit } from '@core/programme'
import { capturedInVisit } from '@core/scene'
import { useClips } from '~/composables/useClips'
import { useTalk } from '~/stores/talk'

/** Clips of the slide that is shown, and windows that were: which part of each is played, or seen, and how loud. */
const props = defineProps<{ visit: Visit | null }>()
const talk = useTalk()
const slide = computed(() => talk.slides.find(({ id }) => id === props.visit?.slide) ?? null)
const brought = computed(() => (slide.value === null ? [] : broughtClips(slide.value)))
/** As they are in the deck, where they are changed. */
const windows = computed<readonly Clip[]>(() => {
  if (props.visit === null || talk.index === null) return []
  const shown = new Set(capturedInVisit(talk.index.film, props.visit.id).map(({ id }) => id))
  return slide.value?.clips?.filter(({ id }) => shown.has(id)) ?? []
})
const edits = useClips(() => slide.value)
/** Changes that were made here and can be taken back here. */
const changes = ref(0)
function change(id: ClipId, fields: Partial<Clip>): void {
  edits.change(id, fields)
  changes.value += 1
}
function takeBack(): void {
  talk.undo()
  changes.value -= 1
}
</script>

<template>
  <template v-if="slide && talk.talk && brought.length + windows.length > 0">
    <ul v-if="windows.length > 0" class="windows" aria-label="Windows in this visit">
      <WindowRow v-for="clip in windows" :key="clip.id" :clip="clip" :talk-id="talk.talk.id" @change="change(clip.id, $event)" />
    </ul>
    <ClipList v-if="brought.length > 0" :slide="slide" :talk-id="talk.talk.id" @changed="changes += 1" />
    <p class="soft foot">
      <span>{{
        brought.length > 0
          ? 'It is softer by itself while you speak. A change holds wherever this slide is shown.'
          : 'A window is cut, said again and drawn on like any slide.'
      }}</span>
      <button v-if="changes > 0" class="press quiet small" @click="takeBack">Take the last change back</button>
    </p>
  </template>
  <p v-else class="soft">
    There is no clip on this slide. Films and sounds are put on slides in Prepare; windows are shown at the Lectern. Go to a slide that has
    one.
  </p>
</template>

<style scoped>
.windows {
  display: grid;
  gap: 10px;
  margin: 0 0 10px;
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
