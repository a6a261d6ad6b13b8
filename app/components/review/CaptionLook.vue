<script setup lang="ts">
import type { CaptionStyle } from '@core/model'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useSaid } from '~/stores/said'

/** What captions on the picture look like, as a sentence whose words can be exchanged. */
const said = useSaid()
const programmeEdits = useProgrammeEdits()

interface Choice<Value> {
  readonly value: Value
  readonly say: string
  readonly hint: string
}
const SIZES: readonly Choice<CaptionStyle['size']>[] = [
  { value: 'small', say: 'small', hint: 'for large screens' },
  { value: 'usual', say: 'of usual size', hint: '' },
  { value: 'large', say: 'large', hint: 'for phones and the back row' },
]
const PLACES: readonly Choice<CaptionStyle['place']>[] = [
  { value: 'free', say: 'where they hide nothing', hint: 'off the face and the words of the slide, else in a strip below' },
  { value: 'foot', say: 'at the foot', hint: 'over whatever is there but the face' },
  { value: 'head', say: 'at the head', hint: 'over whatever is there but the face' },
  { value: 'strip', say: 'in a strip below', hint: 'the slide makes room for it' },
]
const GROUNDS: readonly Choice<CaptionStyle['ground']>[] = [
  { value: 'dark', say: 'on a dark plate', hint: '' },
  { value: 'light', say: 'on a light plate', hint: '' },
  { value: 'none', say: 'without a plate', hint: 'letters with a dark edge' },
]

function set(change: Partial<CaptionStyle>): void {
  void programmeEdits.edit({ kind: 'captions', style: { ...said.captionStyle, ...change } })
}
</script>

<template>
  <p>
    They are
    <WordChoice
      :model-value="said.captionStyle.size"
      :options="SIZES"
      label="Size of captions"
      @update:model-value="set({ size: $event })"
    />,
    <WordChoice
      :model-value="said.captionStyle.place"
      :options="PLACES"
      label="Place of captions"
      @update:model-value="set({ place: $event })"
    />,
    <WordChoice
      :model-value="said.captionStyle.ground"
      :options="GROUNDS"
      label="Ground of captions"
      @update:model-value="set({ ground: $event })"
    />.
  </p>
</template>
