<script setup lang="ts">
import type { DeckEdit, SlideFields } from '@core/deck'
import { framingOf } from '@core/layout'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { readDuration } from '~/words'

/** What can be done with all picked slides at once. */
const talk = useTalk()
const sheet = useSheet()
const time = ref('')
const ids = computed(() => sheet.chosen.map((slide) => slide.id))
const set = (fields: SlideFields): void => {
  talk.edit({ kind: 'set', slides: ids.value, fields })
}
const allSkipped = computed(() => sheet.chosen.every((slide) => slide.skip))
const allOptional = computed(() => sheet.chosen.every((slide) => slide.optional))
const together = computed(
  () =>
    ids.value.length > 1 &&
    sheet.chosen.every((slide) => slide.composition === null) &&
    sheet.chosen.every((slide, n) => n === 0 || talk.slides.indexOf(slide) === talk.slides.indexOf(sheet.chosen[n - 1] ?? slide) + 1),
)
const allOff = computed(() => sheet.chosen.every((slide) => framingOf(slide, sheet.shape).off))

function setTime(): void {
  const read = readDuration(time.value)
  if (read !== null) set({ planned: read })
  time.value = ''
}
function setOff(off: boolean): void {
  talk.edit({
    kind: 'all',
    edits: sheet.chosen.map((slide): DeckEdit => ({
      kind: 'set',
      slides: [slide.id],
      fields: { framing: { ...framingOf(slide, sheet.shape), off } },
    })),
  })
}
function remove(): void {
  talk.edit({ kind: 'remove', slides: ids.value })
  sheet.pickNone()
}
function merge(): void {
  talk.edit({ kind: 'merge', slides: ids.value })
  sheet.pickNone()
}
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Picked slides">
    <b>{{ ids.length }} picked</b>
    <button class="press quiet small" @click="sheet.pickAll()">All</button>
    <button class="press quiet small" @click="sheet.pickNone()">None</button>
    <span class="gap" />
    <label class="time"
      ><span class="soft">each</span
      ><input
        v-model="time"
        class="clock"
        placeholder="m:ss"
        aria-label="Planned time of each picked slide"
        @change="setTime"
        @keydown.enter="setTime"
    /></label>
    <button class="press small" @click="set({ planned: null })">As proposed</button>
    <button class="press small" @click="set({ skip: !allSkipped })">{{ allSkipped ? 'Use again' : 'Skip' }}</button>
    <button class="press small" title="Optional slides may go when the talk is too long" @click="set({ optional: !allOptional })">
      {{ allOptional ? 'Needed' : 'Optional' }}
    </button>
    <button class="press small" @click="setOff(!allOff)">{{ allOff ? 'Face on' : 'Face off' }}</button>
    <button v-if="together" class="press small" @click="merge">Make steps</button>
    <button class="press small danger" @click="remove">Delete</button>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0 -10px;
  padding: 0 10px;
  border-radius: 6px;
  background: var(--brand-wash);
  white-space: nowrap;
}
.gap {
  flex: 1;
}
.time {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 14px;
}
.time input {
  width: 56px;
  padding: 2px 6px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  text-align: right;
}
</style>
