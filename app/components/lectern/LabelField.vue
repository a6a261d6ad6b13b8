<script setup lang="ts">
import { LONGEST_LABEL } from '@core/model'
import type { Point } from '@core/model'
import { newLabel } from '~/capture'
import { useLectern } from '~/stores/lectern'

/** Words being typed onto the slide. Enter sets them down, Escape leaves them. */
const props = defineProps<{ at: Point }>()
const emit = defineEmits<{ done: [] }>()
const lectern = useLectern()
const text = ref('')
const field = ref<HTMLInputElement | null>(null)
const slide = lectern.slide?.id

function set(stamp: number): void {
  const words = text.value.trim()
  text.value = ''
  // It belongs to the slide that was clicked, even when the talk has gone on since.
  if (words !== '' && slide !== undefined) lectern.draw(newLabel(slide, words, lectern.colour, lectern.width, props.at), stamp)
  emit('done')
}
onMounted(() => {
  field.value?.focus()
})
</script>

<template>
  <input
    ref="field"
    v-model="text"
    class="label"
    :style="{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }"
    :maxlength="LONGEST_LABEL"
    aria-label="Label"
    placeholder="Type, then Enter"
    @keydown.enter.prevent="set($event.timeStamp)"
    @keydown.esc.stop.prevent="emit('done')"
    @blur="set($event.timeStamp)"
    @pointerdown.stop
    @click.stop
  />
</template>

<style scoped>
.label {
  position: absolute;
  z-index: 2;
  transform: translateY(-50%);
  width: 14em;
  max-width: 60%;
  padding: 4px 8px;
  border: 2px solid var(--brand);
  border-radius: 4px;
  background: #fffdf8;
  color: #1d2a29;
  font: 600 18px var(--read);
}
</style>
