<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { Scissor } from '@element-plus/icons-vue'
import type { CutId, Ms } from '@core/model'
import type { Seam } from '@core/programme'
import { preciseDuration } from '~/words'

/**
 * A visit's voice as a waveform on which a part is chosen by two pegs, with the seams of what was cut. All times count from the visit's
 * beginning.
 */
const props = defineProps<{
  parts: readonly { readonly peaks: readonly number[]; readonly from: number; readonly to: number }[]
  played: number
  length: Ms
  range: { readonly from: Ms; readonly to: Ms } | null
  seams: readonly Seam[]
  pauses: readonly { readonly from: Ms; readonly to: Ms }[]
  /** What happened on the slide, and when. */
  marks: readonly { readonly kind: 'ink' | 'step' | 'stumble'; readonly at: Ms }[]
}>()
const emit = defineEmits<{ range: [from: Ms, to: Ms]; go: [at: Ms]; reopen: [id: CutId] }>()
const place = ref<HTMLElement | null>(null)
const { width } = useElementSize(place)
/** A drag that is shorter than this is a click, in pixels. */
const CLICK = 4
let pressed: { readonly x: number; readonly at: Ms; readonly moves: 'from' | 'to' | 'new' } | null = null

function timeAt(event: PointerEvent): Ms {
  const box = place.value?.getBoundingClientRect()
  return box === undefined ? 0 : Math.round(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)) * props.length)
}
function press(event: PointerEvent, moves: 'from' | 'to' | 'new'): void {
  event.preventDefault()
  place.value?.setPointerCapture(event.pointerId)
  pressed = { x: event.clientX, at: timeAt(event), moves }
}
function drag(event: PointerEvent): void {
  if (pressed === null || (pressed.moves === 'new' && Math.abs(event.clientX - pressed.x) < CLICK)) return
  const at = timeAt(event)
  const other = pressed.moves === 'from' ? props.range?.to : props.range?.from
  const fixed = pressed.moves === 'new' ? pressed.at : (other ?? at)
  emit('range', Math.min(fixed, at), Math.max(fixed, at))
}
function lift(event: PointerEvent): void {
  if (pressed?.moves === 'new' && Math.abs(event.clientX - pressed.x) < CLICK) emit('go', pressed.at)
  pressed = null
}
/** Moves a peg by keys. */
function nudge(which: 'from' | 'to', event: KeyboardEvent): void {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (by === undefined || props.range === null) return
  event.preventDefault()
  event.stopPropagation()
  const step = by * (event.shiftKey ? 10 : 100)
  const from = which === 'from' ? Math.max(0, Math.min(props.range.to - 10, props.range.from + step)) : props.range.from
  const to = which === 'to' ? Math.min(props.length, Math.max(props.range.from + 10, props.range.to + step)) : props.range.to
  emit('range', from, to)
}
const MARK_WORDS = { ink: 'Drawn', step: 'Step', stumble: 'Stumble' } as const
const left = (at: Ms): string => `${String((at / Math.max(1, props.length)) * 100)}%`
</script>

<template>
  <div class="ranged">
    <div ref="place" class="place" @pointerdown="press($event, 'new')" @pointermove="drag" @pointerup="lift">
      <i v-for="pause in pauses" :key="pause.from" class="pause" :style="{ left: left(pause.from), width: left(pause.to - pause.from) }" />
      <WaveLine :parts="parts" :played="played" />
      <i
        v-for="(mark, n) in marks"
        :key="n"
        class="mark"
        :class="mark.kind"
        :style="{ left: left(mark.at) }"
        :title="`${MARK_WORDS[mark.kind]} at ${preciseDuration(mark.at)}`"
      />
      <template v-if="range">
        <i class="chosen" :style="{ left: left(range.from), right: `calc(100% - ${left(range.to)})` }" />
        <button
          v-for="which in ['from', 'to'] as const"
          :key="which"
          class="peg"
          :class="which"
          :style="{ left: left(range[which]) }"
          :aria-label="`${which === 'from' ? 'Beginning' : 'End'} of the chosen part, ${preciseDuration(range[which])}; arrow keys move it`"
          @pointerdown.stop="press($event, which)"
          @keydown="nudge(which, $event)"
        />
      </template>
      <button
        v-for="seam in seams"
        :key="`${seam.id} ${seam.at}`"
        class="seam"
        :style="{ left: `clamp(0px, calc(${left(seam.at)} - 8px), ${String(Math.max(0, width - 16))}px)` }"
        :title="`${preciseDuration(seam.length)} was cut here. Click to open it again.`"
        :aria-label="`Open the cut of ${preciseDuration(seam.length)} again`"
        @pointerdown.stop
        @click="$emit('reopen', seam.id)"
      >
        <Scissor />
      </button>
    </div>
  </div>
</template>

<style scoped>
.place {
  position: relative;
  padding: 10px 0 4px;
  cursor: text;
  touch-action: pan-y;
}
/* Told apart by shape: a pause is a band, ink a dot, a step a bar, a stumble a wedge. */
.pause {
  position: absolute;
  top: 10px;
  bottom: 4px;
  background: repeating-linear-gradient(90deg, var(--line) 0 1px, transparent 1px 5px);
  pointer-events: none;
}
.mark {
  position: absolute;
  top: 1px;
  width: 8px;
  height: 8px;
  transform: translateX(-50%);
}
.mark.ink {
  border-radius: 50%;
  background: var(--alarm);
}
.mark.step {
  width: 2px;
  background: var(--soft);
}
.mark.stumble {
  clip-path: polygon(0 0, 100% 0, 50% 100%);
  background: var(--accent);
}
.chosen {
  position: absolute;
  top: 8px;
  bottom: 2px;
  background: repeating-linear-gradient(135deg, color-mix(in srgb, var(--brand) 45%, transparent) 0 2px, transparent 2px 7px);
  pointer-events: none;
}
.peg {
  position: absolute;
  top: 4px;
  bottom: -2px;
  width: 14px;
  padding: 0;
  border: 0;
  background: none;
  transform: translateX(-50%);
  cursor: ew-resize;
}
.peg::before {
  content: '';
  position: absolute;
  top: 4px;
  bottom: 0;
  left: 5.5px;
  width: 3px;
  border-radius: 2px;
  background: var(--brand);
}
.peg::after {
  content: '';
  position: absolute;
  top: 0;
  left: 2px;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  border: 2px solid var(--card);
  background: var(--brand);
}
.seam {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 16px;
  padding: 0;
  border: 0;
  background: repeating-linear-gradient(var(--accent) 0 4px, transparent 4px 7px) center / 2px 100% no-repeat;
  cursor: pointer;
  color: var(--accent-text);
}
.seam svg {
  position: absolute;
  top: -3px;
  left: 2px;
  width: 12px;
  height: 12px;
  background: var(--card);
  border-radius: 50%;
}
</style>
