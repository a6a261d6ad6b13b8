<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import {
  CONTENT_COLUMNS,
  CONTENT_ROWS,
  MOST_COVERED,
  WHOLE,
  contentOfSteps,
  coverage,
  coveredShare,
  faceRect,
  framingOf,
  stageRect,
} from '@core/layout'
import { objectsAt } from '@core/objects'
import { paintClip, paintInset, paintInsetGround, paintObject, paintPicture } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { paintSpeaker } from '@core/practice'
import { clipsOfStep } from '@core/model'
import type { Framing, Picture, Rect, Size, Slide } from '@core/model'
import { assetUrl } from '~/client'
import { usePictures } from '~/composables/usePictures'
import { areClips, useClips } from '~/composables/useClips'
import { useFramingDrag } from '~/composables/useFramingDrag'
import { useFramingChange } from '~/composables/useFramingChange'
import { useObjects } from '~/stores/objects'
import { useSheet } from '~/stores/sheet'

/** The chosen step, large, with the face in its framing: dragged here, with a tint on what it covers. */
const props = defineProps<{
  slide: Slide
  step: number
  talkId: string
  number: number
  /** What is drawn on the slide is what is worked on. */
  drawing?: boolean
}>()
const objects = useObjects()
const sheet = useSheet()
const framings = useFramingChange()
const stage = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width } = useElementSize(stage)
const shape = computed(() => sheet.shape)
const pixels = computed(() => {
  const wide = Math.max(64, Math.round(width.value * Math.min(2, window.devicePixelRatio)))
  return { width: wide, height: Math.round((wide * shape.value.height) / shape.value.width) }
})
const shelf = usePictures(
  (digest) => assetUrl(props.talkId, digest),
  () => {
    paint()
  },
)
const { bring } = useClips(() => props.slide)
const over = ref(false)
const carried = (event: DragEvent): readonly File[] => [...(event.dataTransfer?.files ?? [])]
/** Films and sounds are clips; what else is dropped is for whoever stands below. */
function drop(event: DragEvent): void {
  over.value = false
  if (!areClips(carried(event), props.slide)) return
  event.preventDefault()
  event.stopPropagation()
  void bring(carried(event))
}
const framing = computed(() => framingOf(props.slide, shape.value))
const keep = (next: Framing): void => {
  framings.change({ rect: next.rect })
}
const drag = useFramingDrag(stage, framing, shape, keep)
/** Part of the stage that the slide has: all of it unless it shares with the face. */
const within = computed(() => (drag.shown.value.off ? WHOLE : stageRect(drag.shown.value)))
const shown = computed(() => props.slide.steps[Math.min(props.step, props.slide.steps.length - 1)])
/** What is drawn on it, as a hand moves it, or as the step plays. */
const drawn = computed(() =>
  objectsAt({ composition: props.slide.composition, drawing: objects.drawing }, props.step, objects.elapsed, shape.value),
)
const content = computed(() => contentOfSteps(props.slide, shape.value)[Math.min(props.step, props.slide.steps.length - 1)] ?? '')
const here = computed(() =>
  drag.shown.value.off || drag.shown.value.placing === 'beside' ? 0 : coverage(content.value, faceRect(drag.shown.value)),
)
const onAny = computed(() => coveredShare(props.slide, drag.shown.value, shape.value))
const emit = defineEmits<{ covered: [share: number] }>()
watch(
  onAny,
  (share) => {
    emit('covered', share)
  },
  { immediate: true },
)

/** The practice speaker, held still, stands for whoever will sit there. */
function speaker(): HTMLCanvasElement {
  const still = document.createElement('canvas')
  still.width = 1280
  still.height = 720
  const ctx = still.getContext('2d')
  if (ctx !== null) paintSpeaker<CanvasImageSource>(ctx, { width: 1280, height: 720 }, 900, 0.3)
  return still
}
const face = speaker()

/** Tints cells of the slide that have something on them. */
function tint(ctx: CanvasRenderingContext2D, within: Rect | null, colour: string, most: number): void {
  const { width: wide, height: high } = pixels.value
  for (let cell = 0; cell < CONTENT_COLUMNS * CONTENT_ROWS; cell += 1) {
    const weight = Number.parseInt(content.value[cell] ?? '0', 16) / 15
    const x = (cell % CONTENT_COLUMNS) / CONTENT_COLUMNS
    const y = Math.floor(cell / CONTENT_COLUMNS) / CONTENT_ROWS
    const [left, top] = within === null ? [x, y] : [Math.max(x, within.x), Math.max(y, within.y)]
    const right = Math.min(x + 1 / CONTENT_COLUMNS, within === null ? 1 : within.x + within.w)
    const bottom = Math.min(y + 1 / CONTENT_ROWS, within === null ? 1 : within.y + within.h)
    if (weight === 0 || right <= left || bottom <= top) continue
    ctx.globalAlpha = most * (0.35 + 0.65 * weight)
    ctx.fillStyle = colour
    ctx.fillRect(left * wide, top * high, (right - left) * wide, (bottom - top) * high)
  }
  ctx.globalAlpha = 1
}

/** What the step shows, with its clips as they begin. */
function paintStep(ctx: PaintContext<CanvasImageSource>, picture: Picture, size: Size): void {
  paintPicture(ctx, picture, size, shelf)
  for (const clip of clipsOfStep(props.slide, props.step)) paintClip(ctx, { clip, at: clip.from, playing: false }, size, shelf)
  for (const one of drawn.value) if (one.object.id !== objects.writing) paintObject(ctx, one, size, shelf)
}

function paint(): void {
  const context = canvas.value?.getContext('2d')
  const picture = shown.value?.picture
  if (context == null || picture === undefined) return
  const ctx: PaintContext<CanvasImageSource> = context
  const now = drag.shown.value
  const { width: wide, height: high } = pixels.value
  context.fillStyle = '#101C1A'
  context.fillRect(0, 0, wide, high)
  context.save()
  const { x, y, w, h } = within.value
  context.translate(x * wide, y * high)
  paintStep(ctx, picture, { width: w * wide, height: h * high })
  context.restore()
  if (now.off) return
  const onSlide = now.placing === 'over'
  if (onSlide && drag.draft.value !== null) tint(context, null, '#C98A12', 0.3)
  context.globalAlpha = onSlide ? 0.86 : 1
  paintInsetGround(ctx, now, pixels.value)
  paintInset(ctx, { image: face, width: 1280, height: 720 }, now, pixels.value)
  context.globalAlpha = 1
  if (onSlide && here.value > 0.004) tint(context, faceRect(now), '#B23A2B', 0.75)
}
watch(
  [pixels, canvas, shown, drag.shown, content, drawn, () => objects.writing, () => props.slide.clips],
  () => {
    void nextTick(paint)
  },
  { immediate: true },
)
</script>

<template>
  <div
    ref="stage"
    class="stage"
    :class="{ over }"
    :style="{ aspectRatio: `${shape.width} / ${shape.height}`, width: `min(100%, ${(36 * shape.width) / shape.height}vh)` }"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.capture="drop"
    @drop.prevent
  >
    <canvas ref="canvas" :width="pixels.width" :height="pixels.height" role="img" :aria-label="slide.title || `Slide ${number}`" />
    <ObjectLayer v-if="drawing" :step="step" :within="within" :framing="drag.shown.value" />
    <template v-else>
      <ClipBoxes v-if="slide.clips" :slide="slide" :step="step" :within="within" :shape="shape" />
      <ComposedEditor v-if="slide.composition" :key="slide.id" :slide="slide" :talk-id="talkId" />
      <div
        v-if="!framing.off && framing.placing === 'over'"
        class="face"
        :class="{ warn: here > MOST_COVERED }"
        :style="drag.style.value"
        tabindex="0"
        role="button"
        aria-label="The face: drag it, or move it with the arrow keys; plus and minus change its size"
        v-on="drag.moving"
        @keydown="drag.key"
      >
        <span v-if="here > MOST_COVERED" class="say">covers {{ Math.round(here * 100) }}%</span>
        <CornerHandle v-on="drag.resizing" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.stage.over {
  outline: 3px solid var(--accent);
}
.stage {
  position: relative;
  flex: none;
  border: 1px solid var(--line);
  background: #101c1a;
  margin: 0 auto;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.face {
  position: absolute;
  display: grid;
  place-items: end center;
  cursor: move;
  touch-action: none;
  border-radius: 6px;
  outline-offset: 1px;
}
.face:hover {
  outline: 2px solid var(--brand);
}
.face.warn {
  outline: 2px solid var(--alarm);
}
.face:focus-visible {
  outline: 2px solid var(--focus);
}
.say {
  margin-bottom: 4px;
  padding: 0 6px;
  border-radius: 4px;
  background: var(--alarm);
  color: var(--card);
  font-size: 12.5px;
  font-weight: 600;
  white-space: nowrap;
}
</style>
