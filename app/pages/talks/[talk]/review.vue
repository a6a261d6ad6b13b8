<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useFilmPlayer } from '~/composables/useFilmPlayer'
import { usePictures } from '~/composables/usePictures'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'
import { duration, moment, preciseDuration } from '~/words'

const talk = useTalk()
const canvas = ref<HTMLCanvasElement | null>(null)
const discarded = ref<string | null>(null)
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
const takes = computed(() => (talk.talk?.takes ?? []).filter((take) => take.state === 'closed' && take.length > 0))
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

async function discard(take: string, undo: boolean): Promise<void> {
  try {
    if (undo) await api.post(`/takes/${take}/restore`)
    else await api.delete(`/takes/${take}`)
    discarded.value = undo ? null : take
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  }
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.target instanceof HTMLInputElement || event.target instanceof HTMLButtonElement || event.ctrlKey || event.metaKey || event.altKey) return
  const actions: Readonly<Record<string, () => void>> = {
    ' ': () => { if (player.playing.value) player.pause(); else player.play() },
    ArrowRight: () => { player.seek(player.at.value + (event.shiftKey ? 1000 / 30 : 2000)) },
    ArrowLeft: () => { player.seek(player.at.value - (event.shiftKey ? 1000 / 30 : 2000)) },
    ArrowDown: () => { jump(1) },
    ArrowUp: () => { jump(-1) },
    Home: () => { player.seek(0) },
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
      <button v-if="discarded" class="press" @click="discard(discarded, true)">Undo: bring the take back</button>
    </div>
    <div v-else class="review">
      <section class="film" aria-label="Film">
        <canvas ref="canvas" class="picture" :width="size.width" :height="size.height" :style="{ aspectRatio: `${shape.width} / ${shape.height}` }" role="img" aria-label="The film as viewers see it" @click="player.playing.value ? player.pause() : player.play()" />
        <div class="transport">
          <button class="press main" :aria-label="player.playing.value ? 'Pause' : 'Play'" @click="player.playing.value ? player.pause() : player.play()">
            <VideoPause v-if="player.playing.value" /><VideoPlay v-else />{{ player.playing.value ? 'Pause' : 'Play' }}
          </button>
          <button class="press" @click="player.seek(0)">From the start</button>
          <span class="clock time">{{ preciseDuration(player.at.value) }} <span class="soft">/ {{ preciseDuration(talk.index.length) }}</span></span>
        </div>
        <p class="soft hint">Space plays, ← → two seconds, with Shift a frame, ↑ ↓ a visit.</p>
        <p v-if="player.trouble.value" class="notice bad" role="alert">{{ player.trouble.value }}</p>
        <div class="takes">
          <h2>Takes</h2>
          <div v-if="discarded" class="notice" role="status"><p>The take was discarded.</p><button class="press small" @click="discard(discarded, true)">Undo</button></div>
          <div v-for="take in takes" :key="take.id" class="take">
            <span>Recorded {{ moment(take.started) }}, <span class="clock">{{ duration(take.length) }}</span></span>
            <button class="press quiet small danger" @click="discard(take.id, false)">Discard</button>
          </div>
          <div class="next">
            <NuxtLink v-if="talk.talk" class="press" :to="`/talks/${talk.talk.id}/lectern`">Retake all</NuxtLink>
            <NuxtLink v-if="talk.talk" class="press main" :to="`/talks/${talk.talk.id}/hand-over`">Make the file</NuxtLink>
          </div>
        </div>
      </section>
      <section class="sheet" aria-label="Visits">
        <VisitRow
          v-for="(visit, n) in talk.visits" :id="`visit-${visit.id}`" :key="visit.id" :visit="visit" :number="n + 1" :slide="slides.get(visit.slide)" :talk-id="talk.talk!.id"
          :at="player.at.value" :current="visit.id === current" @play="playFrom(visit.start)" @go="playFrom(visit.start + $event)"
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
.takes { display: grid; gap: 8px; padding-top: 8px; border-top: 1px solid var(--line); }
h2 { font-size: 17px; }
.take { display: flex; justify-content: space-between; align-items: center; }
.next { display: flex; gap: 10px; padding-top: 6px; }
.sheet { overflow-y: auto; }
.empty { display: grid; gap: 14px; justify-items: center; align-content: center; height: 100%; }
</style>
