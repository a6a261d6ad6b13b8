<script setup lang="ts">
import { spokenLines } from '@core/markup'
import { useLectern } from '~/stores/lectern'

/** The notes, three lines high, right under the camera: the line that is due bright, its neighbours dim. */
const lectern = useLectern()
const whole = defineModel<boolean>('whole', { required: true })
const size = ref(28)
const due = ref(0)

/** A line is a sentence or a pause. */
const lines = computed(() => spokenLines(lectern.slide?.notes ?? ''))
watch(() => lectern.slide?.id, () => { due.value = 0 })
const shown = computed(() => [-1, 0, 1].map((by) => ({ by, line: lines.value[due.value + by] })))

function move(by: number): void {
  due.value = Math.max(0, Math.min(lines.value.length - 1, due.value + by))
}
function grow(by: number): void {
  size.value = Math.max(22, Math.min(48, size.value + by))
}
defineExpose({ move, grow })
</script>

<template>
  <section class="band" aria-label="Notes" :style="{ fontSize: `${size}px` }">
    <p v-if="lines.length === 0" class="none soft">No notes on this slide.</p>
    <div v-else-if="whole" class="whole" tabindex="0">
      <p v-for="(line, n) in lines" :key="n" :class="{ due: n === due }" @click="due = n"><SpokenWords :line="line" /></p>
    </div>
    <template v-else>
      <p v-for="{ by, line } in shown" :key="by" :class="{ due: by === 0 }"><SpokenWords v-if="line" :line="line" /></p>
    </template>
  </section>
</template>

<style scoped>
.band { display: grid; align-content: center; min-height: 118px; max-width: 980px; margin: 0 auto; padding: 4px 24px; text-align: center; line-height: 1.25; }
.band > p { overflow: hidden; white-space: nowrap; text-overflow: ellipsis; color: color-mix(in srgb, var(--text) 58%, var(--ground)); font-size: 0.78em; }
.band > p.due { color: var(--text); font-size: 1em; font-weight: 600; white-space: normal; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; }
.band > p.none { font-size: 16px; }
.whole { max-height: 46vh; overflow-y: auto; text-align: left; }
.whole p { padding: 2px 0; color: var(--soft); cursor: pointer; }
.whole p.due { color: var(--text); font-weight: 600; }
</style>
