<script setup lang="ts">
import { Warning } from '@element-plus/icons-vue'
import { sum } from 'd3'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'

/** Sentences of the notes that nobody said: each slide leads to where it is shown. */
const said = useSaid()
const talk = useTalk()
/** Slides that are named; the others are counted. */
const NAMED = 3
const count = computed(() => sum(said.unsaid, ({ sentences }) => sentences.length))
const places = computed(() =>
  said.unsaid.map(({ slide, sentences }) => ({
    slide,
    number: talk.slides.findIndex(({ id }) => id === slide) + 1,
    at: talk.visits.find((visit) => visit.slide === slide)?.start ?? 0,
    text: sentences.map((sentence) => `“${sentence}”`).join('\n'),
  })),
)
</script>

<template>
  <li v-if="count > 0">
    <Warning aria-label="Look at this" />
    <span
      ><b>{{ count === 1 ? 'A sentence of the notes was never said' : `${count} sentences of the notes were never said` }}</b
      ><span class="soft"
        ><template v-for="(place, n) in places.slice(0, NAMED)" :key="place.slide"
          >{{ n > 0 ? ', ' : ''
          }}<NuxtLink :to="`/talks/${talk.talk?.id ?? ''}/review?at=${place.at}&panel=words`" :title="place.text">{{
            place.number > 0 ? `slide ${place.number}` : 'a slide that is gone'
          }}</NuxtLink></template
        ><template v-if="places.length > NAMED"> and {{ places.length - NAMED }} more</template></span
      ></span
    >
  </li>
</template>
