<script setup lang="ts">
import { LINES, QUALITIES } from '@core/model'
import type { LimitRule, Ms, Quality, Recipe } from '@core/model'
import { videoSize } from '@core/plan'
import type { EstimateView } from '@contracts'
import { useTalk } from '~/stores/talk'
import { duration, fileSize, roughTime } from '~/words'

/** What file is wanted, as a sentence whose words can be exchanged. */
const recipe = defineModel<Recipe>({ required: true })
defineProps<{ estimate: EstimateView | null }>()
const talk = useTalk()

const lines = LINES.map((value) => {
  const size = videoSize(talk.talk?.shape ?? { width: 16, height: 9 }, value)
  return { value, say: `${String(value)} lines`, hint: `${String(size.width)} by ${String(size.height)} pixels` }
})
const QUALITY_HINT: Readonly<Record<Quality, string>> = {
  small: 'for slow lines and strict size limits', good: 'for most uses', fine: 'for large screens and fine drawings',
}
const qualities = QUALITIES.map((value) => ({ value, say: value, hint: QUALITY_HINT[value] }))
const limit = computed<Ms>(() => (recipe.value.limit.kind === 'none' ? talk.talk?.limit ?? 600_000 : recipe.value.limit.limit))
const rules = computed(() => [
  { value: 'hold', say: `never over ${duration(limit.value)}`, hint: 'a film that is longer is refused' },
  { value: 'warn', say: 'as long as it is, limit or not', hint: 'the file is made as it is and says how far over it is' },
  { value: 'none', say: 'as long as it is', hint: 'no limit is looked at' },
] as const)

function setRule(kind: LimitRule['kind']): void {
  recipe.value = { ...recipe.value, limit: kind === 'none' ? { kind } : { kind, limit: limit.value } }
}

function setName(event: Event): void {
  const field = event.target as HTMLInputElement
  const name = field.value.trim().replace(/\.mp4$/i, '')
  if (name === '') field.value = recipe.value.name
  else recipe.value = { ...recipe.value, name }
}
const rule = computed(() => rules.value.find((one) => one.value === recipe.value.limit.kind)?.say ?? '')
</script>

<template>
  <p class="sentence">
    An <b>MP4</b> of
    <WordChoice :model-value="recipe.lines" :options="lines" :say="`${recipe.lines} lines`" label="Resolution" @update:model-value="recipe = { ...recipe, lines: $event }" />,
    <WordChoice :model-value="recipe.quality" :options="qualities" :say="recipe.quality" label="Quality" @update:model-value="recipe = { ...recipe, quality: $event }" /> quality,
    <WordChoice :model-value="recipe.limit.kind" :options="rules" :say="rule" label="Limit" @update:model-value="setRule($event)" />,
    named <span class="name"><input :value="recipe.name" aria-label="File name" :size="Math.max(8, recipe.name.length)" maxlength="120" @change="setName">.mp4</span><template v-if="estimate">,
      about {{ fileSize(estimate.bytes) }}, ready in {{ roughTime(estimate.time) }}</template>.
  </p>
</template>

<style scoped>
.sentence { font: 400 25px/1.65 var(--display); }
.sentence b { font-weight: 640; }
.name { color: var(--brand); font-weight: 640; border-bottom: 2px dashed var(--brand); }
.name input { max-width: 100%; padding: 0; border: 0; background: transparent; color: inherit; font: inherit; field-sizing: content; }
</style>
