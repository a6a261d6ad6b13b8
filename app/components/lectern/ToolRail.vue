<script setup lang="ts">
import { Delete, EditPen, Pointer, RefreshLeft } from '@element-plus/icons-vue'
import { INK_HEX } from '@core/ink'
import { INK_COLOURS, INK_WIDTHS } from '@core/model'
import type { InkColour, InkWidth } from '@core/model'
import { useLectern } from '~/stores/lectern'

const lectern = useLectern()
const widths = Object.keys(INK_WIDTHS) as InkWidth[]

function pick(colour: InkColour): void {
  lectern.colour = colour
  lectern.tool = 'pen'
}
</script>

<template>
  <div class="rail" role="toolbar" aria-label="Drawing" aria-orientation="vertical">
    <button :class="{ on: lectern.tool === 'point' }" :aria-pressed="lectern.tool === 'point'" title="Click to go on (V)" aria-label="Click to go on" @click="lectern.tool = 'point'"><Pointer /></button>
    <button :class="{ on: lectern.tool === 'pen' }" :aria-pressed="lectern.tool === 'pen'" title="Pen (D)" aria-label="Pen" @click="lectern.tool = 'pen'"><EditPen /></button>
    <hr>
    <button
      v-for="(colour, n) in INK_COLOURS" :key="colour" class="ink" :class="{ on: lectern.colour === colour }" :aria-pressed="lectern.colour === colour"
      :title="`${colour} (${n + 1})`" :aria-label="`Ink: ${colour}`" @click="pick(colour)"
    ><i :style="{ background: INK_HEX[colour] }" /></button>
    <hr>
    <button
      v-for="width in widths" :key="width" :class="{ on: lectern.width === width }" :aria-pressed="lectern.width === width"
      :title="width" :aria-label="`Width: ${width}`" @click="lectern.width = width"
    ><i class="line" :style="{ height: width === 'fine' ? '3px' : '7px' }" /></button>
    <hr>
    <button title="Take back the last stroke (Z)" aria-label="Take back the last stroke" :disabled="lectern.shownInk.length === 0" @click="lectern.undoStroke($event.timeStamp)"><RefreshLeft /></button>
    <button title="Wipe this slide (X)" aria-label="Wipe this slide" :disabled="lectern.shownInk.length === 0" @click="lectern.wipe($event.timeStamp)"><Delete /></button>
  </div>
</template>

<style scoped>
.rail { display: grid; gap: 4px; align-content: start; padding: 8px 6px; border-right: 1px solid var(--line); }
button { display: grid; place-items: center; width: 40px; height: 38px; padding: 0; border: 2px solid transparent; border-radius: 6px; background: transparent; color: var(--text); cursor: pointer; }
button:hover:not(:disabled) { background: var(--card); }
button.on { border-color: var(--brand); background: var(--card); }
button:disabled { opacity: 0.35; cursor: default; }
button svg { width: 20px; }
.ink i { width: 20px; height: 20px; border-radius: 50%; border: 2px solid var(--text); }
.line { width: 22px; border-radius: 4px; background: var(--text); }
hr { width: 100%; border: 0; border-top: 1px solid var(--line); margin: 4px 0; }
</style>
