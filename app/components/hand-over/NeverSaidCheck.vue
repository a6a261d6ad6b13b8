<script setup lang="ts">
import { sum } from 'd3'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'

/** Sentences of the notes that nobody said: each slide leads to where it is shown. */
const said = useSaid()
const talk = useTalk()
const count = computed(() => sum(said.unsaid, ({ sentences }) => sentences.length))
const say = computed(() => (count.value === 1 ? 'A sentence of the notes was' : `${String(count.value)} sentences of the notes were`))
const places = computed(() =>
  said.unsaid.map(({ slide, sentences }) => {
    const number = talk.slides.findIndex(({ id }) => id === slide) + 1
    const at = talk.visits.find((visit) => visit.slide === slide)?.start ?? 0
    return {
      name: number > 0 ? `slide ${String(number)}` : 'a slide that is gone',
      to: `/talks/${talk.talk?.id ?? ''}/review?at=${String(at)}&panel=words`,
      title: sentences.map((sentence) => `“${sentence}”`).join('\n'),
    }
  }),
)
</script>

<template>
  <CheckRow v-if="count > 0" :say="`${say} never said`" :places="places" />
</template>
