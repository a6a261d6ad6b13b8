<script setup lang="ts">
import { Eraser, Highlighter, LocateFixed, MousePointerClick, PenLine, Shapes, Trash2, Type, Undo2 } from '@lucide/vue'
import { INK_HEX } from '@core/ink'
import { INK_COLOURS, INK_WIDTH_NAMES } from '@core/model'
import type { InkColour } from '@core/model'
import { usePreferences } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import type { Tool } from '~/lectern/ink-layer'

const lectern = useLectern()
const preferences = usePreferences()
const tools: readonly {
  readonly tool: Tool
  readonly word: string
  readonly name: string
  readonly key: string
  readonly icon: typeof Eraser
}[] = [
  { tool: 'hand', word: 'Go on', name: 'Click to go on', key: 'V', icon: MousePointerClick },
  { tool: 'spot', word: 'Spot', name: 'Pointer spot', key: 'O', icon: LocateFixed },
  { tool: 'pen', word: 'Pen', name: 'Pen', key: 'D', icon: PenLine },
  { tool: 'marker', word: 'Marker', name: 'Marker', key: 'L', icon: Highlighter },
  { tool: 'label', word: 'Label', name: 'Label: click, then type', key: 'T', icon: Type },
  { tool: 'eraser', word: 'Eraser', name: 'Eraser', key: 'E', icon: Eraser },
]

function pick(colour: InkColour): void {
  lectern.colour = colour
  if (lectern.tool !== 'marker' && lectern.tool !== 'label') lectern.tool = 'pen'
}
</script>

<template>
  <div class="rail" role="toolbar" aria-label="Drawing" aria-orientation="vertical">
    <button
      v-for="one in tools"
      :key="one.tool"
      :class="{ on: lectern.tool === one.tool }"
      :aria-pressed="lectern.tool === one.tool"
      :title="`${one.name} (${one.key})`"
      :aria-label="one.name"
      @click="lectern.tool = one.tool"
    >
      <component :is="one.icon" /><span>{{ one.word }}</span>
    </button>
    <hr />
    <div class="two">
      <button
        v-for="(colour, n) in INK_COLOURS"
        :key="colour"
        class="ink"
        :class="{ on: lectern.colour === colour }"
        :aria-pressed="lectern.colour === colour"
        :title="`${colour} (${n + 1})`"
        :aria-label="`Ink: ${colour}`"
        @click="pick(colour)"
      >
        <i :style="{ background: INK_HEX[colour] }" />
      </button>
    </div>
    <hr />
    <div class="two">
      <button
        v-for="width in INK_WIDTH_NAMES"
        :key="width"
        :class="{ on: lectern.width === width }"
        :aria-pressed="lectern.width === width"
        :title="width"
        :aria-label="`Width: ${width}`"
        @click="lectern.width = width"
      >
        <i class="line" :style="{ height: width === 'fine' ? '3px' : '7px' }" />
      </button>
    </div>
    <hr />
    <button
      :class="{ on: preferences.now.tidy }"
      :aria-pressed="preferences.now.tidy"
      title="Holding still makes a clean line, arrow, box or ellipse"
      aria-label="Holding still makes clean shapes"
      @click="preferences.set({ tidy: !preferences.now.tidy })"
    >
      <Shapes /><span>Tidy</span>
    </button>
    <button
      title="Take back the last stroke (Z)"
      aria-label="Take back the last stroke"
      :disabled="lectern.shownInk.length === 0"
      @click="lectern.undoStroke($event.timeStamp)"
    >
      <Undo2 /><span>Undo</span>
    </button>
    <button
      title="Wipe this slide (X)"
      aria-label="Wipe this slide"
      :disabled="lectern.shownInk.length === 0"
      @click="lectern.wipe($event.timeStamp)"
    >
      <Trash2 /><span>Wipe</span>
    </button>
  </div>
</template>

<style scoped>
.rail {
  display: grid;
  gap: 2px;
  align-content: start;
  padding: 6px 2px;
  justify-items: center;
  overflow-y: auto;
  border-right: 1px solid var(--line);
}
button {
  display: grid;
  place-items: center;
  align-content: center;
  width: 48px;
  min-height: 38px;
  padding: 0;
  border: 2px solid transparent;
  border-radius: 6px;
  background: transparent;
  color: var(--text);
  cursor: pointer;
}
button:hover:not(:disabled) {
  background: var(--card);
}
button.on {
  border-color: var(--brand);
  background: var(--card);
}
button:disabled {
  opacity: 0.35;
  cursor: default;
}
button svg {
  width: 18px;
  height: 18px;
}
button span {
  font-size: 11.5px;
  line-height: 1.15;
}
@media (max-height: 760px) {
  button {
    width: 40px;
    min-height: 30px;
  }
  button span {
    display: none;
  }
}
.two {
  display: grid;
  grid-template-columns: 24px 24px;
  justify-content: center;
}
.two button {
  width: 24px;
  min-height: 28px;
}
.ink i {
  width: 16px;
  height: 16px;
  border-radius: 50%;
  border: 2px solid var(--text);
}
.line {
  width: 14px;
  border-radius: 4px;
  background: var(--text);
}
hr {
  width: 100%;
  border: 0;
  border-top: 1px solid var(--line);
  margin: 2px 0;
}
</style>
