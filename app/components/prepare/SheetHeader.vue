<script setup lang="ts">
import { RefreshLeft, RefreshRight, Search } from '@element-plus/icons-vue'
import { plannedTotal } from '@core/pace'
import { VIEWS, useSheet } from '~/stores/sheet'
import type { SheetView } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** What is above the run sheet: how long it is, which slides are shown, what can be added, found and taken back. */
const talk = useTalk()
const sheet = useSheet()
const finding = ref(false)
const NAMES: Readonly<Record<SheetView, string>> = {
  all: 'all slides',
  longest: 'longest first',
  unwritten: 'without notes',
  covered: 'covered by the face',
  skipped: 'skipped ones',
}
const planned = computed(() => plannedTotal(talk.slides, talk.speaker))
</script>

<template>
  <header>
    <div class="line">
      <h1>Run sheet</h1>
      <span class="soft"
        >{{ talk.slides.length }} {{ talk.slides.length === 1 ? 'slide' : 'slides' }},
        <span class="clock">{{ duration(planned) }}</span> planned</span
      >
      <span class="gap" />
      <LimitField v-if="talk.talk" :model-value="talk.talk.limit" @update:model-value="talk.change({ limit: $event })" />
      <button
        class="press quiet small"
        :disabled="talk.undoStack.length === 0"
        aria-label="Undo"
        title="Undo (Ctrl+Z)"
        @click="talk.undo()"
      >
        <RefreshLeft />
      </button>
      <button
        class="press quiet small"
        :disabled="talk.redoStack.length === 0"
        aria-label="Redo"
        title="Redo (Ctrl+Shift+Z)"
        @click="talk.redo()"
      >
        <RefreshRight />
      </button>
    </div>
    <SelectionBar v-if="sheet.chosen.length > 0" class="second" />
    <div v-else class="line second">
      <AddSlides />
      <el-select v-model="sheet.view" class="view" aria-label="Which slides" size="small">
        <template #prefix>Show</template>
        <el-option v-for="one in VIEWS" :key="one" :value="one" :label="NAMES[one]" />
      </el-select>
      <button class="press quiet small" :aria-expanded="finding" @click="finding = !finding"><Search />Find</button>
      <NotesMenu />
      <span class="gap" />
      <DeckSettings />
    </div>
    <FindReplace v-if="finding" @close="finding = false" />
  </header>
</template>

<style scoped>
header {
  display: grid;
  gap: 6px;
  padding: 8px 16px;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
}
h1 {
  font-size: 19px;
}
.gap {
  flex: 1;
}
/* One takes the other's place, so that nothing below moves. */
.second {
  height: 30px;
}
.view {
  width: 176px;
}
/* Where it is narrow its room is that of two lines, taken or not. */
@media (max-width: 1180px) {
  .second {
    flex-wrap: wrap;
    height: 66px;
    align-content: start;
  }
}
@media (max-width: 900px) {
  .second {
    height: auto;
    min-height: 66px;
  }
}
</style>
