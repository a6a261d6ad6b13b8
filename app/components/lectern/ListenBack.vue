<script setup lang="ts">
import type { Ms } from '@core/model'
import type { HeardPart } from '~/capture'
import { useListenBack } from '~/composables/useListenBack'
import { useLectern } from '~/stores/lectern'
import { duration, preciseDuration } from '~/words'

/** While a take is paused: hear the last of it, say it again, or go on from a chosen place. */
const LAST: Ms = 10_000
/** What is offered to go back into at first; earlier parts are a click away. */
const WINDOW: Ms = 30_000
const lectern = useLectern()
const parts = shallowRef<readonly HeardPart[]>([])
const length = ref<Ms>(0)
const slideFrom = ref<Ms>(0)
const from = ref<Ms>(0)
const { at, playing, play, pause } = useListenBack(
  () => parts.value,
  () => length.value,
)
const chosen = computed(() => Math.round(at.value))
const silent = computed(() => lectern.plan.mode === 'silent')

onMounted(async () => {
  const soFar = await lectern.soFar()
  parts.value = soFar.parts
  length.value = soFar.length
  slideFrom.value = soFar.slideSince
  at.value = soFar.length
  from.value = Math.max(0, Math.min(soFar.slideSince, soFar.length - WINDOW))
})

function hear(start: Ms): void {
  from.value = Math.min(from.value, start)
  void play(start)
}
function choose(event: Event): void {
  pause()
  if (event.target instanceof HTMLInputElement) at.value = Number(event.target.value)
}
</script>

<template>
  <section v-if="length > 0" class="back" aria-label="Hear and say again">
    <template v-if="!silent">
      <button class="press small" @click="playing ? pause() : hear(Math.max(0, length - LAST))">
        {{ playing ? 'Stop' : 'Hear the last 10 s' }}
      </button>
      <button class="press small" :disabled="playing" @click="hear(slideFrom)">Hear this slide</button>
    </template>
    <button v-if="from > 0" class="press quiet small" title="Show more of what came before" @click="from = Math.max(0, from - 60000)">
      ← earlier
    </button>
    <label class="place">
      <span class="clock">{{ preciseDuration(chosen) }}</span>
      <input type="range" :min="from" :max="length" step="100" :value="chosen" aria-label="Place to go on from" @input="choose" />
      <span class="clock soft">{{ duration(length) }}</span>
    </label>
    <button class="press small" :disabled="chosen >= length - 200" @click="lectern.goOnFrom(chosen)">
      Go on from <span class="clock">{{ preciseDuration(chosen) }}</span>
    </button>
    <button class="press small" @click="lectern.goOnFrom(slideFrom)">Say this slide again</button>
  </section>
</template>

<style scoped>
.back {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 8px 12px;
  border: 1px solid var(--accent);
  border-radius: 6px;
  background: var(--card);
}
.place {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 120px;
  font-size: 14px;
}
.place input {
  flex: 1;
  min-width: 60px;
  accent-color: var(--accent);
}
.press {
  white-space: nowrap;
}
</style>
