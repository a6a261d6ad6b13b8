<script setup lang="ts">
import { Plus } from '@element-plus/icons-vue'
import { MOST_CLIPS, broughtClips } from '@core/model'
import type { Slide } from '@core/model'
import { ACCEPTED_CLIPS } from '~/client'
import { useClips } from '~/composables/useClips'

/** Films, moving pictures and sounds of a slide. */
const props = defineProps<{ slide: Slide; talkId: string }>()
const { bring } = useClips(() => props.slide)
const chooser = ref<{ readonly open: () => void } | null>(null)
const clips = computed(() => broughtClips(props.slide))
</script>

<template>
  <p v-if="clips.length === 0" class="soft">
    A film, a moving picture or a sound can play on this slide while you speak: its own picture and sound go into your video. Drop it on the
    slide above, or choose it.
  </p>
  <ClipList v-else :slide="slide" :talk-id="talkId" stepped />
  <button v-if="clips.length < MOST_CLIPS" class="press small add" @click="chooser?.open()"><Plus />Add a film or sound …</button>
  <FileChooser ref="chooser" :accept="ACCEPTED_CLIPS" aria-label="A film or sound for this slide" @files="bring" />
</template>

<style scoped>
.add {
  justify-self: start;
  align-self: start;
}
</style>
