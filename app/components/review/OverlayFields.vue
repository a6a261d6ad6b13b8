<script setup lang="ts">
import { MOST_WORDS_OVER, THEMES } from '@core/model'
import type { Ms, Overlay, Theme } from '@core/model'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'
import { THEME_WORDS, dressedKind } from '~/words'

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
const MOST = MOST_WORDS_OVER
</script>

<template>
  <DressedCard
    :item="item"
    :name="dressedKind(overlay)"
    :before="1000"
    role="group"
    :aria-label="dressedKind(overlay)"
    @go="emit('go', $event)"
  >
    <template #beside>
      <span v-if="overlay.kind !== 'picture'"
        >in
        <WordChoice :model-value="overlay.theme" :options="themes" label="Theme" @update:model-value="set({ theme: $event as Theme })" />
      </span>
    </template>
    <template v-if="overlay.kind === 'card'">
      <AskedWords label="Title" :model-value="overlay.heading" :maxlength="MOST.heading" @update:model-value="set({ heading: $event })" />
      <AskedWords
        label="Under it"
        :lines="2"
        :model-value="overlay.body"
        :maxlength="MOST.body"
        @update:model-value="set({ body: $event })"
      />
    </template>
    <div v-else-if="overlay.kind === 'lower-third'" class="two">
      <AskedWords label="Name" :model-value="overlay.name" :maxlength="MOST.plate" @update:model-value="set({ name: $event })" />
      <AskedWords label="Under it" :model-value="overlay.place" :maxlength="MOST.plate" @update:model-value="set({ place: $event })" />
    </div>
    <AskedWords
      v-else-if="overlay.kind === 'text'"
      label="Words"
      :model-value="overlay.text"
      :maxlength="MOST.plate"
      @update:model-value="set({ text: $event })"
    />
    <AskedWords
      v-else
      label="What it shows, for those who do not see it"
      :model-value="overlay.alt"
      maxlength="300"
      @update:model-value="set({ alt: $event })"
    />
    <p v-if="overlay.kind !== 'card'" class="soft">
      {{
        overlay.kind === 'picture' || isPlaced
          ? 'Drag it on the picture.'
          : 'It stands where it hides least, and never on the face. Drag it on the picture to have it elsewhere.'
      }}
      <button v-if="isPlaced" class="press quiet small" @click="set({ at: null })">Find its place again</button>
    </p>
  </DressedCard>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
