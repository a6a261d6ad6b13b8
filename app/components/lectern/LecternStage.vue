<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { paintScene, paintStroke } from '@core/paint'
import { framingOf } from '@core/scene'
import type { Scene } from '@core/scene'
import type { Size } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useDrawing } from '~/composables/useDrawing'
import { usePictures } from '~/composables/usePictures'

/** The slide as viewers will see it: its ink, and the live face in its framing. */
const props = defineProps<{ talkId: string, shape: Size }>()
const lectern = useLectern()
const devices = useDevices()

const room = ref<HTMLElement | null>(null)
const page = ref<HTMLCanvasElement | null>(null)
const wet = ref<HTMLCanvasElement | null>(null)
const face = ref<HTMLVideoElement | null>(null)
const { width: roomWidth, height: roomHeight } = useElementSize(room)
const box = computed(() => {
  const scale = Math.min(roomWidth.value / props.shape.width, roomHeight.value / props.shape.height)
  return { width: Math.floor(props.shape.width * scale), height: Math.floor(props.shape.height * scale) }
})
const pixels = computed<Size>(() => {
  const ratio = Math.min(2, window.devicePixelRatio)
  return { width: Math.max(1, Math.round(box.value.width * ratio)), height: Math.max(1, Math.round(box.value.height * ratio)) }
})
const pictureOf = usePictures(() => props.talkId, () => { paint() })

const framing = computed(() => (lectern.slide === null ? null : framingOf(lectern.slide)))
const faceOn = computed(() => framing.value !== null && !framing.value.off && lectern.inset && !lectern.blank && (devices.stream?.getVideoTracks().length ?? 0) > 0)
const place = computed(() => {
  const rect = framing.value?.rect ?? { x: 0, y: 0, w: 0, h: 0 }
  return {
    left: `${String(rect.x * 100)}%`, top: `${String(rect.y * 100)}%`, width: `${String(rect.w * 100)}%`, height: `${String(rect.h * 100)}%`,
    borderRadius: framing.value?.outline === 'round' ? '50%' : `${String(box.value.height * 0.022)}px`,
  }
})

function paint(): void {
  const ctx = page.value?.getContext('2d')
  const { slide } = lectern
  if (ctx == null || slide === null) return
  const shown = slide.steps[Math.min(lectern.step, slide.steps.length - 1)] ?? null
  const scene: Scene = {
    slide: slide.id, step: lectern.step, shown: lectern.blank ? null : shown,
    ink: lectern.shownInk.map((stroke) => ({ stroke, elapsed: null })), inset: null, voice: null,
  }
  paintScene<CanvasImageSource>(ctx, scene, pixels.value, pictureOf)
  const next = lectern.coming?.slide.steps[lectern.coming.step]?.picture
  if (next !== undefined) pictureOf(next)
}

const drawing = useDrawing(wet, (stroke) => {
  const ctx = wet.value?.getContext('2d')
  if (ctx == null) return
  ctx.clearRect(0, 0, pixels.value.width, pixels.value.height)
  if (stroke !== null) paintStroke<CanvasImageSource>(ctx, { stroke, elapsed: null }, pixels.value)
})

function clicked(event: MouseEvent): void {
  if (lectern.tool === 'point' && event.button === 0) lectern.forward(event.timeStamp)
}

watch([pixels, page, () => lectern.slide, () => lectern.step, () => lectern.blank, () => lectern.shownInk], () => { void nextTick(paint) }, { immediate: true })
watch([face, () => devices.stream], () => {
  if (face.value === null) return
  const tracks = devices.stream?.getVideoTracks() ?? []
  face.value.srcObject = tracks.length === 0 ? null : new MediaStream(tracks)
  void face.value.play().catch(() => undefined)
}, { immediate: true })
onMounted(() => { lectern.endStroke = drawing.finish })
onBeforeUnmount(() => { lectern.endStroke = null })
</script>

<template>
  <div ref="room" class="room">
    <div class="stage" :style="{ width: `${box.width}px`, height: `${box.height}px` }" :class="{ pen: lectern.tool === 'pen' }" @click="clicked">
      <canvas ref="page" :width="pixels.width" :height="pixels.height" role="img" :aria-label="lectern.slide?.title ?? ''" />
      <canvas ref="wet" class="wet" :width="pixels.width" :height="pixels.height" aria-hidden="true" v-on="drawing.listeners" />
      <div v-show="faceOn" class="face" :class="{ hidden: !lectern.preview }" :style="place">
        <video ref="face" muted playsinline :style="{ visibility: lectern.preview ? 'visible' : 'hidden', transform: framing?.mirrored ? 'scaleX(-1)' : 'none' }" />
      </div>
      <div v-if="lectern.phase === 'countdown'" class="count clock" role="status">{{ lectern.count }}</div>
    </div>
  </div>
</template>

<style scoped>
.room { position: relative; display: grid; place-items: center; min-width: 0; min-height: 0; overflow: hidden; }
.stage { position: relative; touch-action: none; user-select: none; }
.stage.pen { cursor: crosshair; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
.face { position: absolute; overflow: hidden; pointer-events: none; outline: 3px solid #FFFDF8; }
.face.hidden { outline: 2px dashed #FFFDF8; background: rgb(16 28 26 / 35%); }
.face video { width: 100%; height: 100%; object-fit: cover; }
.count { position: absolute; inset: 0; display: grid; place-items: center; background: rgb(16 28 26 / 62%); color: #F0B440; font-size: min(30vh, 240px); font-weight: 700; }
</style>
