<script setup lang="ts">
import { CaretRight, DArrowRight, VideoPause } from '@element-plus/icons-vue'
import { clipRect } from '@core/layout'
import { clipLength } from '@core/model'
import type { ClipScene } from '@core/scene'
import type { Size } from '@core/model'
import { useLectern } from '~/stores/lectern'
import { rectStyle } from '~/styles/rect-style'
import { duration } from '~/words'

/** What the presenter alone sees of the clips on the slide: how far each has come, and what starts, halts and skips it. */
const props = defineProps<{ clips: readonly ClipScene[]; shape: Size }>()
const lectern = useLectern()

/** Nobody has started it, and the next press does. */
const waits = ({ clip, at, playing }: ClipScene): boolean => clip.start === 'click' && !playing && at === clip.from
const shown = computed(() =>
  props.clips.map((scene) => {
    const { clip, at, playing } = scene
    const place = at - clip.from
    const length = clipLength(clip)
    const rect = clipRect(clip, props.shape)
    return {
      clip,
      playing,
      seen: rect !== null,
      style: rectStyle(rect ?? clip.box),
      share: place / length,
      words: waits(scene) ? `${duration(length)}, going on plays it` : `${duration(place)} of ${duration(length)}`,
    }
  }),
)
</script>

<template>
  <div
    v-for="{ clip, playing, seen, style, share, words } in shown"
    :key="clip.id"
    class="clip"
    :class="{ playing, seen }"
    :style="style"
    role="group"
    :aria-label="`Clip ${clip.name}`"
  >
    <div class="bar" @click.stop @pointerdown.stop>
      <button
        class="act"
        :aria-label="playing ? `Halt ${clip.name}` : `Play ${clip.name}`"
        :title="playing ? 'Halt (F)' : 'Play (F)'"
        @click="lectern.toggleClip(clip, $event.timeStamp)"
      >
        <VideoPause v-if="playing" /><CaretRight v-else />
      </button>
      <span class="line" aria-hidden="true"><i :style="{ width: `${share * 100}%` }" /></span>
      <span class="clock">{{ words }}</span>
      <button class="act" :aria-label="`Skip ${clip.name}`" title="Skip to its end (K)" @click="lectern.skipClip(clip, $event.timeStamp)">
        <DArrowRight />
      </button>
    </div>
  </div>
</template>

<style scoped>
.clip {
  position: absolute;
  display: grid;
  align-items: end;
  pointer-events: none;
}
.clip.seen {
  outline: 1px dashed rgb(240 180 64 / 65%);
  outline-offset: 2px;
}
.clip.seen.playing {
  outline-color: transparent;
}
.bar {
  display: grid;
  grid-template-columns: auto minmax(30px, 1fr) auto auto;
  gap: 8px;
  align-items: center;
  justify-self: center;
  width: max(100%, 210px);
  padding: 3px 8px;
  border-radius: 0 0 4px 4px;
  background: rgb(16 28 26 / 82%);
  color: #efebdf;
  font-size: 13px;
  pointer-events: auto;
  cursor: default;
}
.act {
  display: grid;
  place-items: center;
  width: 28px;
  height: 26px;
  padding: 0;
  border: 0;
  border-radius: 4px;
  background: transparent;
  color: inherit;
  cursor: pointer;
}
.act:hover {
  background: rgb(255 255 255 / 14%);
}
.act svg {
  width: 18px;
}
.line {
  height: 4px;
  border-radius: 2px;
  background: rgb(255 255 255 / 22%);
}
.line i {
  display: block;
  height: 100%;
  border-radius: 2px;
  background: #f0b440;
}
</style>
