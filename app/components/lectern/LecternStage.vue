<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { paintScene, paintSpot, paintStroke } from '@core/paint'
import { WHOLE, framingOf, stageRect } from '@core/layout'
import { sceneOfScreen } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { Point, Size, Stroke } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useOpenWindow } from '~/stores/open-window'
import { useClipPlayers } from '~/composables/useClipPlayers'
import { useDrawing } from '~/composables/useDrawing'
import { useDubPicture } from '~/composables/useDubPicture'
import { useLiveWindow } from '~/composables/useLiveWindow'
import { shareWindow } from '~/lectern/shared-window'
import { assetUrl } from '~/client'
import { useProjecting } from '~/composables/useProjector'
import { rectStyle } from '~/styles/rect-style'

/** The slide as viewers will see it: its ink, and the live face in its framing. */
const props = defineProps<{ talkId: string; shape: Size }>()
const lectern = useLectern()
const devices = useDevices()
const windows = useOpenWindow()

const room = ref<HTMLElement | null>(null)
const page = ref<HTMLCanvasElement | null>(null)
const wet = ref<HTMLCanvasElement | null>(null)
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
const players = useClipPlayers(urlOf, repaint)
const { follow, elementOf } = players
const picture = (): MediaStreamTrack | null => windows.held?.picture ?? null
const { live, withLive } = useLiveWindow(picture, () => lectern.windowShown !== null, repaint)
const shelf = withLive(players.shelf)
onBeforeUnmount(shareWindow(picture))
useStepStarts()
/** Clips of the slide as they were painted last. */
const clips = shallowRef<readonly ClipScene[]>([])
let frame = 0

const framing = computed(() => (lectern.slide === null ? null : framingOf(lectern.slide, props.shape)))
const faceOn = computed(
  () =>
    framing.value !== null && !framing.value.off && lectern.inset && !lectern.blank && (devices.stream?.getVideoTracks().length ?? 0) > 0,
)
/** Where the slide itself is drawn and drawn on: all of the frame unless it shares with the face. */
const stage = computed(() => (framing.value === null || !faceOn.value ? WHOLE : stageRect(framing.value)))

function paint(): void {
  const ctx = page.value?.getContext('2d')
  const { slide } = lectern
  if (ctx == null || slide === null || lectern.dubbing) return
  const now = lectern.shownClips(performance.now())
  if (now.length > 0 || clips.value.length > 0) clips.value = now
  follow(now, { playing: true, rate: 1, volume: () => 1 })
  const scene = sceneOfScreen(
    lectern.screen,
    slide,
    [...now, ...live()],
    { elapsed: lectern.moved(performance.now()), shape: props.shape },
    stage.value,
  )
  paintScene<CanvasImageSource>(ctx, scene, pixels.value, shelf)
  cancelAnimationFrame(frame)
  if (now.some(({ playing }) => playing) || scene.objects.some(({ moving }) => moving)) frame = requestAnimationFrame(repaint)
  loadNext()
}
/** Loads the picture that comes next. */
function loadNext(): void {
  const next = lectern.nextPosition?.slide.steps[lectern.nextPosition.step]?.picture
  if (next !== undefined && next.kind !== 'composed') shelf.ofStep(next)
}

/** Since when what is drawn on the slide moves, on the clock of the machine; null: it moves no more. */
function movesSince(): number | null {
  const elapsed = lectern.moved(performance.now())
  return elapsed === Infinity ? null : Date.now() - elapsed
}
/** The stroke and the spot under way, for the window that shows the slide alone. */
let underWay: { readonly wet: Stroke | null; readonly spot: Point | null } = { wet: null, spot: null }
const projecting = useProjecting(props.talkId, () => ({
  slide: lectern.slide?.id ?? null,
  step: lectern.step,
  blank: lectern.blank,
  window: lectern.windowShown !== null,
  ink: lectern.shownInk,
  clips: lectern.startedClips(performance.now()).map((clip) => ({ ...clip, at: Date.now() })),
  moves: movesSince(),
  ...underWay,
}))
watch(() => [lectern.slide, lectern.step, lectern.blank, lectern.shownInk, lectern.screen.clips, lectern.windowShown], projecting.tell)
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
    () => lectern.windowShown,
    stage,
  ],
  () => {
    void nextTick(paint)
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
      <ClipEcho :clips="clips" :element-of="elementOf" />
      <LecternFace v-if="framing" v-show="faceOn" :framing="framing" :height="box.height" />
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
