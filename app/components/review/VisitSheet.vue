<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Ms, VisitId } from '@core/model'
import { visitAt } from '@core/screening'
import { useOpenQuestions } from '~/composables/useOpenQuestions'
import type { OpenQuestion } from '~/composables/useOpenQuestions'
import { useTalk } from '~/stores/talk'

/** The talk's visits as a run sheet. Only the rows in sight are there, so that three hours scroll as five minutes do. */
const props = defineProps<{ at: Ms; current: VisitId | null; playing: boolean }>()
const emit = defineEmits<{ play: [at: Ms]; go: [at: Ms]; loop: [] }>()
const talk = useTalk()
const scroller = ref<HTMLElement | null>(null)
/** Height of a row before it was measured, px. */
const ROW = 118
const virtualizer = useVirtualizer(
  computed(() => ({
    count: talk.visits.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW,
    overscan: 3,
    getItemKey: (n: number) => talk.visits[n]?.id ?? n,
  })),
)
const slides = computed(() => new Map(talk.film?.slides.map((slide) => [slide.id, slide]) ?? []))
const shown = computed(() =>
  virtualizer.value.getVirtualItems().flatMap((item) => {
    const visit = talk.visits[item.index]
    return visit === undefined ? [] : [{ item, visit }]
  }),
)
const questions = useOpenQuestions()
const NONE: readonly OpenQuestion[] = []
/** Those that belong to each visit: the last that had begun when they were asked. */
const asked = computed(() => Map.groupBy(questions.value, ({ at }) => visitAt(talk.visits, at)?.id))
const measured = (element: unknown): void => {
  if (element instanceof HTMLElement) virtualizer.value.measureElement(element)
}

watch(
  () => props.current,
  (id) => {
    const n = talk.visits.findIndex((visit) => visit.id === id)
    if (n >= 0) virtualizer.value.scrollToIndex(n, { align: 'auto' })
  },
)
</script>

<template>
  <section ref="scroller" class="sheet" aria-label="Visits">
    <div class="all" :style="{ height: `${virtualizer.getTotalSize()}px` }">
      <div
        v-for="{ item, visit } in shown"
        :key="visit.id"
        :ref="measured"
        class="place"
        :data-index="item.index"
        :style="{ transform: `translateY(${item.start}px)` }"
      >
        <VisitRow
          :visit="visit"
          :number="item.index + 1"
          :slide="slides.get(visit.slide)"
          :talk-id="talk.talk!.id"
          :at="at"
          :current="visit.id === current"
          :questions="asked.get(visit.id) ?? NONE"
          @play="emit('play', visit.start)"
          @go="emit('play', visit.start + $event)"
          @loop="emit('loop')"
        />
      </div>
    </div>
    <InsertSlide :current="current" />
  </section>
</template>

<style scoped>
.sheet {
  overflow-y: auto;
}
.all {
  position: relative;
}
.place {
  position: absolute;
  top: 0;
  left: 0;
  width: 100%;
}
@media (max-width: 900px) {
  .sheet {
    height: 84vh;
    border-top: 1px solid var(--line);
  }
}
</style>
