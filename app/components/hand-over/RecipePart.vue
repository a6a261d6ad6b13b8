<script setup lang="ts">
import type { Ms, Recipe, SlideId } from '@core/model'
import { useTalk } from '~/stores/talk'
import { duration, readDuration } from '~/words'

/** Which part of the talk a file is of, where that is not all of it. */
const recipe = defineModel<Recipe>({ required: true })
const props = defineProps<{ length: Ms }>()
const talk = useTalk()

const range = computed(() => (recipe.value.part.kind === 'range' ? recipe.value.part : null))
function setTime(which: 'from' | 'to', text: string): void {
  if (range.value === null) return
  const said = readDuration(text)
  const { from, to } = range.value
  const within = (time: Ms): Ms => (which === 'from' ? Math.min(time, to - 1000) : Math.min(props.length, Math.max(time, from + 1000)))
  const at = said === null ? range.value[which] : within(said)
  recipe.value = { ...recipe.value, part: { ...range.value, [which]: Math.max(0, at) } }
}
const chosen = computed(() => (recipe.value.part.kind === 'slides' ? recipe.value.part.slides : []))
function setSlides(ids: readonly SlideId[]): void {
  if (ids.length > 0)
    recipe.value = { ...recipe.value, part: { kind: 'slides', slides: talk.slides.flatMap(({ id }) => (ids.includes(id) ? [id] : [])) } }
}
</script>

<template>
  <p v-if="range" class="part">
    <label
      >From
      <DraftInput
        :model-value="duration(range.from)"
        class="clock"
        size="7"
        aria-label="From"
        @update:model-value="setTime('from', $event)"
    /></label>
    <label
      >to <DraftInput :model-value="duration(range.to)" class="clock" size="7" aria-label="To" @update:model-value="setTime('to', $event)"
    /></label>
    <span class="soft"
      >of <span class="clock">{{ duration(length) }}</span></span
    >
  </p>
  <div v-else-if="recipe.part.kind === 'slides'" class="part">
    <el-select
      :model-value="chosen"
      multiple
      filterable
      collapse-tags
      :max-collapse-tags="3"
      aria-label="Slides"
      class="slides"
      @update:model-value="setSlides($event)"
    >
      <el-option v-for="(slide, n) in talk.slides" :key="slide.id" :value="slide.id" :label="`${n + 1} ${slide.title || 'Untitled'}`" />
    </el-select>
  </div>
</template>

<style scoped>
.part {
  display: flex;
  gap: 12px;
  align-items: center;
}
.part input {
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: inherit;
  font-size: 16px;
}
.slides {
  width: 100%;
}
</style>
