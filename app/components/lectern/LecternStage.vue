<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { paintScene, paintSpot, paintStroke } from '@core/paint'
import { WHOLE, faceRect, framingOf, stageRect } from '@core/layout'
import { sceneOfScreen } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { Point, Size, Stroke } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useClipEcho } from '~/composables/useClipEcho'
import { useClipPlayers } from '~/composables/useClipPlayers'
import { useDrawing } from '~/composables/useDrawing'
import { useDubPicture } from '~/composables/useDubPicture'
import { assetUrl } from '~/client'
import { usePictures } from '~/composables/usePictures'
import { useProjecting } from '~/composables/useProjector'
import { rectStyle } from '~/styles/rect-style'

/** The slide as viewers will see it: its ink, and the live face in its framing. */
const props = defineProps<{ talkId: string; shape: Size }>()
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
const urlOf = (digest: string): string => assetUrl(props.talkId, digest)
const repaint = (): void => {
  paint()
}
const pictures = usePictures(urlOf, repaint)
const { shelf, follow, elementOf } = useClipPlayers(urlOf, pictures, repaint)
/** Clips of the slide as they were painted last. */
const clips = shallowRef<readonly ClipScene[]>([])
let frame = 0
const echo = useClipEcho(() => clips.value, elementOf)

const framing = computed(() => (lectern.slide === null ? null : framingOf(lectern.slide, props.shape)))
const faceOn = computed(
  () =>
    framing.value !== null && !framing.value.off && lectern.inset && !lectern.blank && (devices.stream?.getVideoTracks().length ?? 0) > 0,
)
/** Where the slide itself is drawn and drawn on: all of the frame unless it shares with the face. */
const stage = computed(() => (framing.value === null || !faceOn.value ? WHOLE : stageRect(framing.value)))
const RADIUS = { card: '', wide: '', round: '50%', arch: '50% 50% 6px 6px / 38% 38% 6px 6px' } as const
const BORDER = { none: '0', thin: '3px', broad: '7px' } as const
const place = computed(() =>
  framing.value === null
    ? {}
    : {
        ...rectStyle(faceRect(framing.value)),
        borderRadius:
          framing.value.placing === 'full'
            ? '0'
            : (framing.value.placing === 'over' && RADIUS[framing.value.outline]) || `${String(box.value.height * 0.022)}px`,
        outlineWidth: framing.value.placing === 'full' ? '0' : BORDER[framing.value.border],
      },
)
const within = computed(() => {
  const { zoom, centre, mirrored } = framing.value ?? { zoom: 1, centre: { x: 0.5, y: 0.5 }, mirrored: false }
  return {
    visibility: lectern.preview ? ('visible' as const) : ('hidden' as const),
    objectPosition: `${String(centre.x * 100)}% ${String(centre.y * 100)}%`,
    transformOrigin: `${String(centre.x * 100)}% ${String(centre.y * 100)}%`,
    transform: `scale(${String(mirrored ? -zoom : zoom)}, ${String(zoom)})`,
  }
})

function paint(): void {
  const ctx = page.value?.getContext('2d')
  const { slide } = lectern
  if (ctx == null || slide === null || lectern.dubbing) return
  const now = lectern.shownClips(performance.now())
  if (now.length > 0 || clips.value.length > 0) clips.value = now
  follow(now, { playing: true, rate: 1, volume: () => 1 })
  const scene = { ...sceneOfScreen(lectern.screen, slide, stage.value), clips: now }
  paintScene<CanvasImageSource>(ctx, scene, pixels.value, shelf)
  cancelAnimationFrame(frame)
  if (now.some(({ playing }) => playing)) frame = requestAnimationFrame(repaint)
  const next = lectern.nextPosition?.slide.steps[lectern.nextPosition.step]?.picture
  if (next !== undefined && next.kind !== 'composed') shelf.ofStep(next)
}

/** The stroke and the spot under way, for the window that shows the slide alone. */
let underWay: { readonly wet: Stroke | null; readonly spot: Point | null } = { wet: null, spot: null }
const projecting = useProjecting(props.talkId, () => ({
  slide: lectern.slide?.id ?? null,
  step: lectern.step,
  blank: lectern.blank,
  ink: lectern.shownInk,
  clips: lectern.startedClips(performance.now()).map((clip) => ({ ...clip, at: Date.now() })),
  ...underWay,
}))
watch(() => [lectern.slide, lectern.step, lectern.blank, lectern.shownInk, lectern.screen.clips], projecting.tell)
useDubPicture(page, pixels, shelf, follow)
/** Where a label is being typed. */
const labelAt = ref<Point | null>(null)

const drawing = useDrawing(
  wet,
  (stroke, spot) => {
    underWay = { wet: stroke, spot }
    projecting.tell()
    const ctx = wet.value?.getContext('2d')
    if (ctx == null) return
    ctx.clearRect(0, 0, pixels.value.width, pixels.value.height)
    const size = { width: pixels.value.width * stage.value.w, height: pixels.value.height * stage.value.h }
    if (stroke !== null) paintStroke<CanvasImageSource>(ctx, { stroke, elapsed: null }, size)
    if (spot !== null) paintSpot<CanvasImageSource>(ctx, spot, size)
  },
  (at) => {
    labelAt.value = at
  },
)

function clicked(event: MouseEvent): void {
  if (lectern.tool === 'hand' && event.button === 0) lectern.forward(event.timeStamp)
}

watch(
  [
    pixels,
    page,
    () => lectern.slide,
    () => lectern.step,
    () => lectern.blank,
    () => lectern.shownInk,
    () => lectern.screen.clips,
    () => lectern.dubbing,
    stage,
  ],
  () => {
    void nextTick(paint)
  },
  { immediate: true },
)
watch(
  [face, () => devices.stream],
  () => {
    if (face.value === null) return
    const tracks = devices.stream?.getVideoTracks() ?? []
    face.value.srcObject = tracks.length === 0 ? null : new MediaStream(tracks)
    void face.value.play().catch(() => undefined)
  },
  { immediate: true },
)
onMounted(() => {
  lectern.endStroke = drawing.finish
})
onBeforeUnmount(() => {
  cancelAnimationFrame(frame)
  lectern.endStroke = null
})
</script>

<template>
  <div ref="room" class="room">
    <div class="stage" :style="{ width: `${box.width}px`, height: `${box.height}px` }" :class="lectern.tool" @click="clicked">
      <canvas ref="page" :width="pixels.width" :height="pixels.height" role="img" :aria-label="lectern.slide?.title ?? ''" />
      <canvas
        ref="wet"
        class="wet"
        :width="Math.max(1, Math.round(pixels.width * stage.w))"
        :height="Math.max(1, Math.round(pixels.height * stage.h))"
        :style="rectStyle(stage)"
        aria-hidden="true"
        v-on="drawing.listeners"
      />
      <div v-if="clips.length > 0 && !lectern.dubbing" class="clips" :style="rectStyle(stage)">
        <ClipControls :clips="clips" :shape="shape" />
      </div>
      <p v-if="echo.heard.value && !echo.closes.value" class="echo" role="alert" @click.stop>
        <span>Your microphone hears the clip, so it would be in your video twice. Use headphones, or</span>
        <button class="press small" @click="echo.closes.value = true">close the microphone while clips play</button>
        <button class="press quiet small" @click="echo.leave()">Leave it</button>
      </p>
      <div v-show="faceOn" class="face" :class="{ hidden: !lectern.preview }" :style="place">
        <video ref="face" muted playsinline :style="within" />
      </div>
      <div v-if="labelAt" class="typing" :style="rectStyle(stage)"><LabelField :at="labelAt" @done="labelAt = null" /></div>
      <div v-if="lectern.phase === 'countdown' && lectern.leadIn === null" class="count clock" role="status">{{ lectern.count }}</div>
    </div>
  </div>
</template>

<style scoped>
.room {
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
.stage {
  position: relative;
  touch-action: none;
  user-select: none;
}
.echo {
  position: absolute;
  left: 50%;
  top: 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
  width: min(94%, 640px);
  padding: 8px 12px;
  border-radius: 6px;
  background: rgb(16 28 26 / 92%);
  color: #efebdf;
  transform: translateX(-50%);
}
.clips {
  position: absolute;
  pointer-events: none;
}
.typing {
  position: absolute;
  pointer-events: none;
}
.typing > * {
  pointer-events: auto;
}
.stage.pen,
.stage.marker {
  cursor: crosshair;
}
.stage.label {
  cursor: text;
}
.stage.eraser {
  cursor: cell;
}
.stage.spot {
  cursor: none;
}
canvas {
  position: absolute;
  left: 0;
  top: 0;
  width: 100%;
  height: 100%;
}
.face {
  position: absolute;
  overflow: hidden;
  pointer-events: none;
  outline: 3px solid #fffdf8;
}
.face.hidden {
  outline: 2px dashed #fffdf8;
  background: rgb(16 28 26 / 35%);
}
.face video {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.count {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  background: rgb(16 28 26 / 62%);
  color: #f0b440;
  font-size: min(30vh, 240px);
  font-weight: 700;
}
</style>
