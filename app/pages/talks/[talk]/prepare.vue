<script setup lang="ts">
import { RefreshLeft, RefreshRight } from '@element-plus/icons-vue'
import { useEventListener } from '@vueuse/core'
import { VueDraggable } from 'vue-draggable-plus'
import { plannedTotal } from '@core/pace'
import type { Slide, SlideId } from '@core/model'
import { bringIn } from '~/client'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

const talk = useTalk()
const closed = ref(new Set<string>())
const sending = ref(false)

useHead({ title: () => `Prepare · ${talk.talk?.name ?? 'Aisle Talk'}` })

const imports = computed(() => (talk.talk?.imports ?? []).filter((one) => one.state !== 'done' && !closed.value.has(one.id)).slice(0, 1))
const rows = computed<Slide[]>({
  get: () => [...talk.slides],
  set: (order) => {
    // The row that was moved is the one whose removal makes both orders the same.
    const moved = order.find((slide) => {
      const others = (list: readonly Slide[]): string => list.filter((one) => one.id !== slide.id).map((one) => one.id).join()
      return order.indexOf(slide) !== talk.slides.indexOf(slide) && others(order) === others(talk.slides)
    })
    if (moved === undefined) return
    talk.edit({ kind: 'move', slides: [moved.id], before: order[order.indexOf(moved) + 1]?.id ?? null })
  },
})
const planned = computed(() => plannedTotal(talk.slides))
const number = computed(() => (talk.slide === null ? 0 : talk.slides.indexOf(talk.slide) + 1))

async function bring(files: readonly File[]): Promise<void> {
  if (talk.talk === null) return
  sending.value = true
  try {
    await bringIn(talk.talk.id, files)
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  } finally {
    sending.value = false
  }
}

function keys(event: KeyboardEvent): void {
  const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || typing) return
  event.preventDefault()
  if (event.shiftKey) talk.redo()
  else talk.undo()
}

function select(id: SlideId): void {
  talk.selected = id
}

/** Moving a row without a mouse. */
function shift(slide: Slide, by: -1 | 1): void {
  const at = talk.slides.indexOf(slide)
  const before = talk.slides[by === -1 ? at - 1 : at + 2]
  if (by === -1 && before === undefined) return
  talk.edit({ kind: 'move', slides: [slide.id], before: before?.id ?? null })
}

watch(() => talk.selected, (id) => {
  if (id !== null) document.getElementById(`row-${id}`)?.scrollIntoView({ block: 'nearest' })
})
useEventListener(window, 'keydown', keys)
</script>

<template>
  <StationFrame>
    <div class="prepare">
      <section class="sheet" aria-label="Run sheet">
        <header>
          <h1>Run sheet</h1>
          <span class="soft">{{ talk.slides.length }} slides, <span class="clock">{{ duration(planned) }}</span> planned</span>
          <span class="gap" />
          <LimitField v-if="talk.talk" :model-value="talk.talk.limit" @update:model-value="talk.change({ limit: $event })" />
          <button class="press quiet small" :disabled="talk.done.length === 0" aria-label="Undo" title="Undo" @click="talk.undo()"><RefreshLeft /></button>
          <button class="press quiet small" :disabled="talk.undone.length === 0" aria-label="Redo" title="Redo" @click="talk.redo()"><RefreshRight /></button>
        </header>
        <div class="rows">
          <ImportState v-for="one in imports" :key="one.id" :imported="one" class="import" @close="closed = new Set([...closed, one.id])" />
          <VueDraggable v-model="rows" handle=".grip" :animation="120">
            <ScriptRow
              v-for="(slide, n) in rows" :id="`row-${slide.id}`" :key="slide.id" :slide="slide" :number="n + 1" :talk-id="talk.talk!.id" :shape="talk.talk!.shape"
              :current="slide.id === talk.slide?.id" :recorded="talk.recorded.get(slide.id) ?? 0"
              @select="select(slide.id)" @set="talk.edit({ kind: 'set', slides: [slide.id], fields: $event })" @remove="talk.edit({ kind: 'remove', slides: [slide.id] })"
              @keydown.alt.up.prevent="shift(slide, -1)" @keydown.alt.down.prevent="shift(slide, 1)"
            />
          </VueDraggable>
          <div class="more">
            <DropPlace
              :title="talk.slides.length === 0 ? 'Drop a deck here' : 'Drop more slides here'" :slim="talk.slides.length > 0"
              :hint="sending ? 'Sending …' : 'A PDF, or pictures (PNG, JPEG, WebP). Or click to choose.'" @files="bring"
            />
          </div>
        </div>
      </section>
      <aside>
        <template v-if="talk.slide && talk.talk">
          <SlideBench :slide="talk.slide" :number="number" :talk-id="talk.talk.id" :shape="talk.talk.shape" />
          <NuxtLink class="press main" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
        </template>
      </aside>
    </div>
  </StationFrame>
</template>

<style scoped>
.prepare { display: grid; grid-template-columns: minmax(0, 3fr) minmax(0, 2fr); height: 100%; }
.sheet { display: grid; grid-template-rows: auto minmax(0, 1fr); border-right: 1px solid var(--line); min-height: 0; }
header { display: flex; align-items: center; gap: 10px; padding: 10px 16px; border-bottom: 1px solid var(--line); }
h1 { font-size: 19px; }
.gap { flex: 1; }
.rows { overflow-y: auto; }
.import { margin: 12px; }
.more { padding: 12px; }
aside { display: grid; gap: 16px; align-content: start; justify-items: start; padding: 16px; overflow-y: auto; }
aside > :first-child { width: 100%; }
</style>
