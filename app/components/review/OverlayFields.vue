<script setup lang="ts">
import { MOST_WORDS_OVER, THEMES } from '@core/model'
import type { Ms, Overlay, Theme } from '@core/model'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'
import { THEME_WORDS, dressedKind, preciseDuration } from '~/words'

/** What something says that lies over the talk, and what it looks like. */
const props = defineProps<{ item: Extract<DressedItem, { kind: 'over' }> }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const dressing = useDressing()
const overlay = computed(() => props.item.hung)
const set = (fields: Partial<Overlay>): void => {
  dressing.change(props.item, fields)
}
const themes = THEMES.map((value) => ({ value, say: THEME_WORDS[value].toLowerCase() }))
const isPlaced = computed(() => (overlay.value.kind === 'lower-third' || overlay.value.kind === 'text') && overlay.value.at !== null)
</script>

<template>
  <div class="fields" role="group" :aria-label="dressedKind(overlay)">
    <p class="line">
      <b>{{ dressedKind(overlay) }}</b>
      <button class="press quiet small" title="Play from just before" @click="emit('go', Math.max(0, item.from - 1000))">
        <span class="clock">{{ preciseDuration(Math.max(0, item.from)) }} – {{ preciseDuration(item.to) }}</span>
      </button>
      <span v-if="overlay.kind !== 'picture'"
        >in
        <WordChoice :model-value="overlay.theme" :options="themes" label="Theme" @update:model-value="set({ theme: $event as Theme })" />
      </span>
      <span class="gap" />
      <button class="press quiet small danger" @click="dressing.remove(item.id)">Take off</button>
    </p>
    <template v-if="overlay.kind === 'card'">
      <label class="asked"
        >Title
        <DraftInput
          class="field"
          :model-value="overlay.heading"
          :maxlength="MOST_WORDS_OVER.heading"
          @update:model-value="set({ heading: $event })"
      /></label>
      <label class="asked"
        >Under it
        <DraftInput
          class="field"
          :lines="2"
          :model-value="overlay.body"
          :maxlength="MOST_WORDS_OVER.body"
          @update:model-value="set({ body: $event })"
      /></label>
    </template>
    <div v-else-if="overlay.kind === 'lower-third'" class="two">
      <label class="asked"
        >Name
        <DraftInput
          class="field"
          :model-value="overlay.name"
          :maxlength="MOST_WORDS_OVER.plate"
          @update:model-value="set({ name: $event })"
      /></label>
      <label class="asked"
        >Under it
        <DraftInput
          class="field"
          :model-value="overlay.place"
          :maxlength="MOST_WORDS_OVER.plate"
          @update:model-value="set({ place: $event })"
      /></label>
    </div>
    <label v-else-if="overlay.kind === 'text'" class="asked"
      >Words
      <DraftInput class="field" :model-value="overlay.text" :maxlength="MOST_WORDS_OVER.plate" @update:model-value="set({ text: $event })"
    /></label>
    <label v-else class="asked"
      >What it shows, for those who do not see it
      <DraftInput class="field" :model-value="overlay.alt" maxlength="300" @update:model-value="set({ alt: $event })"
    /></label>
    <p v-if="overlay.kind !== 'card'" class="soft">
      {{
        overlay.kind === 'picture' || isPlaced
          ? 'Drag it on the picture.'
          : 'It stands where it hides least, and never on the face. Drag it on the picture to have it elsewhere.'
      }}
      <button v-if="isPlaced" class="press quiet small" @click="set({ at: null })">Find its place again</button>
    </p>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--brand);
  border-radius: 6px;
  background: var(--card);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.gap {
  flex: 1;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.field {
  width: 100%;
  padding: 6px 9px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--ground);
  font-weight: 400;
  resize: vertical;
}
</style>
