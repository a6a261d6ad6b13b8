<script setup lang="ts">
import { QUALITIES } from '@core/model'
import type { BitsRule, Quality, Recipe } from '@core/model'

/** How fine the picture is: in a word, or by what it may take. */
const recipe = defineModel<Recipe>({ required: true })

const HINT: Readonly<Record<Quality, string>> = {
  small: 'for slow lines',
  good: 'for most uses',
  fine: 'for large screens and fine drawings',
}
type Choice = Quality | 'rate' | 'size'
const options: readonly { readonly value: Choice; readonly say: string; readonly hint: string }[] = [
  ...QUALITIES.map((value) => ({ value, say: `of ${value} quality`, hint: HINT[value] })),
  { value: 'rate', say: 'of at most so many kbit a second', hint: 'as fine as that allows' },
  { value: 'size', say: 'under a size', hint: 'nine tenths of it or more, never a byte over; takes longer' },
]
/** What is proposed first, and what stays within what is allowed. */
const FIRST = { rate: 2500, size: 100_000_000 } as const
const BOUNDS = { rate: { least: 100, most: 50_000 }, size: { least: 0.05, most: 20_000 } } as const
const MEGABYTE = 1_000_000

const choice = computed<Choice>(() => (recipe.value.bits.kind === 'free' ? recipe.value.quality : recipe.value.bits.kind))
function choose(value: Choice): void {
  recipe.value =
    value === 'rate' || value === 'size'
      ? { ...recipe.value, bits: { kind: value, most: FIRST[value] } }
      : { ...recipe.value, quality: value, bits: { kind: 'free' } }
}
const amount = computed(() => {
  const { bits } = recipe.value
  if (bits.kind === 'free') return 0
  return bits.kind === 'size' ? bits.most / MEGABYTE : bits.most
})
function setAmount(text: string): void {
  const { bits } = recipe.value
  if (bits.kind === 'free') return
  const { least, most } = BOUNDS[bits.kind]
  const value = Math.min(most, Math.max(least, Number(text.replace(',', '.')) || amount.value))
  const next: BitsRule = { kind: bits.kind, most: Math.round(bits.kind === 'size' ? value * MEGABYTE : value) }
  recipe.value = { ...recipe.value, bits: next }
}
const say = computed(() => {
  const { bits, quality } = recipe.value
  if (bits.kind === 'free') return `of ${quality} quality`
  return bits.kind === 'size' ? 'under' : 'of at most'
})
</script>

<template>
  <WordChoice :model-value="choice" :options="options" :say="say" label="Quality" @update:model-value="choose($event)" /><template
    v-if="recipe.bits.kind !== 'free'"
    >{{ ' '
    }}<span class="amount"
      ><DraftInput
        :model-value="String(amount)"
        inputmode="decimal"
        :size="String(amount).length"
        :aria-label="recipe.bits.kind === 'size' ? 'Size in MB' : 'Rate in kbit a second'"
        @update:model-value="setAmount"
      />
      {{ recipe.bits.kind === 'size' ? 'MB' : 'kbit a second' }}</span
    ></template
  >
</template>

<style scoped>
.amount {
  color: var(--brand);
  font-weight: 640;
  border-bottom: 2px dashed var(--brand);
}
.amount input {
  min-width: 1em;
  padding: 0;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  field-sizing: content;
}
</style>
