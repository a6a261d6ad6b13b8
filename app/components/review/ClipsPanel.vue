<script setup lang="ts">
import type { Visit } from '@core/programme'
import { useTalk } from '~/stores/talk'

/** The clips of the slide that is shown: which part of each is played, how loud, and whether it goes round. */
const props = defineProps<{ visit: Visit | null }>()
const talk = useTalk()
const slide = computed(() => talk.slides.find(({ id }) => id === props.visit?.slide) ?? null)
/** Changes that were made here and can be taken back here. */
const changes = ref(0)
function takeBack(): void {
  talk.undo()
  changes.value -= 1
}
</script>

<template>
  <template v-if="slide?.clips?.length && talk.talk">
    <ClipList :slide="slide" :talk-id="talk.talk.id" @changed="changes += 1" />
    <p class="soft foot">
      <span>It is softer by itself while you speak. A change holds wherever this slide is shown.</span>
      <button v-if="changes > 0" class="press quiet small" @click="takeBack">Take the last change back</button>
    </p>
  </template>
  <p v-else class="soft">There is no clip on this slide. Films and sounds are put on slides in Prepare; go to a slide that has one.</p>
</template>

<style scoped>
.foot {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 8px;
  font-size: 14px;
}
</style>
