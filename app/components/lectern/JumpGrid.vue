<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'

/** All slides, small, to go to any: by a click, by arrows and Enter, or by its number and Enter. */
const open = defineModel<boolean>({ required: true })
const lectern = useLectern()
const talk = useTalk()
const COLUMNS = 6
const chosen = ref(0)
const typed = ref('')

watch(open, (now) => {
  if (now) chosen.value = Math.max(0, lectern.place)
  typed.value = ''
})
const least = (n: number): number => Math.max(0, Math.min(lectern.running.length - 1, n))

function go(n: number, stamp: number): void {
  const slide = lectern.running[n]
  if (slide !== undefined) lectern.goTo(slide.id, stamp)
  open.value = false
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!open.value) return
  const moves: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: COLUMNS, ArrowUp: -COLUMNS }
  const by = moves[event.key]
  if (by !== undefined) chosen.value = least(chosen.value + by)
  else if (/^\d$/.test(event.key)) {
    typed.value = (typed.value + event.key).slice(-3)
    chosen.value = least(Number(typed.value) - 1)
  } else if (event.key === 'Enter') go(chosen.value, event.timeStamp)
  else if (event.key === 'Escape' || event.key.toLowerCase() === 'g') open.value = false
  else return
  event.preventDefault()
  event.stopPropagation()
})
watch(chosen, () => {
  void nextTick(() => {
    document.querySelector('.jump .chosen')?.scrollIntoView({ block: 'nearest' })
  })
})
</script>

<template>
  <section v-if="open" class="jump" role="dialog" aria-label="Go to a slide">
    <header>
      <b>Go to</b> <span class="soft">arrows or a number, then Enter; Esc closes</span><span class="gap" /><span
        v-if="typed"
        class="clock"
        >{{ typed }}</span
      >
    </header>
    <div class="grid">
      <button
        v-for="(slide, n) in lectern.running"
        :key="slide.id"
        :class="{ chosen: n === chosen, here: slide.id === lectern.slide?.id }"
        :aria-label="`Slide ${n + 1}: ${slide.title}`"
        @click="go(n, $event.timeStamp)"
      >
        <SlidePicture
          v-if="slide.steps[0] && talk.talk"
          :talk-id="talk.talk.id"
          :picture="slide.steps[0].picture"
          :drawn="{ slide, step: 0 }"
          alt=""
        />
        <span class="name"
          ><b class="clock">{{ n + 1 }}</b> {{ slide.title }}</span
        >
      </button>
    </div>
  </section>
</template>

<style scoped>
.jump {
  position: absolute;
  inset: 0;
  z-index: 5;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 8px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
header {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.gap {
  flex: 1;
}
.grid {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 10px;
  align-content: start;
  overflow-y: auto;
  padding: 2px;
}
.grid button {
  display: grid;
  gap: 2px;
  padding: 4px;
  border: 2px solid transparent;
  border-radius: 6px;
  background: none;
  color: var(--text);
  text-align: left;
  cursor: pointer;
  min-width: 0;
}
.grid button.here {
  border-color: var(--line);
}
.grid button.chosen {
  border-color: var(--brand);
  background: var(--ground);
}
.grid :deep(img),
.grid :deep(canvas) {
  width: 100%;
  display: block;
}
.name {
  font-size: 13px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
</style>
