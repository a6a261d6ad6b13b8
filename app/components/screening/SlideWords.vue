<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import type { ScreenedSlide } from '@contracts'

/** What the slide on screen says, to be read and copied, and what was written for those who watch. */
const props = defineProps<{ slide: ScreenedSlide }>()
const { copy, copied } = useClipboard({ legacy: true })
const lines = computed(() => props.slide.text.split('\n').filter((line) => line.trim() !== ''))
</script>

<template>
  <section class="slide" aria-labelledby="slide-title">
    <h2 id="slide-title">
      Slide {{ slide.number }}<template v-if="slide.title">: {{ slide.title }}</template>
    </h2>
    <p v-if="slide.viewerNotes" class="note">{{ slide.viewerNotes }}</p>
    <details v-if="slide.description" open>
      <summary>What it shows</summary>
      <p class="shows">{{ slide.description }}</p>
    </details>
    <details v-if="lines.length > 0" open>
      <summary>What stands on it</summary>
      <p v-for="(line, n) in lines" :key="n">{{ line }}</p>
      <button class="press small" @click="copy(slide.text)">{{ copied ? 'Copied' : 'Copy these words' }}</button>
    </details>
    <p v-else-if="!slide.viewerNotes && !slide.description" class="soft">There is nothing on this slide that can be read as words.</p>
  </section>
</template>

<style scoped>
.slide {
  display: grid;
  gap: 10px;
}
h2 {
  font-size: 20px;
  overflow-wrap: anywhere;
}
.note {
  padding: 10px 14px;
  border-left: 4px solid var(--brand);
  background: var(--card);
  white-space: pre-line;
  overflow-wrap: anywhere;
}
summary {
  min-height: 30px;
  color: var(--soft);
  cursor: pointer;
}
details .shows {
  white-space: pre-line;
}
details p {
  padding-bottom: 4px;
  overflow-wrap: anywhere;
}
</style>
