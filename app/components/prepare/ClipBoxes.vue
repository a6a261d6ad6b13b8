<script setup lang="ts">
import { Headset } from '@element-plus/icons-vue'
import { clipRect } from '@core/layout'
import { broughtClips, clipsOfStep } from '@core/model'
import type { Clip, ClipId, Rect, Size, Slide } from '@core/model'
import { useBoxDrag } from '~/composables/useBoxDrag'
import { useClips } from '~/composables/useClips'
import { rectStyle } from '~/styles/rect-style'

/** The clips of a step on the bench, each where it will be: dragged here, or moved by keys. */
const props = defineProps<{
  slide: Slide
  step: number
  /** Part of the stage that the slide has. */
  within: Rect
  shape: Size
}>()
const { change } = useClips(() => props.slide)
const layer = ref<HTMLElement | null>(null)
const drag = useBoxDrag<ClipId>(layer, (id, box) => {
  change(id, { box })
})
const rectOf = (clip: Clip): Rect => clipRect(clip, props.shape) ?? clip.box
const boxes = computed(() =>
  clipsOfStep({ clips: broughtClips(props.slide) }, props.step).map((clip) => {
    const { draft } = drag
    const rect = draft.value?.key === clip.id ? draft.value.rect : rectOf(clip)
    return { clip, rect: rectOf(clip), style: rectStyle(rect) }
  }),
)
</script>

<template>
  <div ref="layer" class="layer" :style="rectStyle(within)">
    <div
      v-for="{ clip, rect, style } in boxes"
      :key="clip.id"
      class="clip"
      :class="{ sound: clip.media.picture === null }"
      :style="style"
      tabindex="0"
      role="button"
      :aria-label="`Clip ${clip.name}: drag it, or move it with the arrow keys; plus and minus change its size`"
      v-on="drag.moving(clip.id, rect)"
      @keydown="drag.key($event, clip.id, rect)"
    >
      <Headset v-if="clip.media.picture === null" class="ear" />
      <span class="name">{{ clip.name }}</span>
      <CornerHandle v-on="drag.resizing(clip.id, rect)" />
    </div>
  </div>
</template>

<style scoped>
.layer {
  position: absolute;
  pointer-events: none;
}
.clip {
  position: absolute;
  border: 2px dashed var(--accent);
  --handle: var(--accent);
  pointer-events: auto;
  cursor: move;
  touch-action: none;
}
.clip:focus-visible {
  outline: 2px solid var(--focus);
}
.sound {
  display: grid;
  place-items: center;
  border-radius: 6px;
  background: rgb(255 253 248 / 85%);
}
.ear {
  width: 22px;
  color: var(--accent);
}
.name {
  position: absolute;
  left: 0;
  top: 0;
  max-width: 100%;
  padding: 0 6px;
  overflow: hidden;
  background: var(--card);
  font-size: 12.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sound .name {
  top: 100%;
  max-width: 160px;
}
</style>
