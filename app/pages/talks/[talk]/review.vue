<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { FullScreen, RefreshLeft, RefreshRight, VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useFilmPlayer } from '~/composables/useFilmPlayer'
import { usePictures } from '~/composables/usePictures'
import { useMending } from '~/stores/mending'
import { useTalk } from '~/stores/talk'
import { preciseDuration } from '~/words'

const talk = useTalk()
const canvas = ref<HTMLCanvasElement | null>(null)
const mending = useMending()
const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2]
const panel = ref<'fit' | 'pauses' | 'history' | 'takes'>('fit')
const PANELS = [{ key: 'fit', name: 'Fit' }, { key: 'pauses', name: 'Pauses' }, { key: 'history', name: 'History' }, { key: 'takes', name: 'Takes' }] as const
const { width } = useElementSize(canvas)

useHead({ title: () => `Review · ${talk.talk?.name ?? 'Aisle Talk'}` })

const shape = computed(() => talk.talk?.shape ?? { width: 16, height: 9 })
const size = computed(() => {
  const pixels = Math.max(320, Math.round(width.value * Math.min(2, window.devicePixelRatio)))
  return { width: pixels, height: Math.round((pixels * shape.value.height) / shape.value.width) }
})
const shelf = usePictures(() => talk.talk?.id ?? '', () => { player.draw() })
const index = computed(() => talk.index)
const player = useFilmPlayer(index, canvas, size, shelf)
const slides = computed(() => new Map(talk.film?.slides.map((slide) => [slide.id, slide]) ?? []))
const current = computed(() => talk.visits.findLast((visit) => visit.start <= player.at.value)?.id)
const closing = computed(() => (talk.talk?.takes ?? []).some((take) => take.state === 'closing'))

function jump(by: -1 | 1): void {
  const at = talk.visits.findIndex((visit) => visit.id === current.value)
  const target = talk.visits[by === -1 && player.at.value - (talk.visits[at]?.start ?? 0) > 1500 ? at : at + by]
  if (target !== undefined) player.seek(target.start)
}

function playFrom(at: number): void {
  player.pause()
  player.seek(at)
  player.play()
}

/** Plays the chosen part over and over, until it is let go. */
function loopRange(): void {
  player.loop.value = mending.range
  if (mending.range !== null) playFrom(mending.range.from)
}
watch(() => mending.range, (range) => { if (range === null) player.loop.value = null })

/** Sets a bracket where the film stands. */
function bracket(which: 'from' | 'to'): void {
  const at = Math.round(player.at.value)
  const { from, to } = mending.range ?? (which === 'from' ? { from: at, to: talk.index?.length ?? at } : { from: 0, to: at })
  const next = which === 'from' ? { from: at, to: Math.max(to, at + 10) } : { from: Math.min(from, at - 10), to: at }
  if (next.from >= 0) mending.range = next
}
const cutRange = (): void => { if (mending.range !== null) void mending.edit({ kind: 'cut', parts: [mending.range] }) }
const wide = (): void => { void canvas.value?.requestFullscreen().catch(() => undefined) }

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.target instanceof HTMLInputElement || event.altKey) return
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
    event.preventDefault()
    void mending.back(event.shiftKey ? 'redo' : 'undo')
    return
  }
  if (event.ctrlKey || event.metaKey || (event.target instanceof HTMLButtonElement && (event.key === ' ' || event.key === 'Enter'))) return
  const actions: Readonly<Record<string, () => void>> = {
    ' ': () => { if (player.playing.value) player.pause(); else player.play() },
    ArrowRight: () => { player.seek(player.at.value + (event.shiftKey ? 1000 / 30 : 2000)) },
    ArrowLeft: () => { player.seek(player.at.value - (event.shiftKey ? 1000 / 30 : 2000)) },
    ArrowDown: () => { jump(1) },
    ArrowUp: () => { jump(-1) },
    Home: () => { player.seek(0) },
    '[': () => { bracket('from') },
    ']': () => { bracket('to') },
    Delete: cutRange,
    Escape: () => { mending.range = null },
  }
  const action = actions[event.key]
  if (action === undefined) return
  event.preventDefault()
  action()
})
watch(current, (id) => {
  if (id !== undefined && player.playing.value) document.getElementById(`visit-${id}`)?.scrollIntoView({ block: 'nearest' })
})
</script>

<template>
  <StationFrame by-visit :playhead="talk.index ? player.at.value : null" :landing="talk.index?.length ?? 0" @seek="player.seek($event)">
    <div v-if="talk.index === null" class="empty">
      <h1>{{ closing ? 'The take is being made ready' : 'Nothing recorded yet' }}</h1>
      <p class="soft">{{ closing ? 'It appears here by itself in a moment.' : 'What you record at the Lectern is played and mended here.' }}</p>
      <NuxtLink v-if="!closing && talk.talk" class="press main" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
      <TakesPanel v-if="!closing" />
    </div>
    <div v-else class="review">
      <section class="film" aria-label="Film">
        <canvas ref="canvas" class="picture" :width="size.width" :height="size.height" :style="{ aspectRatio: `${shape.width} / ${shape.height}` }" role="img" aria-label="The film as viewers see it" @click="player.playing.value ? player.pause() : player.play()" />
        <div class="transport">
          <button class="press main" :aria-label="player.playing.value ? 'Pause' : 'Play'" @click="player.playing.value ? player.pause() : player.play()">
            <VideoPause v-if="player.playing.value" /><VideoPlay v-else />{{ player.playing.value ? 'Pause' : 'Play' }}
          </button>
          <button class="press" @click="player.seek(0)">From the start</button>
          <el-select v-model="player.speed.value" size="small" class="speed" aria-label="How fast it is played"><el-option v-for="one in SPEEDS" :key="one" :value="one" :label="`× ${one}`" /></el-select>
          <button class="press quiet small" aria-label="Fill the screen" title="Fill the screen" @click="wide"><FullScreen /></button>
          <span class="clock time">{{ preciseDuration(player.at.value) }} <span class="soft">/ {{ preciseDuration(talk.index.length) }}</span></span>
        </div>
        <p class="soft hint">Space plays, ← → 2 s or with Shift a frame, ↑ ↓ a visit, [ ] choose, Delete cuts.</p>
        <p v-if="player.trouble.value" class="notice bad" role="alert">{{ player.trouble.value }}</p>
        <div class="row">
          <button class="press small" :disabled="mending.busy || !mending.history?.undo" :title="mending.history?.undo ? `Take back: ${mending.history.undo}` : 'Nothing to take back'" @click="mending.back('undo')"><RefreshLeft />Undo</button>
          <button class="press small" :disabled="mending.busy || !mending.history?.redo" :title="mending.history?.redo ? `Do again: ${mending.history.redo}` : 'Nothing to do again'" @click="mending.back('redo')"><RefreshRight />Redo</button>
          <span class="gap" />
          <NuxtLink v-if="talk.talk" class="press small" :to="`/talks/${talk.talk.id}/lectern`">Retake all</NuxtLink>
          <NuxtLink v-if="talk.talk" class="press small main" :to="`/talks/${talk.talk.id}/hand-over`">Make the file</NuxtLink>
        </div>
        <p v-if="mending.trouble" class="notice bad" role="alert"><span>{{ mending.trouble }}</span><button class="press quiet small" @click="mending.trouble = null">Close</button></p>
        <div class="panels">
          <div class="tabs" role="tablist" aria-label="Mending">
            <button v-for="{ key, name } in PANELS" :key="key" role="tab" :aria-selected="panel === key" @click="panel = key">{{ name }}</button>
          </div>
          <FitPanel v-if="panel === 'fit'" />
          <PausePanel v-else-if="panel === 'pauses'" @go="playFrom" />
          <HistoryPanel v-else-if="panel === 'history'" />
          <TakesPanel v-else />
        </div>
      </section>
      <section class="sheet" aria-label="Visits">
        <VisitRow
          v-for="(visit, n) in talk.visits" :id="`visit-${visit.id}`" :key="visit.id" :visit="visit" :number="n + 1" :slide="slides.get(visit.slide)" :talk-id="talk.talk!.id"
          :at="player.at.value" :current="visit.id === current" @play="playFrom(visit.start)" @go="playFrom(visit.start + $event)" @loop="loopRange"
        />
      </section>
    </div>
  </StationFrame>
</template>

<style scoped>
.review { display: grid; grid-template-columns: 46% minmax(0, 1fr); height: 100%; }
.film { display: grid; gap: 10px; align-content: start; padding: 14px 16px; border-right: 1px solid var(--line); overflow-y: auto; }
.picture { width: 100%; border: 1px solid var(--line); background: #14201E; cursor: pointer; display: block; }
.transport { display: flex; align-items: center; gap: 10px; }
.time { margin-left: auto; font-size: 19px; }
.hint { font-size: 13.5px; }
.row { display: flex; gap: 8px; align-items: center; }
.gap { flex: 1; }
.speed { width: 84px; }
.panels { display: grid; gap: 12px; padding-top: 4px; border-top: 1px solid var(--line); }
.tabs { display: flex; gap: 4px; }
.tabs button { padding: 6px 12px; border: 0; border-bottom: 3px solid transparent; background: none; color: var(--soft); font-weight: 600; cursor: pointer; }
.tabs button[aria-selected='true'] { color: var(--text); border-bottom-color: var(--accent); }
.sheet { overflow-y: auto; }
.empty { display: grid; gap: 14px; justify-items: center; align-content: center; height: 100%; }
</style>
