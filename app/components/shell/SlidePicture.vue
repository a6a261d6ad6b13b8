<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { objectsAt } from '@core/objects'
import { paintObject, paintPicture } from '@core/paint'
import type { Picture, Slide } from '@core/model'
import { assetUrl, mediaUrl } from '~/client'
import { usePictures } from '~/composables/usePictures'

/**
 * What a step shows, as large as its place: a stored picture, or a slide made here, drawn. Its files are the talk's own, or those of a
 * screening, by the path of its media.
 */
const props = defineProps<{
  talkId?: string
  media?: string
  picture: Picture
  alt: string
  large?: boolean
  /** The slide that it belongs to, for what is drawn on that; the step left out: its last. */
  drawn?: { readonly slide: Slide; readonly step?: number }
}>()
const urlOf = (digest: string): string => (props.media === undefined ? assetUrl(props.talkId ?? '', digest) : mediaUrl(props.media, digest))
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(canvas)
const shelf = usePictures(
  urlOf,
  () => {
    paint()
  },
  props.large !== true,
)
const pixels = computed(() => {
  const ratio = import.meta.client ? Math.min(2, window.devicePixelRatio) : 1
  return { width: Math.max(1, Math.round(width.value * ratio)), height: Math.max(1, Math.round(height.value * ratio)) }
})
const objects = computed(() => {
  if (props.drawn === undefined) return []
  const { slide, step = slide.steps.length - 1 } = props.drawn
  return objectsAt(slide, step, Infinity, props.picture.size)
})
const file = computed(() => {
  if (props.picture.kind === 'composed' || objects.value.length > 0) return null
  return props.large === true ? props.picture.screen : props.picture.thumb
})

function paint(): void {
  const ctx = canvas.value?.getContext('2d')
  if (ctx == null || file.value !== null) return
  paintPicture<CanvasImageSource>(ctx, props.picture, pixels.value, shelf)
  for (const object of objects.value) paintObject<CanvasImageSource>(ctx, object, pixels.value, shelf)
}
watch(
  [pixels, () => props.picture, objects, canvas],
  () => {
    void nextTick(paint)
  },
  { immediate: true },
)
</script>

<template>
  <img
    v-if="file !== null"
    :src="urlOf(file)"
    :alt="alt"
    loading="lazy"
    draggable="false"
    class="shown"
    :class="{ page: picture.kind === 'page' }"
  />
  <canvas
    v-else
    ref="canvas"
    class="shown"
    :role="alt === '' ? 'presentation' : 'img'"
    :aria-label="alt === '' ? undefined : alt"
    :width="pixels.width"
    :height="pixels.height"
    :style="{ aspectRatio: `${picture.size.width} / ${picture.size.height}` }"
  />
</template>

<style scoped>
.shown {
  display: block;
  width: 100%;
  object-fit: contain;
}
.page {
  background: #fff;
}
</style>
