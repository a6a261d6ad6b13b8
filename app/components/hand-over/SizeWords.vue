<script setup lang="ts">
import { LINES } from '@core/model'
import type { Lines, OwnSize, Recipe } from '@core/model'
import { videoSize } from '@core/plan'
import { useTalk } from '~/stores/talk'

/** How large the picture is: so many lines in the deck's shape, or a size of its own. */
const recipe = defineModel<Recipe>({ required: true })
const talk = useTalk()

const shape = computed(() => talk.talk?.shape ?? { width: 16, height: 9 })
const options = computed<readonly { readonly value: Lines | 'own'; readonly say: string; readonly hint: string }[]>(() => [
  ...LINES.map((value) => {
    const size = videoSize(shape.value, value)
    return { value, say: `${String(value)} lines`, hint: `${String(size.width)} by ${String(size.height)} pixels` }
  }),
  { value: 'own', say: 'a size of its own', hint: 'upright for telephones, square, or what a form asks for' },
])
const FITS = [
  { value: 'bars', say: 'bars beside the slides', hint: 'all of each slide is seen' },
  { value: 'fill', say: 'slides that fill it', hint: 'their edges may be lost' },
] as const
/** Upright, as telephones are held. */
const FIRST: OwnSize = { width: 1080, height: 1920, fit: 'bars' }
const LEAST = 160
const MOST = 3840

function choose(value: Lines | 'own'): void {
  recipe.value = value === 'own' ? { ...recipe.value, size: FIRST } : { ...recipe.value, size: null, lines: value }
}
function setSide(side: 'width' | 'height', text: string): void {
  const { size } = recipe.value
  const pixels = Math.round(Number(text) / 2) * 2
  if (size !== null && Number.isFinite(pixels))
    recipe.value = { ...recipe.value, size: { ...size, [side]: Math.min(MOST, Math.max(LEAST, pixels)) } }
}
</script>

<template>
  <template v-if="recipe.size === null"
    ><WordChoice :model-value="recipe.lines" :options="options" label="Resolution" @update:model-value="choose($event)"
  /></template>
  <template v-else>
    <WordChoice model-value="own" :options="options" say="a picture of" label="Resolution" @update:model-value="choose($event)" />{{ ' '
    }}<span class="side"
      ><DraftInput
        :model-value="String(recipe.size.width)"
        inputmode="numeric"
        :size="String(recipe.size.width).length"
        aria-label="Width in pixels"
        @update:model-value="setSide('width', $event)"
    /></span>
    by
    <span class="side"
      ><DraftInput
        :model-value="String(recipe.size.height)"
        inputmode="numeric"
        :size="String(recipe.size.height).length"
        aria-label="Height in pixels"
        @update:model-value="setSide('height', $event)" /></span
    >,
    <WordChoice
      :model-value="recipe.size.fit"
      :options="FITS"
      label="Fit"
      @update:model-value="recipe.size && (recipe = { ...recipe, size: { ...recipe.size, fit: $event } })"
    />
  </template>
</template>

<style scoped>
.side {
  color: var(--brand);
  font-weight: 640;
  border-bottom: 2px dashed var(--brand);
}
.side input {
  min-width: 1em;
  padding: 0;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  field-sizing: content;
}
</style>
