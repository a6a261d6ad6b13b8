<script setup lang="ts">
import { spokenLines } from '@core/markup'
import { usePrompter } from '~/composables/usePrompter'
import { BAND_PLACES, PROMPTER_MOVES, usePreferences } from '~/stores/preferences'
import type { BandPlace } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'

/** The notes, three lines high, near the camera: the line that is due bright, its neighbours dim. `place`: where they stand. */
const lectern = useLectern()
const preferences = usePreferences()
const talk = useTalk()
defineProps<{ place: BandPlace }>()
const emit = defineEmits<{ place: [to: BandPlace] }>()
const whole = defineModel<boolean>('whole', { required: true })
const all = ref<HTMLElement | null>(null)

/** A line is a sentence or a pause. */
const lines = computed(() => spokenLines(lectern.slide?.notes ?? '', talk.talk?.language))
const { due, goTo, move } = usePrompter(lines)
const shown = computed(() => [-1, 0, 1].map((by) => ({ by, line: lines.value[due.value + by] })))
const MOVES = { hand: 'by hand', rate: 'at my pace', voice: 'with my voice' } as const
const PLACES: Readonly<Record<BandPlace, string>> = { top: 'at the top', left: 'on the left', right: 'on the right', foot: 'at the foot' }
const HINTS = {
  hand: 'Arrow up and down move the notes.',
  rate: 'The notes move at the pace learnt from your rehearsals and takes.',
  voice: 'The notes wait while you are silent and go on when you speak.',
} as const

function grow(by: number): void {
  preferences.set({ letters: Math.max(22, Math.min(48, preferences.now.letters + by)) })
}
function nextMoves(): void {
  preferences.set({ moves: PROMPTER_MOVES[(PROMPTER_MOVES.indexOf(preferences.now.moves) + 1) % PROMPTER_MOVES.length] ?? 'hand' })
}
watch([due, whole], () => {
  void nextTick(() => {
    all.value?.querySelector('.due')?.scrollIntoView({ block: 'center' })
  })
})
defineExpose({ move, grow, nextMoves })
</script>

<template>
  <section class="band" :class="`at-${place}`" aria-label="Notes" :style="{ fontSize: `${preferences.now.letters}px` }">
    <p v-if="lines.length === 0" class="none soft">No notes on this slide.</p>
    <div v-else-if="whole" ref="all" class="whole" tabindex="0">
      <p v-for="(line, n) in lines" :key="n" :class="{ due: n === due }" @click="goTo(n)"><SpokenWords :line="line" /></p>
    </div>
    <template v-else>
      <p v-for="{ by, line } in shown" :key="by" :class="{ due: by === 0 }"><SpokenWords v-if="line" :line="line" /></p>
    </template>
    <div class="ways">
      <button v-if="lines.length > 0" :title="`${HINTS[preferences.now.moves]} (A changes it)`" @click="nextMoves">
        moves <b>{{ MOVES[preferences.now.moves] }}</b>
      </button>
      <el-dropdown trigger="click" popper-class="dark-shell" @command="emit('place', $event)">
        <button title="Put the notes where your camera is; remembered for each camera">
          notes <b>{{ PLACES[place] }}</b>
        </button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item v-for="one in BAND_PLACES" :key="one" :command="one" :disabled="one === place">{{
              PLACES[one]
            }}</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </div>
  </section>
</template>

<style scoped>
.band {
  position: relative;
  display: grid;
  align-content: center;
  min-height: 124px;
  max-width: 980px;
  width: 100%;
  margin: 0 auto;
  padding: 4px 24px 30px;
  text-align: center;
  line-height: 1.25;
}
.band > p {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  color: color-mix(in srgb, var(--text) 58%, var(--ground));
  font-size: 0.78em;
  min-height: 1.25em;
}
.band > p.due {
  color: var(--text);
  font-size: 1em;
  font-weight: 600;
  white-space: normal;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
.band > p.none {
  font-size: 16px;
}
.whole {
  max-height: 46vh;
  overflow-y: auto;
  text-align: left;
}
.whole p {
  padding: 2px 0;
  color: var(--soft);
  cursor: pointer;
}
.whole p.due {
  color: var(--text);
  font-weight: 600;
}
.ways {
  position: absolute;
  right: 0;
  bottom: 0;
  display: flex;
  gap: 6px;
}
.ways button {
  padding: 0 6px;
  border: 0;
  border-radius: 4px;
  background: none;
  color: var(--soft);
  font: 13px var(--read);
  cursor: pointer;
}
.ways button:hover {
  background: var(--card);
}
.ways b {
  color: var(--text);
  font-weight: 600;
}
/* Beside the slide the notes are a column of its own, with whole sentences. */
.at-left,
.at-right {
  align-content: start;
  height: 100%;
  padding: 12px 8px 34px;
  overflow: hidden;
  text-align: left;
  gap: 10px;
}
.at-left > p,
.at-right > p {
  white-space: normal;
  font-size: 0.62em;
}
.at-left > p.due,
.at-right > p.due {
  font-size: 0.8em;
  -webkit-line-clamp: 9;
}
.at-left .whole,
.at-right .whole {
  max-height: none;
  font-size: 0.72em;
}
</style>
