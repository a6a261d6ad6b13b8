<script setup lang="ts">
import type { DeckEdit } from '@core/deck'
import { leastTime, plannedTime, shareOut } from '@core/pace'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** The plan against the limit: how it stands, made to fit in proportion, and slide by slide. */
const talk = useTalk()
const sheet = useSheet()
const said = ref<string | null>(null)

const running = computed(() => talk.slides.filter((slide) => !slide.skip))
const total = computed(() => running.value.reduce((sum, slide) => sum + plannedTime(slide, talk.speaker), 0))
const limit = computed(() => talk.talk?.limit ?? null)
const over = computed(() => (limit.value === null ? 0 : total.value - limit.value))
const own = computed(() => talk.slides.some((slide) => slide.planned !== null))

function fit(): void {
  if (limit.value === null) return
  const short = over.value > 0
  const out = shareOut(
    running.value.map((slide) => ({ id: slide.id, planned: plannedTime(slide, talk.speaker), least: leastTime(slide) })),
    limit.value,
  )
  const edits = [...out.times].map(([id, planned]): DeckEdit => ({ kind: 'set', slides: [id], fields: { planned } }))
  if (edits.length > 0) talk.edit({ kind: 'all', edits })
  const named = out.untouched.map((id) => sheet.numbers.get(id) ?? 0).join(', ')
  const done = short ? 'Shortened to the limit.' : 'What was left is shared out.'
  said.value = [
    out.short > 0 ? `Even at their shortest the slides take ${duration(out.short)} more than the limit. Skip or part some.` : done,
    out.untouched.length > 0
      ? `${out.untouched.length === 1 ? 'Slide' : 'Slides'} ${named} could not be shorter: it takes that long to read ` +
        `${out.untouched.length === 1 ? 'it' : 'them'}.`
      : '',
  ]
    .filter((text) => text !== '')
    .join(' ')
}
function propose(): void {
  talk.edit({
    kind: 'set',
    slides: talk.slides.filter((slide) => slide.planned !== null).map((slide) => slide.id),
    fields: { planned: null },
  })
  said.value = 'Every time is proposed again from notes and what is on the slide.'
}
</script>

<template>
  <div class="stand">
    <p>
      <b class="clock big">{{ duration(total) }}</b>
      <span class="soft">planned for {{ running.length }} slides at {{ talk.speaker.wordsPerMinute }} words a minute</span>
    </p>
    <p v-if="limit === null" class="soft">No limit is set. Set one above the run sheet, and the plan is held against it.</p>
    <p v-else-if="over > 0" class="bad">
      <b class="clock">{{ duration(over) }}</b> over the limit of <span class="clock">{{ duration(limit) }}</span>
    </p>
    <p v-else>
      <b class="clock">{{ duration(-over) }}</b> in hand of <span class="clock">{{ duration(limit) }}</span>
    </p>
  </div>
  <div class="acts">
    <button v-if="limit !== null && over > 0" class="press main small" @click="fit">Shorten to fit</button>
    <button v-else-if="limit !== null && over < 0" class="press small" :disabled="running.length === 0" @click="fit">
      Share out what is left
    </button>
    <button class="press small" :disabled="!own" @click="propose">Times as proposed</button>
  </div>
  <p v-if="said" class="notice" role="status">{{ said }}</p>
  <PlanPlot />
</template>

<style scoped>
.stand {
  display: grid;
  gap: 2px;
}
.big {
  font-size: 24px;
}
.bad {
  color: var(--alarm);
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
