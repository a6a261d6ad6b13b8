<script setup lang="ts">
import { useTalk } from '~/stores/talk'

/** The leaves of the docket: a file to be handed over, a page on which others watch, somebody's rules, or all there is to keep. */
const props = defineProps<{ talkId: string; leaf: 'file' | 'show' | 'hand-in' | 'along' }>()
const talk = useTalk()
const ALL = [
  { id: 'file', name: 'File', says: 'made, checked and kept here' },
  { id: 'show', name: 'Show', says: 'a page on which others watch' },
  { id: 'hand-in', name: 'Hand in', says: 'by the rules of whoever asked for it' },
  { id: 'along', name: 'Take along', says: 'without internet, or to keep for good' },
] as const
/** Who has no account shows nothing to others from here. */
const LEAVES = computed(() => ALL.filter(({ id }) => id !== 'show' || !talk.isGuests))
const to = (leaf: string) => ({ path: `/talks/${props.talkId}/hand-over`, query: { leaf } })
</script>

<template>
  <nav class="leaves" aria-label="Ways to hand over">
    <NuxtLink
      v-for="one in LEAVES"
      :key="one.id"
      :to="to(one.id)"
      :class="{ here: one.id === leaf }"
      :aria-current="one.id === leaf ? 'page' : undefined"
    >
      <b>{{ one.name }}</b><span class="soft">{{ one.says }}</span>
    </NuxtLink>
  </nav>
</template>

<style scoped>
.leaves {
  display: grid;
  gap: 6px;
  align-content: start;
}
a {
  display: grid;
  padding: 8px 14px;
  border: 1px solid var(--line);
  border-left: 5px solid var(--line);
  background: color-mix(in srgb, var(--card) 55%, var(--ground));
  color: inherit;
  text-decoration: none;
}
a:hover {
  border-left-color: var(--brand);
}
a.here {
  border-left-color: var(--brand);
  background: var(--card);
}
span {
  font-size: 13.5px;
}
</style>
