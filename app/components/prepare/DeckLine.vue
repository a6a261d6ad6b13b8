<script setup lang="ts">
import type { Slide } from '@core/model'

/** A slide in a list of a deck: as it is in the end, its number and title, and what is to be said of it. */
const props = defineProps<{ talkId: string; slide: Slide; number: number; mark: string | null }>()
const picture = computed(() => props.slide.steps.at(-1)?.picture)
</script>

<template>
  <SlidePicture v-if="picture" class="small" :talk-id="talkId" :picture="picture" alt="" />
  <span class="say"
    ><span class="title"
      ><b class="clock">{{ number }}</b> {{ slide.title || 'without a title' }}</span
    ><span v-if="mark" class="mark">{{ mark }}</span></span
  >
</template>

<style scoped>
.small {
  flex: none;
  width: 84px;
  border: 1px solid var(--line);
}
.say {
  display: grid;
  min-width: 0;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mark {
  font-size: 13px;
  color: var(--mark, var(--soft));
  font-weight: var(--mark-weight, 400);
}
</style>
