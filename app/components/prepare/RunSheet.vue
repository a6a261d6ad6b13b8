<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Slide, SlideId } from '@core/model'
import type { ImportView } from '@contracts'
import { api } from '~/client'
import { useRowDragging } from '~/composables/useRowDragging'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'

/** The deck as a script of rows. Only the rows in sight are there, so that a long deck scrolls as a short one does. */
defineProps<{ hint: string }>()
const emit = defineEmits<{ files: [files: readonly File[]] }>()
const talk = useTalk()
const sheet = useSheet()

const closed = ref(new Set<string>())
const imports = computed(() => (talk.talk?.imports ?? []).filter((one) => one.state !== 'done' && !closed.value.has(one.id)).slice(0, 1))
/** An import of which is told what came of it: the one that is asked for again, else one of which nobody has read that yet. */
const reported = computed(() => {
  const imports = (talk.talk?.imports ?? []).filter((one) => one.reports.length > 0)
  return imports.find((one) => one.id === sheet.report) ?? imports.find((one) => !one.reportSeen)
})
/** A deck that took the place of the one before, as long as nobody has closed that. */
const replaced = computed(() => (talk.talk?.imports ?? []).find((one) => one.replaces === 'taken' && !one.reportSeen))
/** A film that became a take, as long as nobody has closed that. */
const filmed = computed(() =>
  (talk.talk?.imports ?? []).find((one) => one.state === 'done' && one.take !== null && one.reports.length === 0 && !one.reportSeen),
)
async function closeReport(one: ImportView): Promise<void> {
  sheet.report = null
  if (talk.talk === null || one.reportSeen) return
  try {
    await api.post(`/talks/${talk.talk.id}/imports/${one.id}/seen`)
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  }
}
const scroller = ref<HTMLElement | null>(null)
/** Height of a row before it was measured, px. */
const ROW = 150
const virtualizer = useVirtualizer(
  computed(() => ({
    count: sheet.rows.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => ROW,
    overscan: 4,
    getItemKey: (n: number) => sheet.rows[n]?.id ?? n,
  })),
)
const shown = computed(() =>
  virtualizer.value.getVirtualItems().flatMap((item) => {
    const slide = sheet.rows[item.index]
    return slide === undefined ? [] : [{ item, slide }]
  }),
)
const measured = (element: unknown): void => {
  if (element instanceof HTMLElement) virtualizer.value.measureElement(element)
}

const { mark, vRowDrag, scrolls } = useRowDragging((id, { id: target, after }) => {
  const at = talk.slides.findIndex((slide) => slide.id === target)
  const slides = sheet.picked.has(id) && sheet.chosen.length > 1 ? sheet.chosen.map((slide) => slide.id) : [id]
  const before = talk.slides.slice(after ? at + 1 : at).find((slide) => !slides.includes(slide.id))
  talk.edit({ kind: 'move', slides, before: before?.id ?? null })
})

/** Moving a row without a mouse. */
function shift(slide: Slide, by: -1 | 1): void {
  if (sheet.view !== 'all') return
  const at = talk.slides.indexOf(slide)
  const before = talk.slides[by === -1 ? at - 1 : at + 2]
  if (by === -1 && before === undefined) return
  talk.edit({ kind: 'move', slides: [slide.id], before: before?.id ?? null })
}

function reveal(id: SlideId | null): void {
  const at = sheet.rows.findIndex((slide) => slide.id === id)
  const inSight = shown.value.some(
    ({ slide, item }) =>
      slide.id === id &&
      scroller.value !== null &&
      item.start >= scroller.value.scrollTop &&
      item.end <= scroller.value.scrollTop + scroller.value.clientHeight,
  )
  if (at >= 0 && !inSight) virtualizer.value.scrollToIndex(at, { align: 'auto' })
}
watch(() => talk.selected, reveal)
let ends: (() => void) | null = null
onMounted(() => {
  if (scroller.value !== null) ends = scrolls(scroller.value)
})
onBeforeUnmount(() => {
  ends?.()
})
</script>

<template>
  <section class="sheet" aria-label="Run sheet">
    <SheetHeader />
    <div ref="scroller" class="rows">
      <ImportState v-for="one in imports" :key="one.id" :imported="one" class="import" @close="closed = new Set([...closed, one.id])" />
      <ReplacedNotice v-if="replaced" :key="replaced.id" :imported="replaced" @close="closeReport(replaced)" />
      <ImportReport v-if="reported" :key="reported.id" :imported="reported" @close="closeReport(reported)" />
      <FilmNotice v-if="filmed" :key="filmed.id" :imported="filmed" @close="closeReport(filmed)" />
      <BuildsOffer />
      <LanguageOffer />
      <p v-if="sheet.rows.length === 0 && talk.slides.length > 0" class="nothing soft">
        No slide is like that. <button class="press small" @click="sheet.view = 'all'">Show all slides</button>
      </p>
      <div class="all" :style="{ height: `${virtualizer.getTotalSize()}px` }">
        <div
          v-for="{ item, slide } in shown"
          :key="slide.id"
          :ref="measured"
          v-row-drag="{ id: slide.id, movable: sheet.view === 'all' }"
          class="place"
          :data-index="item.index"
          :class="{ before: mark?.id === slide.id && !mark.after, after: mark?.id === slide.id && mark.after }"
          :style="{ transform: `translateY(${item.start}px)` }"
        >
          <ScriptRow
            :slide="slide"
            :number="sheet.numbers.get(slide.id) ?? 0"
            :talk-id="talk.talk!.id"
            :shape="sheet.shape"
            :speaker="talk.speaker"
            :language="talk.talk!.language"
            :movable="sheet.view === 'all'"
            :current="slide.id === talk.slide?.id"
            :picked="sheet.picked.has(slide.id)"
            :recorded="talk.recorded.get(slide.id) ?? 0"
            :rehearsed="talk.rehearsed.get(slide.id) ?? null"
            @select="sheet.pick(slide.id, $event)"
            @open="talk.select(slide.id)"
            @set="talk.edit({ kind: 'set', slides: [slide.id], fields: $event })"
            @remove="talk.edit({ kind: 'remove', slides: [slide.id] })"
            @keydown.alt.up.prevent="shift(slide, -1)"
            @keydown.alt.down.prevent="shift(slide, 1)"
          />
        </div>
      </div>
      <div class="more">
        <DropPlace
          :title="talk.slides.length === 0 ? 'Drop a deck here' : 'Drop more slides here'"
          :slim="talk.slides.length > 0"
          :hint="hint"
          @files="emit('files', $event)"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  border-right: 1px solid var(--line);
  min-height: 0;
}
.rows {
  grid-row: 2;
  overflow-y: auto;
}
.all {
  position: relative;
}
.place {
  position: absolute;
  inset: 0 0 auto;
}
.place.before::before,
.place.after::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  z-index: 2;
  height: 3px;
  background: var(--accent);
}
.place.before::before {
  top: -2px;
}
.place.after::after {
  bottom: -2px;
}
.import {
  margin: 12px;
}
.more {
  padding: 12px;
}
.nothing {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 16px;
}
@media (max-width: 900px) {
  .sheet {
    height: 84vh;
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
}
</style>
