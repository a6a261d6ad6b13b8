<script setup lang="ts">
import type { Ms } from '@core/model'
import type { Slip } from '@core/words'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useSaid } from '~/stores/said'
import { duration, preciseDuration } from '~/words'

/** What was said by mistake, found in what is said: each can be heard with and without, and cut by itself or with the others. */
const emit = defineEmits<{ with: [slip: Slip]; without: [slip: Slip] }>()
const said = useSaid()
const edits = useProgrammeEdits()
const KINDS = { again: 'begun again', filler: 'filler', hesitation: 'hesitation', noise: 'uh, a cough or the like' } as const
/** Those that stay, by when they begin. */
const kept = ref<ReadonlySet<Ms>>(new Set())
const chosen = computed(() => said.slips.filter(({ from }) => !kept.value.has(from)))
const won = (slips: readonly Slip[]): Ms => slips.reduce((sum, { from, to }) => sum + to - from, 0)
function toggle({ from }: Slip): void {
  const next = new Set(kept.value)
  if (!next.delete(from)) next.add(from)
  kept.value = next
}
const cut = (slips: readonly Slip[]): Promise<void> => edits.edit({ kind: 'cut', parts: slips.map(({ from, to }) => ({ from, to })) })
</script>

<template>
  <section class="panel" aria-label="Slips">
    <p v-if="said.words.length === 0" class="soft">What is said is not known yet: have it listened to under <i>Words</i>.</p>
    <p v-else-if="said.slips.length === 0" class="soft">Nothing was begun again, no filler, no hesitation inside a sentence, no cough.</p>
    <template v-else>
      <ul class="listed short">
        <li v-for="slip in said.slips" :key="slip.from">
          <input
            type="checkbox"
            :checked="!kept.has(slip.from)"
            :aria-label="`Cut “${slip.words}” at ${preciseDuration(slip.from)}`"
            @change="toggle(slip)"
          />
          <span class="clock">{{ preciseDuration(slip.from) }}</span>
          <span class="words"
            >“{{ slip.words }}” <span class="soft">{{ KINDS[slip.kind] }}, {{ preciseDuration(slip.to - slip.from) }}</span></span
          >
          <button class="press quiet small" title="As it is" @click="emit('with', slip)">With</button>
          <button class="press quiet small" title="As it would be" @click="emit('without', slip)">Without</button>
          <button class="press quiet small" :disabled="edits.busy" @click="cut([slip])">Cut</button>
        </li>
      </ul>
      <button class="press" :disabled="edits.busy || chosen.length === 0" @click="cut(chosen)">
        Cut {{ chosen.length === 1 ? 'the one' : `the ${chosen.length}` }} that {{ chosen.length === 1 ? 'is' : 'are' }} ticked:
        {{ duration(won(chosen)) }} won
      </button>
    </template>
  </section>
</template>

<style scoped>
.panel {
  justify-items: start;
}
ul {
  max-height: 240px;
}
li input {
  width: 16px;
  height: 16px;
  margin: 0;
  accent-color: var(--brand);
}
.words {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
</style>
