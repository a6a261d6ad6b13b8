<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { framingInVisit, usualInset } from '@core/layout'
import { PLAIN_FRAMING } from '@core/model'
import type { Framing, Size } from '@core/model'
import type { Visit } from '@core/programme'
import { withCaptions } from '@core/scene'
import { useFilmInk } from '~/composables/useFilmInk'
import { useFilmPlayer } from '~/composables/useFilmPlayer'
import { useFramingDrag } from '~/composables/useFramingDrag'
import { useInkAfterwards } from '~/stores/ink-afterwards'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'

/** The film's picture: it plays, strokes are chosen on it and drawn, and the face is put where it should be. */
const props = defineProps<{ shape: Size; visit: Visit | null; placing: boolean; dressing: boolean }>()
const emit = defineEmits<{ place: [framing: Framing] }>()
const talk = useTalk()
const ink = useInkAfterwards()
const said = useSaid()
const stage = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const over = ref<HTMLCanvasElement | null>(null)
const { width } = useElementSize(stage)
const size = computed<Size>(() => {
  const pixels = Math.max(320, Math.round(width.value * Math.min(2, window.devicePixelRatio)))
  return { width: pixels, height: Math.round((pixels * props.shape.height) / props.shape.width) }
})
// While the face is put somewhere the picture has all of the frame.
const captioned = computed(() => said.captioned && !props.placing)
const index = computed(() => (talk.index === null || !captioned.value ? talk.index : withCaptions(talk.index, said.captions)))
const player = useFilmPlayer(index, canvas, size)
const toggle = (): void => {
  if (player.playing.value) player.pause()
  else player.play()
}
const { listeners } = useFilmInk(over, index, size, player, toggle)

const framing = computed<Framing>(() => {
  const slide = props.visit === null ? undefined : talk.index?.film.slides.get(props.visit.slide)
  return props.visit === null || slide === undefined
    ? { ...PLAIN_FRAMING, rect: usualInset(props.shape) }
    : framingInVisit(talk.programme, props.visit.id, slide, props.shape)
})
const drag = useFramingDrag(
  stage,
  framing,
  computed(() => props.shape),
  (next) => {
    emit('place', next)
  },
)
const wide = (): void => {
  void stage.value?.requestFullscreen().catch(() => undefined)
}
defineExpose({ player: reactive(player), toggle, wide })
</script>

<template>
  <div ref="stage" class="stage" :class="{ drawing: ink.pen !== null }" :style="{ aspectRatio: `${shape.width} / ${shape.height}` }">
    <canvas ref="canvas" :width="size.width" :height="size.height" role="img" aria-label="The film as viewers see it" />
    <canvas ref="over" class="over" :width="size.width" :height="size.height" v-on="listeners" />
    <div
      v-if="placing && visit && !framing.off && framing.placing === 'over'"
      class="face"
      :style="drag.style.value"
      tabindex="0"
      role="button"
      aria-label="The face: drag it, or move it with the arrow keys; plus and minus change its size"
      v-on="drag.moving"
      @keydown.stop="drag.key"
    >
      <CornerHandle v-on="drag.resizing" />
    </div>
    <OverlayBox v-if="dressing && index" :index="index" :at="player.at.value" :stage="stage" />
  </div>
</template>

<style scoped>
.stage {
  position: relative;
  width: 100%;
  border: 1px solid var(--line);
  background: #14201e;
  cursor: pointer;
}
.stage:fullscreen {
  aspect-ratio: auto !important;
  display: grid;
  place-items: center;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.stage:fullscreen canvas {
  object-fit: contain;
}
.over {
  touch-action: none;
}
.drawing {
  cursor: crosshair;
  outline: 2px solid var(--accent);
}
.face {
  position: absolute;
  border: 2px dashed var(--brand);
  border-radius: 6px;
  cursor: move;
  touch-action: none;
}
.face:focus-visible {
  outline: 2px solid var(--focus);
}
</style>
