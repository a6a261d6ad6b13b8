<script setup lang="ts">
import { BED_GAIN, LONGEST_FADE, MOST_WORDS_OVER } from '@core/model'
import type { Bed, Ms } from '@core/model'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'
import { preciseDuration } from '~/words'

/** How a piece of music is played under the talk. */
const props = defineProps<{ item: Extract<DressedItem, { kind: 'music' }> }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const dressing = useDressing()
const bed = computed(() => props.item.hung)
const set = (fields: Partial<Bed>): void => {
  dressing.change(props.item, fields)
}
const loudness = computed(() => {
  const { gain } = bed.value
  return gain === 0 ? 'as loud as speech' : `${String(Math.abs(gain))} dB ${gain < 0 ? 'softer' : 'louder'} than speech`
})
const HEARD = [
  { value: 'under', say: 'under the voice', hint: 'softer while somebody speaks; it opens in pauses of over a second and a half' },
  { value: 'instead', say: 'in place of the voice', hint: 'nothing is heard of what is said meanwhile' },
]
const AGAIN = [
  { value: 'again', say: 'again and again', hint: 'its end passes into its beginning' },
  { value: 'once', say: 'once', hint: '' },
]
const SECOND = 1000
</script>

<template>
  <div class="fields" role="group" :aria-label="`Music: ${bed.name}`">
    <p class="line">
      <b class="name" :title="bed.name">{{ bed.name }}</b>
      <button class="press quiet small" title="Play from just before" @click="emit('go', Math.max(0, item.from))">
        <span class="clock">{{ preciseDuration(Math.max(0, item.from)) }} – {{ preciseDuration(item.to) }}</span>
      </button>
      <span class="gap" />
      <button class="press quiet small danger" @click="dressing.remove(item.id)">Take off</button>
    </p>
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
    <label class="loud"
      ><span>{{ loudness }}</span>
      <NumberSlider
        :model-value="bed.gain"
        :min="BED_GAIN.least"
        :max="BED_GAIN.most"
        :step="1"
        :show-tooltip="false"
        aria-label="How loud it is where nobody speaks"
        @change="set({ gain: $event })"
      />
    </label>
    <p class="line">
      <label
        >comes in
        <el-input-number
          :model-value="bed.fadeIn / SECOND"
          :min="0"
          :max="LONGEST_FADE / SECOND"
          :step="0.5"
          :precision="1"
          size="small"
          aria-label="Seconds in which it comes"
          @change="set({ fadeIn: Math.round(($event ?? 0) * SECOND) })"
        />
        s</label
      >
      <label
        >goes in
        <el-input-number
          :model-value="bed.fadeOut / SECOND"
          :min="0"
          :max="LONGEST_FADE / SECOND"
          :step="0.5"
          :precision="1"
          size="small"
          aria-label="Seconds in which it goes"
          @change="set({ fadeOut: Math.round(($event ?? 0) * SECOND) })"
        />
        s</label
      >
      <label
        >from
        <el-input-number
          :model-value="bed.from / SECOND"
          :min="0"
          :max="Math.max(0, (bed.media.length - 1000) / SECOND)"
          :step="1"
          :precision="1"
          size="small"
          aria-label="Second of its file from which it is heard"
          @change="set({ from: Math.round(($event ?? 0) * SECOND) })"
        />
        s of its file</label
      >
    </p>
    <label class="asked"
      >Where it is from
      <DraftInput
        class="field"
        :model-value="bed.credit"
        :maxlength="MOST_WORDS_OVER.credit"
        placeholder="Who made it, and who let you use it; a closing card set after this says so"
        @update:model-value="set({ credit: $event })"
    /></label>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--accent);
  border-radius: 6px;
  background: var(--card);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}
.line .el-input-number {
  width: 92px;
}
.name {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.gap {
  flex: 1;
}
.loud {
  display: grid;
  grid-template-columns: 190px 1fr;
  gap: 12px;
  align-items: center;
  padding-right: 10px;
  font-size: 14px;
}
.field {
  width: 100%;
  padding: 6px 9px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--ground);
  font-weight: 400;
}
</style>
