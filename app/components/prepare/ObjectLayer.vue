<script setup lang="ts">
import type Konva from 'konva'
import { useElementSize } from '@vueuse/core'
import { Circle, Layer, Line, Rect as KonvaRect, Stage, Transformer } from 'vue-konva'
import { faceRect } from '@core/layout'
import { boundsOfObject, wordsOnObject } from '@core/objects'
import { rectsOverlap } from '@core/model'
import type { Framing, ObjectId, Point, Rect, SlideObject } from '@core/model'
import { useMotionPath } from '~/composables/useMotionPath'
import { useObjectHandles } from '~/composables/useObjectHandles'
import { useObjects } from '~/stores/objects'
import { rectStyle } from '~/styles/rect-style'

/** Handles of what is drawn on a slide: chosen, dragged, sized and turned here; the picture below says what it looks like. */
const props = defineProps<{ step: number; within: Rect; framing: Framing }>()
const objects = useObjects()
const room = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(room)
const size = computed(() => ({ width: Math.max(1, width.value), height: Math.max(1, height.value) }))
const layerRef = ref<{ getNode: () => Konva.Layer } | null>(null)
const transformerRef = ref<{ getNode: () => Konva.Transformer } | null>(null)
const layer = computed(() => layerRef.value?.getNode() ?? null)
const step = computed(() => props.step)
const free = computed(() => (props.framing.off || props.framing.placing === 'beside' ? null : faceRect(props.framing)))
const handles = useObjectHandles(layer, size, step, free)
const path = useMotionPath(size, step)

const BRAND = '#1F5A4C'
const ACCENT = '#C98A12'
const transformerConfig = {
  ignoreStroke: true,
  flipEnabled: false,
  borderStroke: BRAND,
  anchorStroke: BRAND,
  anchorSize: 11,
  rotateAnchorOffset: 24,
  rotationSnaps: [0, 45, 90, 135, 180, 225, 270, 315],
  rotationSnapTolerance: 4,
}
/** The handles that stand round what is chosen. */
function hold(): void {
  const transformer = transformerRef.value?.getNode()
  if (transformer === undefined) return
  const shown = objects.chosenObjects.filter(({ id, locked }) => !locked && id !== objects.writing)
  transformer.nodes(shown.flatMap(({ id }) => handles.nodeOf(id) ?? []))
  transformer.getLayer()?.batchDraw()
}
watch([() => objects.chosen, () => objects.writing, handles.scenes, layer, size], () => void nextTick(hold), { immediate: true })

function press(id: ObjectId, event: Konva.KonvaEventObject<MouseEvent | TouchEvent>): void {
  event.cancelBubble = true
  const { shiftKey } = event.evt
  if (!shiftKey && objects.chosen.has(id)) return
  objects.choose([id], shiftKey)
  // What is pressed can be dragged at once, together with its group.
  hold()
}

/** Has the words of an object written on it. */
function write({ id, form, locked }: SlideObject): void {
  if (!locked && wordsOnObject(form) !== null) objects.writing = id
}

/** A place on the slide, in fractions of it. */
function placeOf(event: Konva.KonvaEventObject<unknown>): Point | null {
  const at = event.target.getStage()?.getPointerPosition()
  return at == null ? null : { x: at.x / size.value.width, y: at.y / size.value.height }
}
const written = computed(() => handles.scenes.value.find(({ object }) => object.id === objects.writing) ?? null)
/** What is drawn by hand, or the corners between which objects are chosen. */
const drawn = shallowRef<readonly Point[] | null>(null)
const net = computed<Rect | null>(() => {
  const [from, to] = [drawn.value?.[0], drawn.value?.at(-1)]
  if (objects.pen !== null || from === undefined || to === undefined) return null
  return { x: Math.min(from.x, to.x), y: Math.min(from.y, to.y), w: Math.abs(to.x - from.x), h: Math.abs(to.y - from.y) }
})
function begin(event: Konva.KonvaEventObject<MouseEvent | TouchEvent>): void {
  const isGround = event.target === event.target.getStage()
  const at = placeOf(event)
  if (at !== null && (isGround || objects.pen !== null)) drawn.value = [at]
}
function go(event: Konva.KonvaEventObject<MouseEvent | TouchEvent>): void {
  const at = drawn.value === null ? null : placeOf(event)
  if (at !== null && drawn.value !== null) drawn.value = [...drawn.value, at]
}
function end(): void {
  const points = drawn.value
  const caught = net.value
  drawn.value = null
  if (points === null) return
  const { pen } = objects
  objects.pen = null
  if (pen === 'line') void objects.addLine(points)
  else if (pen === 'path') path.drawn(points)
  else if (caught !== null) {
    const inside = handles.scenes.value.filter((scene) => !scene.object.locked && rectsOverlap(boundsOfObject(scene, size.value), caught))
    objects.choose(caught.w + caught.h < 0.01 ? [] : inside.map(({ object }) => object.id))
  }
}
const flat = (points: readonly Point[]): number[] => points.flatMap(({ x, y }) => [x * size.value.width, y * size.value.height])
const rectConfig = ({ x, y, w, h }: Rect) => ({
  x: x * size.value.width,
  y: y * size.value.height,
  width: w * size.value.width,
  height: h * size.value.height,
})
</script>

<template>
  <div ref="room" class="layer" :class="{ pen: objects.pen }" :style="rectStyle(within)">
    <Stage
      :config="size"
      @mousedown="begin"
      @touchstart="begin"
      @mousemove="go"
      @touchmove="go"
      @mouseup="end"
      @touchend="end"
      @mouseleave="end"
    >
      <Layer ref="layerRef" :config="{ listening: objects.pen === null }">
        <KonvaRect
          v-for="scene in handles.scenes.value"
          :key="scene.object.id"
          :config="handles.configOf(scene)"
          @mousedown="press(scene.object.id, $event)"
          @touchstart="press(scene.object.id, $event)"
          @dblclick="write(scene.object)"
          @dbltap="write(scene.object)"
          @dragmove="handles.dragged"
          @dragend="handles.left"
          @transform="handles.transformed"
          @transformend="handles.left"
        />
        <Transformer ref="transformerRef" :config="transformerConfig" />
        <template v-if="path.way.value">
          <Line :config="{ points: flat(path.way.value), stroke: ACCENT, strokeWidth: 2, dash: [6, 4], listening: false }" />
          <Circle
            v-for="(dot, n) in path.dots.value"
            :key="`dot ${n}`"
            :config="{ x: dot.x * size.width, y: dot.y * size.height, radius: 2.5, fill: ACCENT, listening: false }"
          />
          <Circle
            v-for="(point, n) in path.points.value"
            :key="`point ${n}`"
            :config="{
              x: point.x * size.width,
              y: point.y * size.height,
              radius: 7,
              fill: '#FFFDF8',
              stroke: ACCENT,
              strokeWidth: 3,
              draggable: true,
            }"
            @dragmove="path.moved(n, $event)"
            @dragend="path.left"
          />
        </template>
        <Line
          v-for="(line, n) in handles.lines.value"
          :key="`line ${n}`"
          :config="{
            points:
              line.along === 'down'
                ? flat([
                    { x: line.at, y: 0 },
                    { x: line.at, y: 1 },
                  ])
                : flat([
                    { x: 0, y: line.at },
                    { x: 1, y: line.at },
                  ]),
            stroke: ACCENT,
            strokeWidth: 1,
            listening: false,
          }"
        />
        <KonvaRect v-if="net" :config="{ ...rectConfig(net), stroke: BRAND, strokeWidth: 1, dash: [4, 3], listening: false }" />
        <Line v-if="drawn && objects.pen" :config="{ points: flat(drawn), stroke: ACCENT, strokeWidth: 3, listening: false }" />
      </Layer>
    </Stage>
    <ObjectWords v-if="written" :key="written.object.id" :scene="written" />
  </div>
</template>

<style scoped>
.layer {
  position: absolute;
  touch-action: none;
  container-type: size;
}
.pen {
  cursor: crosshair;
}
</style>
