<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { paintScene, paintStroke } from '@core/paint'
import { WHOLE } from '@core/layout'
import { clipsOn, sceneOfScreen } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { Slide } from '@core/model'
import { assetUrl } from '~/client'
import { useClipPlayers } from '~/composables/useClipPlayers'
import { useLiveWindow } from '~/composables/useLiveWindow'
import { useProjected } from '~/composables/useProjector'
import type { Projected } from '~/composables/useProjector'
import { windowOfOpener } from '~/lectern/shared-window'
import { useTalk } from '~/stores/talk'

/** The slide alone, clean, with its ink: for a projector or a shared screen. */
const route = useRoute()
const talk = useTalk()
const id = String(route.params['talk'])
void talk.open(id)
useHead({ title: () => `${talk.talk?.name ?? 'Aisle Talk'} · slides` })

const shown = useProjected(id)
const room = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(room)
const size = computed(() => {
  const shape = talk.talk?.shape ?? { width: 16, height: 9 }
  const scale = Math.min(width.value / shape.width, height.value / shape.height)
  const ratio = window.devicePixelRatio
  const box = { width: Math.floor(shape.width * scale), height: Math.floor(shape.height * scale) }
  return { box, pixels: { width: Math.max(1, Math.round(box.width * ratio)), height: Math.max(1, Math.round(box.height * ratio)) } }
})
const urlOf = (digest: string): string => assetUrl(id, digest)
const repaint = (): void => {
  paint()
}
const { follow, ...players } = useClipPlayers(urlOf, repaint)
/** Asked for anew whenever one is shown: another may be by then. */
const picture = (): MediaStreamTrack | null => (shown.value?.window === true ? windowOfOpener() : null)
const { live, withLive } = useLiveWindow(picture, () => shown.value?.window === true, repaint)
const shelf = withLive(players.shelf)
let frame = 0
const slide = computed(() => talk.slides.find((one) => one.id === shown.value?.slide) ?? null)

/** Clips as they are now, and painted again as long as one plays; they are heard from the Lectern. */
function clipsNow({ blank, step, clips: started }: Projected, on: Slide): readonly ClipScene[] {
  const clips = blank ? [] : clipsOn(on, step, started, Date.now())
  follow(clips, { playing: true, rate: 1, volume: () => 0 })
  cancelAnimationFrame(frame)
  if (clips.some(({ playing }) => playing)) frame = requestAnimationFrame(repaint)
  return clips
}

function paint(): void {
  const ctx = canvas.value?.getContext('2d')
  if (ctx == null || slide.value === null || shown.value === null) return
  const { blank, wet, spot } = shown.value
  const clips = clipsNow(shown.value, slide.value)
  const elapsed = shown.value.moves === null ? Infinity : Date.now() - shown.value.moves
  const { shape } = talk.talk ?? { shape: size.value.pixels }
  const scene = sceneOfScreen(shown.value, slide.value, [...clips, ...live()], { elapsed, shape }, WHOLE, spot)
  if (scene.objects.some(({ moving }) => moving)) frame = requestAnimationFrame(repaint)
  paintScene<CanvasImageSource>(ctx, scene, size.value.pixels, shelf)
  if (wet !== null && !blank) paintStroke<CanvasImageSource>(ctx, { stroke: wet, elapsed: null }, size.value.pixels)
  loadNext(slide.value)
}
/** Loads the picture of the slide that comes next. */
function loadNext(on: Slide): void {
  const [next] = talk.slides.slice(talk.slides.indexOf(on) + 1)
  const coming = next?.steps[0]?.picture
  if (coming !== undefined && coming.kind !== 'composed') shelf.ofStep(coming)
}
watch([shown, slide, size, canvas], () => {
  void nextTick(paint)
})
onBeforeUnmount(() => {
  cancelAnimationFrame(frame)
})
const full = (): void => {
  void document.documentElement.requestFullscreen().catch(() => undefined)
}
</script>

<template>
  <main ref="room" class="room" @dblclick="full">
    <canvas
      v-show="slide"
      ref="canvas"
      :width="size.pixels.width"
      :height="size.pixels.height"
      :style="{ width: `${size.box.width}px`, height: `${size.box.height}px` }"
      role="img"
      :aria-label="slide?.title ?? ''"
    />
    <p v-if="!slide" class="waits">Open the Lectern of this talk in the other window. What it shows is shown here.</p>
  </main>
</template>

<style scoped>
.room {
  display: grid;
  place-items: center;
  width: 100vw;
  height: 100vh;
  overflow: hidden;
  background: #000;
}
.waits {
  max-width: 32ch;
  color: #a9b7b0;
  font-size: 20px;
  text-align: center;
}
</style>
