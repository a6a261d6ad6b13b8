<script setup lang="ts">
import { BED_GAIN, LONGEST_FADE, MOST_WORDS_OVER } from '@core/model'
import type { Bed, Ms } from '@core/model'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'

/** How a piece of music is played under the talk. */
const props = defineProps<{ item: Extract<DressedItem, { kind: 'music' }> }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const dressing = useDressing()
const bed = computed(() => props.item.hung)
const set = (fields: Partial<Bed>): void => {
  dressing.change(props.item, fields)
}
const HEARD = [
  { value: 'under', say: 'under the voice', hint: 'softer while somebody speaks; it opens in pauses of over a second and a half' },
  { value: 'instead', say: 'in place of the voice', hint: 'nothing is heard of what is said meanwhile' },
]
const AGAIN = [
  { value: 'again', say: 'again and again', hint: 'its end passes into its beginning' },
  { value: 'once', say: 'once', hint: '' },
]
/** What is less is hardly heard, in ms. */
const LEAST_HEARD = 1000
const times = computed(
  () =>
    [
      { key: 'fadeIn', before: 'comes in', after: 's', name: 'Seconds in which it comes', most: LONGEST_FADE, step: 0.5 },
      { key: 'fadeOut', before: 'goes in', after: 's', name: 'Seconds in which it goes', most: LONGEST_FADE, step: 0.5 },
      {
        key: 'from',
        before: 'from',
        after: 's of its file',
        name: 'Second of its file from which it is heard',
        most: Math.max(0, bed.value.media.length - LEAST_HEARD),
        step: 1,
      },
    ] as const,
)
</script>

<template>
  <DressedCard :item="item" :name="bed.name" :before="0" role="group" :aria-label="`Music: ${bed.name}`" @go="emit('go', $event)">
    <p>
      It is heard
      <WordChoice
        :model-value="bed.instead ? 'instead' : 'under'"
        :options="HEARD"
        label="Where it is heard"
        @update:model-value="set({ instead: $event === 'instead' })"
      />,
      <WordChoice
        :model-value="bed.repeat ? 'again' : 'once'"
        :options="AGAIN"
        label="How often"
        @update:model-value="set({ repeat: $event === 'again' })"
      />.
      <button v-if="bed.length !== null" class="press quiet small" @click="set({ length: null })">To the end of the talk</button>
    </p>
    <SpeechLoudness :gain="bed.gain" :range="BED_GAIN" label="How loud it is where nobody speaks" @change="set({ gain: $event })" />
    <p class="wrapped times">
      <label v-for="{ key, before, after, name, most, step } in times" :key="key"
        >{{ before }}
        <SecondsField
          :model-value="bed[key]"
          :least="0"
          :most="most"
          :step="step"
          :aria-label="name"
          @update:model-value="set({ [key]: $event })"
        />
        {{ after }}</label
      >
    </p>
    <AskedWords
      label="Where it is from"
      :model-value="bed.credit"
      :maxlength="MOST_WORDS_OVER.credit"
      placeholder="Who made it, and who let you use it; a closing card set after this says so"
      @update:model-value="set({ credit: $event })"
    />
  </DressedCard>
</template>

<style scoped>
.times .el-input-number {
  width: 92px;
}
</style>
