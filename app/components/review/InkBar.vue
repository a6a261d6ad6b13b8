<script setup lang="ts">
import { Highlighter, PenLine } from '@lucide/vue'
import { INK_HEX } from '@core/ink'
import { inkOfVisit } from '@core/scene'
import { INK_COLOURS } from '@core/model'
import type { InkColour } from '@core/model'
import type { Visit } from '@core/programme'
import { useInkAfterwards } from '~/stores/ink-afterwards'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { preciseDuration } from '~/words'

/** Ink of the film: a pen to draw more, and what can be done with the strokes that are chosen. */
const props = defineProps<{ visit: Visit | null }>()
const emit = defineEmits<{ go: [at: number] }>()
const ink = useInkAfterwards()
const programmeEdits = useProgrammeEdits()
const talk = useTalk()
const begun = computed(() => (talk.index === null || props.visit === null ? [] : inkOfVisit(talk.index, props.visit)))
const chosen = computed(() => begun.value.filter(({ stroke }) => ink.chosen?.strokes.includes(stroke.id)))
const first = computed(() => chosen.value[0] ?? null)
const count = computed(() => ink.chosen?.strokes.length ?? 0)
const TOOLS = [
  { tool: 'pen', name: 'Pen', icon: PenLine },
  { tool: 'marker', name: 'Marker', icon: Highlighter },
] as const

function colourWith(colour: InkColour): void {
  if (ink.chosen !== null) void ink.recolour(colour)
  else ink.colour = colour
}
/** The next stroke of this visit, for whoever works by keys. */
function next(): void {
  if (props.visit === null) return
  const at = begun.value.findIndex(({ stroke }) => stroke.id === ink.chosen?.strokes[0])
  const target = begun.value[(at + 1) % Math.max(1, begun.value.length)]
  if (target === undefined) return
  ink.choose(props.visit.id, [target.stroke.id])
  // Where it is there as a whole.
  emit('go', Math.min(props.visit.start + props.visit.length - 1, target.at + (target.stroke.points.at(-1)?.dt ?? 0) + 1))
}
/** Takes a pen up, or puts it down again. */
function choosePen(tool: (typeof TOOLS)[number]['tool']): void {
  ink.pen = ink.pen === tool ? null : tool
  ink.letGo()
}
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Ink">
    <template v-if="count === 0"
      ><button
        v-for="{ tool, name, icon } in TOOLS"
        :key="tool"
        class="press small"
        :class="{ on: ink.pen === tool }"
        :aria-pressed="ink.pen === tool"
        :title="`${name}: draw on the picture, also while it plays`"
        @click="choosePen(tool)"
      >
        <component :is="icon" />{{ name }}
      </button></template
    >
    <template v-if="ink.pen !== null || count > 0">
      <button
        v-for="colour in INK_COLOURS"
        :key="colour"
        class="dot"
        :class="{ on: count === 0 && ink.colour === colour }"
        :aria-label="count > 0 ? `Make it ${colour}` : `Ink: ${colour}`"
        :title="colour"
        :disabled="programmeEdits.busy && count > 0"
        @click="colourWith(colour)"
      >
        <i :style="{ background: INK_HEX[colour] }" />
      </button>
    </template>
    <template v-if="count > 0">
      <span class="soft say"
        ><template v-if="count > 1">{{ count }} strokes</template
        ><template v-else-if="first"
          >drawn at <b class="clock">{{ preciseDuration(first.at) }}</b></template
        ></span
      >
      <button class="press quiet small" :disabled="programmeEdits.busy" title="Drawn half a second earlier" @click="ink.shift(-500)">
        Earlier
      </button>
      <button class="press quiet small" :disabled="programmeEdits.busy" title="Drawn half a second later" @click="ink.shift(500)">
        Later
      </button>
      <button class="press small danger" :disabled="programmeEdits.busy" @click="ink.remove()">Delete</button>
      <button class="press quiet small" @click="ink.letGo()">Let go</button>
    </template>
    <template v-else-if="ink.pen === null && begun.length > 0">
      <button class="press quiet small" @click="next">Choose {{ begun.length === 1 ? 'its stroke' : 'a stroke' }}</button>
      <button
        v-if="visit && begun.length > 1"
        class="press quiet small"
        title="Choose every stroke of this visit"
        @click="
          ink.choose(
            visit.id,
            begun.map(({ stroke }) => stroke.id),
          )
        "
      >
        all {{ begun.length }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
  min-height: 30px;
}
.on {
  border-color: var(--brand);
  background: var(--brand-wash);
}
.dot {
  display: grid;
  place-items: center;
  width: 24px;
  height: 26px;
  padding: 0;
  border: 2px solid transparent;
  border-radius: 5px;
  background: none;
  cursor: pointer;
}
.dot.on {
  border-color: var(--brand);
}
.dot i {
  width: 15px;
  height: 15px;
  border-radius: 50%;
  border: 1px solid var(--line);
}
.say {
  font-size: 14px;
}
</style>
