<script setup lang="ts">
import type { ScreeningView } from '@contracts'
import { fileSize } from '~/words'

/** What viewers may take along. */
const props = defineProps<{ view: ScreeningView }>()
const any = computed(
  () => props.view.take.film !== null || props.view.take.handout || props.view.take.viewerNotes || props.view.files.length > 0,
)
</script>

<template>
  <section v-if="any" class="take" aria-labelledby="take-title">
    <h2 id="take-title">Take along</h2>
    <ul class="listed">
      <li v-if="view.take.film">
        <a :href="`${view.media}/talk.mp4`" :download="view.take.film.file">The film as a file</a>
        <span class="soft clock">{{ fileSize(view.take.film.bytes) }}</span>
      </li>
      <li v-if="view.take.handout"><a :href="`${view.media}/slides.pdf`" download>Slides with what was drawn on them, as PDF</a></li>
      <li v-if="view.take.viewerNotes"><a :href="`${view.media}/notes.md`" download>The notes for viewers, as text</a></li>
      <li v-for="file in view.files" :key="file.id">
        <a :href="`${view.media}/file-${file.id}`" :download="file.name">{{ file.name }}</a>
        <span class="soft clock">{{ fileSize(file.bytes) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.take {
  display: grid;
  gap: 8px;
}
h2 {
  font-size: 20px;
}
li {
  display: flex;
  gap: 12px;
  align-items: baseline;
  min-height: 28px;
}
a {
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
