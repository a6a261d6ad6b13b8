<script setup lang="ts">
import type { DeckEdit } from '@core/deck'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'

/** Finds words in all notes, titles and pages; replaces them in the notes. */
const emit = defineEmits<{ close: [] }>()
const talk = useTalk()
const sheet = useSheet()
const wanted = ref('')
const instead = ref('')
const at = ref(-1)

const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
const pattern = computed(() => (wanted.value === '' ? null : new RegExp(literal(wanted.value), 'giu')))
const count = (text: string): number => (pattern.value === null ? 0 : [...text.matchAll(pattern.value)].length)
const found = computed(() =>
  talk.slides.flatMap((slide) => {
    const inNotes = count(slide.notes) + count(slide.viewerNotes)
    const elsewhere = count(slide.title) + slide.steps.reduce((most, step) => Math.max(most, count(step.text)), 0)
    return inNotes + elsewhere === 0 ? [] : [{ slide, inNotes, elsewhere }]
  }),
)
const replaceable = computed(() => found.value.reduce((sum, one) => sum + one.inNotes, 0))

function next(): void {
  if (found.value.length === 0) return
  at.value = (at.value + 1) % found.value.length
  sheet.view = 'all'
  talk.select(found.value[at.value]?.slide.id ?? null)
}

function replaceAll(): void {
  const edits = found.value.flatMap(({ slide, inNotes }): DeckEdit[] =>
    inNotes === 0 || pattern.value === null
      ? []
      : [
          {
            kind: 'set',
            slides: [slide.id],
            fields: {
              notes: slide.notes.replace(pattern.value, () => instead.value),
              viewerNotes: slide.viewerNotes.replace(pattern.value, () => instead.value),
            },
          },
        ],
  )
  if (edits.length > 0) talk.edit({ kind: 'all', edits })
}
watch(wanted, () => {
  at.value = -1
})
</script>

<template>
  <form class="find" role="search" aria-label="Find and replace" @submit.prevent="next" @keydown.escape="emit('close')">
    <el-input v-model="wanted" size="small" placeholder="Find in notes and slides" aria-label="Find" autofocus />
    <button class="press small" type="submit" :disabled="found.length === 0">Next</button>
    <span class="soft say" role="status">{{
      wanted === '' ? '' : found.length === 0 ? 'Not found' : `on ${found.length} ${found.length === 1 ? 'slide' : 'slides'}`
    }}</span>
    <el-input v-model="instead" size="small" placeholder="Replace with" aria-label="Replace with" />
    <button class="press small" type="button" :disabled="replaceable === 0" @click="replaceAll">
      {{ replaceable === 0 ? 'Replace' : `Replace ${replaceable} in notes` }}
    </button>
    <button class="press quiet small" type="button" @click="emit('close')">Close</button>
  </form>
</template>

<style scoped>
.find {
  display: flex;
  align-items: center;
  gap: 8px;
}
.say {
  white-space: nowrap;
  font-size: 13.5px;
}
</style>
