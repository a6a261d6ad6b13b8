<script setup lang="ts">
import { paintPicture } from '@core/paint'
import type { Picture, Size } from '@core/model'
import { assetUrl } from '~/client'
import { usePictures } from '~/composables/usePictures'

/** A slide as it was and as it is in another deck, what differs marked on the second. */
const props = defineProps<{ talkId: string; was: Picture; is: Picture; shape: Size }>()
const [before, after] = [ref<HTMLCanvasElement | null>(null), ref<HTMLCanvasElement | null>(null)]
const shelf = usePictures(
  (digest) => assetUrl(props.talkId, digest),
  () => {
    paint()
  },
)
const size = computed<Size>(() => ({ width: 640, height: Math.round((640 * props.shape.height) / props.shape.width) }))
/** How unlike two pixels must be, as a sum over red, green and blue, to be marked. */
const UNLIKE = 60

function draw(canvas: HTMLCanvasElement | null, picture: Picture): CanvasRenderingContext2D | null {
  const ctx = canvas?.getContext('2d', { willReadFrequently: true }) ?? null
  if (ctx !== null) paintPicture<CanvasImageSource>(ctx, picture, size.value, shelf)
  return ctx
}

function paint(): void {
  const [left, right] = [draw(before.value, props.was), draw(after.value, props.is)]
  if (left === null || right === null) return
  const { width, height } = size.value
  const [a, b] = [left.getImageData(0, 0, width, height), right.getImageData(0, 0, width, height)]
  for (let at = 0; at < b.data.length; at += 4) {
    const apart = [0, 1, 2].reduce((sum, channel) => sum + Math.abs((a.data[at + channel] ?? 0) - (b.data[at + channel] ?? 0)), 0)
    if (apart < UNLIKE) continue
    // Marigold over what is there.
    for (const [channel, colour] of [240, 168, 40].entries())
      b.data[at + channel] = Math.round((b.data[at + channel] ?? 0) * 0.35 + colour * 0.65)
  }
  right.putImageData(b, 0, 0)
}
watch(
  [() => props.was, () => props.is, before, after, size],
  () => {
    void nextTick(paint)
  },
  { immediate: true },
)
</script>

<template>
  <figure>
    <canvas ref="before" :width="size.width" :height="size.height" role="img" aria-label="The slide as it is now" />
    <figcaption class="soft">in the deck you have</figcaption>
  </figure>
  <figure>
    <canvas ref="after" :width="size.width" :height="size.height" role="img" aria-label="The slide in the new deck, what differs marked" />
    <figcaption class="soft">in the new deck, with what differs marked</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
canvas {
  display: block;
  max-width: 100%;
  max-height: 27vh;
  border: 1px solid var(--line);
  background: var(--card);
}
figcaption {
  font-size: 13.5px;
}
</style>
