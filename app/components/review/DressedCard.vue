<script setup lang="ts">
import type { Ms } from '@core/model'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'
import { preciseDuration } from '~/words'

/** What can be changed of something that lies over the talk, under its name. */
const props = defineProps<{ item: DressedItem; name: string; /** How long before it its play begins. */ before: Ms }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const dressing = useDressing()
const from = computed(() => Math.max(0, props.item.from))
</script>

<template>
  <div class="dressed" :class="item.kind">
    <p class="wrapped">
      <b class="name" :title="name">{{ name }}</b>
      <button class="press quiet small" title="Play from just before" @click="emit('go', Math.max(0, item.from - before))">
        <span class="clock">{{ preciseDuration(from) }} – {{ preciseDuration(item.to) }}</span>
      </button>
      <slot name="beside" />
      <span class="gap" />
      <button class="press quiet small danger" @click="dressing.remove(item.id)">Take off</button>
    </p>
    <slot />
  </div>
</template>

<style scoped>
.dressed {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--brand);
  border-radius: 6px;
  background: var(--card);
}
.music {
  border-left-color: var(--accent);
}
.name {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
