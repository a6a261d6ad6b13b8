<script setup lang="ts">
import type { Ms } from '@core/model'
import type { Hit } from '@core/screening'
import type { ScreenedSlide, ScreenedVisit, ScreeningView } from '@contracts'
import { duration } from '~/words'

/** The programme: every showing of a slide with its time, and a field that finds words on slides and in what was written for viewers. */
const props = defineProps<{ view: ScreeningView; current: string | null; hits: readonly Hit[] }>()
const emit = defineEmits<{ seek: [at: Ms] }>()
const words = defineModel<string>({ required: true })
const field = ref<HTMLInputElement | null>(null)
defineExpose({
  focus: () => {
    field.value?.focus()
  },
})

const slideOf = (visit: ScreenedVisit): ScreenedSlide | undefined => props.view.slides.find(({ id }) => id === visit.slide)
const found = computed(() => new Map(props.hits.map((hit) => [hit.slide, hit])))
const searching = computed(() => words.value.trim() !== '')
const listed = computed(() => (searching.value ? props.view.visits.filter(({ slide }) => found.value.has(slide)) : props.view.visits))
</script>

<template>
  <section class="programme" aria-labelledby="programme-title">
    <div class="top">
      <h2 id="programme-title">Programme</h2>
      <label class="find"
        ><span class="unseen">Find words on slides and in notes</span
        ><input ref="field" v-model="words" type="search" placeholder="Find words" autocomplete="off" @keydown.esc="words = ''"
      /></label>
    </div>
    <p v-if="searching" class="soft" role="status">
      {{ listed.length === 0 ? `“${words.trim()}” is on no slide and in no note.` : `On ${listed.length} of ${view.visits.length}` }}
    </p>
    <ol>
      <li
        v-for="(visit, n) in listed"
        :id="view.visits.findIndex(({ number }) => number === visit.number) === n ? `slide-${visit.number}` : undefined"
        :key="visit.id"
        :class="{ current: visit.id === current }"
      >
        <a :href="`#slide-${visit.number}`" @click.prevent="emit('seek', visit.start)">
          <SlidePicture v-if="slideOf(visit)" class="small" :media="view.media" :picture="slideOf(visit)!.picture" alt="" />
          <span class="words">
            <b
              ><span class="number">{{ visit.number }}</span> {{ visit.title || 'Without a title' }}</b
            >
            <span v-if="searching" class="hit"
              >{{ found.get(visit.slide)?.before }}<mark>{{ found.get(visit.slide)?.words }}</mark
              >{{ found.get(visit.slide)?.after }}</span
            >
          </span>
          <span class="clock">{{ duration(visit.start) }}</span>
        </a>
        <!-- All that is on it, for those who read rather than watch, and for paper. -->
        <div class="text">
          <p>{{ slideOf(visit)?.text }}</p>
          <p v-if="slideOf(visit)?.description">{{ slideOf(visit)?.description }}</p>
          <p v-if="slideOf(visit)?.viewerNotes" class="note">{{ slideOf(visit)?.viewerNotes }}</p>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.top {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  padding-bottom: 8px;
}
h2 {
  font-size: 20px;
}
.find input {
  width: min(240px, 46vw);
  min-height: 36px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-top: 1px solid var(--line);
}
li.current {
  box-shadow: inset 4px 0 var(--accent);
  background: var(--accent-wash);
}
a {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 14px;
  align-items: center;
  min-height: 44px;
  padding: 8px 12px;
  color: inherit;
  text-decoration: none;
}
a:hover b {
  text-decoration: underline;
}
b {
  font-weight: 600;
  overflow-wrap: anywhere;
}
.number {
  color: var(--soft);
}
.words {
  display: grid;
  gap: 2px;
}
.hit {
  font-size: 14px;
}
mark {
  background: var(--accent);
  color: #1d2a29;
}
.text {
  display: none;
}
@media (scripting: none) {
  .text {
    display: block;
    padding: 0 12px 10px 118px;
    white-space: pre-line;
  }
}
@media (max-width: 480px) {
  a {
    grid-template-columns: 64px 1fr auto;
    gap: 10px;
    padding: 8px 4px 8px 10px;
  }
}
@media print {
  .find,
  .clock {
    display: none;
  }
  /* Each slide with its words beside it. */
  li {
    display: grid;
    grid-template-columns: 46% 1fr;
    grid-template-rows: auto 1fr;
    gap: 4px 18px;
    padding: 10px 0;
    break-inside: avoid;
    box-shadow: none !important;
    background: none !important;
  }
  a {
    display: contents;
  }
  .small {
    grid-row: 1 / 3;
    border: 1px solid var(--line);
  }
  .text {
    display: block;
    grid-column: 2;
    white-space: pre-line;
  }
}
</style>
