<script setup lang="ts">
import { plannedTime } from '@core/pace'
import { HOLD_RANGE } from '@core/programme'
import type { SlideId, VisitId } from '@core/model'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** Puts a slide of the deck into the talk that nobody spoke over; it is held for its planned time. */
const props = defineProps<{ current: VisitId | null }>()
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const wanted = ref<SlideId | null>(null)
const seen = computed(() => new Set(talk.visits.map((visit) => visit.slide)))
/** Slides that the talk does not show yet come first. */
const slides = computed(() =>
  talk.slides
    .map((slide, n) => ({ slide, name: `${String(n + 1)}  ${slide.title || 'Untitled'}` }))
    .toSorted((a, b) => Number(seen.value.has(a.slide.id)) - Number(seen.value.has(b.slide.id))),
)
const slide = computed(() => talk.slides.find((one) => one.id === wanted.value) ?? null)
const length = computed(() =>
  slide.value === null ? 0 : Math.max(HOLD_RANGE.least, plannedTime({ ...slide.value, skip: false }, talk.speaker)),
)

async function insert(atEnd: boolean): Promise<void> {
  if (slide.value === null) return
  const place = talk.visits.findIndex((visit) => visit.id === props.current)
  const before = atEnd ? null : (talk.visits[place + 1]?.id ?? null)
  await programmeEdits.edit({
    kind: 'insert',
    slide: slide.value.id,
    version: slide.value.version,
    length: length.value,
    before,
    name: crypto.randomUUID(),
  })
  wanted.value = null
}
</script>

<template>
  <div class="insert">
    <el-select
      v-model="wanted"
      size="small"
      filterable
      clearable
      placeholder="Put in a slide without a voice"
      aria-label="Put in a slide without a voice"
      class="which"
    >
      <el-option v-for="{ slide: one, name } in slides" :key="one.id" :value="one.id" :label="name"
        ><span>{{ name }}</span
        ><span v-if="!seen.has(one.id)" class="soft new"> not in the talk yet</span></el-option
      >
    </el-select>
    <template v-if="slide">
      <button class="press small" :disabled="programmeEdits.busy" @click="insert(false)">After the one that is on</button>
      <button class="press small" :disabled="programmeEdits.busy" @click="insert(true)">At the end</button>
      <span class="soft">held for {{ duration(length) }}</span>
    </template>
  </div>
</template>

<style scoped>
.insert {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  padding: 12px 14px;
}
.which {
  width: 280px;
}
.new {
  font-size: 13px;
}
</style>
