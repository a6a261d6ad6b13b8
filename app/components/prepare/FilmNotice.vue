<script setup lang="ts">
import type { ImportView } from '@contracts'
import { useTalk } from '~/stores/talk'

/** A finished film has become a take: what that means, and where to go on. */
defineProps<{ imported: ImportView }>()
defineEmits<{ close: [] }>()
const talk = useTalk()
</script>

<template>
  <section class="told" aria-label="What came of the film">
    <p class="head">
      <span
        ><b class="name" :title="imported.name">{{ imported.name }}</b> is a take of this talk now, slide by slide as it shows them. It
        looks as it was filmed; what you say again takes its place.</span
      >
      <button class="press quiet small" @click="$emit('close')">Close</button>
    </p>
    <NuxtLink class="press main" :to="`/talks/${talk.talk?.id ?? ''}/review`">Listen in Review</NuxtLink>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 12px;
  align-items: start;
  justify-content: space-between;
}
.press.main {
  justify-self: start;
}
</style>
