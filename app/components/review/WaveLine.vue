<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { PEAKS_A_SECOND } from '@core/voice'

/** The outline of a part of the voice, drawn on a canvas. */
const props = defineProps<{
  parts: readonly { readonly peaks: readonly number[]; readonly from: number; readonly to: number }[]
  /** How much of it has been played, 0 to 1. */
  played: number
}>()
const canvas = ref<HTMLCanvasElement | null>(null)
const { width } = useElementSize(canvas)
const HEIGHT = 34
const values = computed(() =>
  props.parts.flatMap((part) =>
    part.peaks.slice(Math.floor((part.from / 1000) * PEAKS_A_SECOND), Math.ceil((part.to / 1000) * PEAKS_A_SECOND)),
  ),
)

function draw(): void {
  const ctx = canvas.value?.getContext('2d')
  if (ctx == null || width.value === 0) return
  const bars = Math.max(1, Math.floor(width.value / 3))
  const style = getComputedStyle(canvas.value as Element)
  ctx.clearRect(0, 0, width.value, HEIGHT)
  for (let bar = 0; bar < bars; bar += 1) {
    const from = Math.floor((bar * values.value.length) / bars)
    const to = Math.max(from + 1, Math.floor(((bar + 1) * values.value.length) / bars))
    const most = Math.max(0, ...values.value.slice(from, to)) / 255
    const height = Math.max(1.5, Math.sqrt(most) * (HEIGHT - 2))
    ctx.fillStyle = style.getPropertyValue(bar / bars < props.played ? '--accent' : '--brand')
    ctx.fillRect(bar * 3, (HEIGHT - height) / 2, 2, height)
  }
}
watch(
  [canvas, width, values, () => props.played],
  () => {
    void nextTick(draw)
  },
  { immediate: true },
)
</script>

<template>
  <canvas ref="canvas" class="wave" :width="Math.max(1, Math.round(width))" :height="HEIGHT" aria-hidden="true" />
</template>

<style scoped>
.wave {
  display: block;
  width: 100%;
  height: 34px;
}
</style>
