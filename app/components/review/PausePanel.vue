<script setup lang="ts">
import { SHORTEST_PAUSE, tightened, trimmed } from '@core/pace'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { duration, preciseDuration } from '~/words'

/** Long pauses, and what is silent at either end: what goes, and how much that wins. */
const emit = defineEmits<{ go: [at: number] }>()
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
/** Pauses longer than this are listed, and this is left of each, in ms. */
const longer = ref(1200)
const rest = ref(600)

const outlines = computed(() => talk.film?.peaks ?? {})
const ends = computed(() => (talk.index === null ? [] : trimmed(talk.index.film, outlines.value)))
const pauses = computed(() => programmeEdits.pauses.filter((pause) => pause.to - pause.from > Math.max(SHORTEST_PAUSE, longer.value)))
const cuts = computed(() => pauses.value.flatMap((pause) => tightened(pause, rest.value) ?? []))
const sum = (parts: readonly { readonly from: number; readonly to: number }[]): number =>
  parts.reduce((all, part) => all + part.to - part.from, 0)
watch(longer, (value) => {
  if (rest.value > value) rest.value = value
})
</script>

<template>
  <section class="panel" aria-label="Pauses">
    <p v-if="ends.length > 0" class="line">
      <span
        >Silent before the first word and after the last: <b class="clock">{{ preciseDuration(sum(ends)) }}</b></span
      >
      <button class="press small" :disabled="programmeEdits.busy" @click="programmeEdits.edit({ kind: 'cut', parts: ends })">
        Trim both ends
      </button>
    </p>
    <p class="line">
      <label
        >Pauses longer than
        <SecondsField v-model="longer" :least="400" :most="20_000" :step="0.2" aria-label="Seconds from which a pause counts as long" />
        s</label
      >
      <label
        >down to
        <SecondsField v-model="rest" :least="200" :most="longer" :step="0.1" aria-label="Seconds that are left of a pause" />
        s</label
      >
    </p>
    <template v-if="pauses.length > 0">
      <ul class="listed short">
        <li v-for="pause in pauses" :key="pause.from">
          <button class="press quiet small" title="Play from two seconds before" @click="emit('go', Math.max(0, pause.from - 2000))">
            <span class="clock">{{ preciseDuration(pause.from) }}</span></button
          ><span class="soft"
            ><span class="clock">{{ preciseDuration(pause.to - pause.from) }}</span> of silence{{
              pause.edge === 'end' ? ' before the next slide' : pause.edge === 'begin' ? ' when the slide comes' : ''
            }}</span
          >
        </li>
      </ul>
      <button class="press" :disabled="programmeEdits.busy || cuts.length === 0" @click="programmeEdits.edit({ kind: 'cut', parts: cuts })">
        Shorten {{ cuts.length === 1 ? 'it' : `all ${cuts.length}` }}: {{ duration(sum(cuts)) }} won
      </button>
    </template>
    <p v-else class="soft">No pause is longer than that.</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.line .el-input-number {
  width: 96px;
}
</style>
