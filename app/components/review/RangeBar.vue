<script setup lang="ts">
import { pieceAt } from '@core/scene'
import { quietNear } from '@core/voice'
import type { Ms } from '@core/model'
import { intoSpan, sourceAt } from '@core/programme'
import type { Visit } from '@core/programme'
import { retakePath } from '~/composables/useRetakeWish'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { preciseDuration } from '~/words'

/** What can be done with a chosen part. */
const props = defineProps<{ range: { readonly from: Ms; readonly to: Ms }; visit: Visit }>()
defineEmits<{ play: []; loop: [] }>()
const programmeEdits = useProgrammeEdits()
const talk = useTalk()
/** Where a join near a time of the talk is heard least. */
function quiet(at: Ms): Ms {
  const found = talk.index === null ? null : pieceAt(talk.index, at)
  if (found === null || found.piece.kind === 'still' || found.piece.voice === null) return at
  const { voice } = found.piece
  const time = sourceAt(voice, found.into)
  const near = quietNear(talk.film?.peaks[voice.stretch] ?? [], time)
  return near <= voice.from || near >= voice.to ? at : at - found.into + intoSpan(voice, near)
}
/** To the Lectern, where this part is said again. */
const again = computed(() => {
  const inside = (at: Ms): Ms => Math.max(0, Math.min(props.visit.length, quiet(at) - props.visit.start))
  const [from, to] = [inside(props.range.from), inside(props.range.to)]
  return retakePath(talk.talk?.id ?? '', props.visit.id, { from, to })
})
const cut = (): void => {
  void programmeEdits.edit({ kind: 'cut', parts: [props.range] })
}
</script>

<template>
  <p class="bar" role="group" aria-label="The chosen part">
    <span class="clock">{{ preciseDuration(range.to - range.from) }}</span>
    <button class="press small" @click="$emit('play')">Play</button>
    <button class="press small" @click="$emit('loop')" title="Play it over and over">Loop</button>
    <button class="press small" :disabled="programmeEdits.busy" @click="cut">Cut</button>
    <NuxtLink class="press small" :to="again" title="Three seconds from before it are played to speak into">Say it again</NuxtLink>
    <button class="press quiet small" @click="programmeEdits.range = null">Let go</button>
  </p>
</template>

<style scoped>
/* Wider than its column: there is nothing beside it at this height. */
.bar {
  display: flex;
  gap: 5px;
  align-items: center;
  width: max-content;
  white-space: nowrap;
}
.bar .clock {
  padding-right: 4px;
  font-size: 14px;
}
</style>
