<script setup lang="ts">
import { findingLines } from '@core/office'
import type { OfficeReport } from '@core/office'
import type { SlideId } from '@core/model'
import type { ImportView } from '@contracts'
import { ACCEPTED_CLIPS } from '~/client'
import { useClips } from '~/composables/useClips'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** What came of an office file, and what of it is not here as it was there. */
const props = defineProps<{ imported: ImportView }>()
defineEmits<{ close: [] }>()
const talk = useTalk()

const counted = (count: number, one: string, many: string): string => (count === 1 ? `one ${one}` : `${String(count)} ${many}`)

function came({ slides, steps, notes, skipped }: OfficeReport): string {
  const with_ = [
    ...(steps === 0 ? [] : [counted(steps, 'step', 'steps')]),
    ...(notes === 0 ? [] : [notes === slides ? 'notes on all of them' : `notes on ${String(notes)}`]),
  ]
  const left = skipped === 0 ? '' : ` In its show ${counted(skipped, 'is', 'are')} left out, and skipped here.`
  return `${counted(slides, 'slide', 'slides')}${with_.length === 0 ? '' : `, with ${with_.join(' and ')}`}.${left}`
}

/** Slides of a file by their number in it; only where one file was brought can they be told by it. */
const slideOf = (number: number) => (props.imported.reports.length === 1 ? props.imported.slides[number - 1] : undefined)
const goTo = (slides: readonly number[]): void => {
  const slide = slideOf(slides[0] ?? 0)
  if (slide !== undefined && talk.slides.some(({ id }) => id === slide)) talk.select(slide)
}
/** Brings a film of one's own for a slide whose film is on the internet. */
const chooser = ref<{ readonly open: () => void } | null>(null)
let wanted: SlideId | undefined
function choose(slides: readonly number[]): void {
  wanted = slideOf(slides[0] ?? 0)
  goTo(slides)
  chooser.value?.open()
}
const { bring } = useClips(() => talk.slides.find(({ id }) => id === wanted) ?? null)
const review = computed(() => (props.imported.take === null ? null : `/talks/${talk.talk?.id ?? ''}/review`))
</script>

<template>
  <section class="told" aria-label="What came of the file">
    <template v-for="(report, n) in imported.reports" :key="n">
      <p class="head">
        <span class="wide"
          ><b class="name" :title="report.name">{{ report.name }}</b> came in: {{ came(report) }}</span
        >
        <button v-if="n === 0" class="press quiet small" @click="$emit('close')">Close</button>
      </p>
      <p v-if="report.recorded && review">
        What was recorded on {{ report.recorded.slides === 1 ? 'one of its slides' : `${report.recorded.slides} of its slides` }} (<span
          class="clock"
          >{{ duration(report.recorded.length) }}</span
        >) is a take of this talk. <NuxtLink :to="review">Look at it in Review</NuxtLink>
      </p>
      <template v-if="report.findings.length > 0">
        <p class="soft">Not as it is in the file:</p>
        <ul class="listed">
          <li v-for="line in findingLines(report.findings)" :key="line.sentence">
            <button v-if="slideOf(line.slides[0] ?? 0)" class="press quiet small go" @click="goTo(line.slides)">Show</button>
            <span>{{ line.sentence }}</span>
            <button v-if="line.wantsFilm && slideOf(line.slides[0] ?? 0)" class="press small go" @click="choose(line.slides)">
              Choose a film …
            </button>
          </li>
        </ul>
      </template>
    </template>
    <FileChooser ref="chooser" :accept="ACCEPTED_CLIPS" aria-label="A film of your own for this slide" @files="bring" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 12px;
  align-items: start;
}
.wide {
  flex: 1;
  min-width: 0;
}
.listed {
  gap: 2px;
  max-height: 190px;
  overflow-y: auto;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.go {
  flex: none;
  min-height: 24px;
  color: var(--brand);
}
</style>
