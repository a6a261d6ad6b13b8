<script setup lang="ts">
import { Flag } from '@element-plus/icons-vue'
import { plannedTime } from '@core/pace'
import { pieceLength } from '@core/programme'
import type { Visit } from '@core/programme'
import type { Ms, Slide } from '@core/model'
import { useMending } from '~/stores/mending'
import { useTalk } from '~/stores/talk'
import { duration, preciseDuration } from '~/words'

/** One showing of one slide: its picture, its voice, what was written for it, how long it is. */
const props = defineProps<{ visit: Visit, number: number, slide: Slide | undefined, talkId: string, at: number, current: boolean }>()
const emit = defineEmits<{ play: [], go: [at: Ms], loop: [] }>()
const talk = useTalk()
const mending = useMending()

const parts = computed(() => talk.programme.pieces.slice(...props.visit.pieces).flatMap((piece) => {
  if (piece.kind === 'still' || piece.voice === null) return []
  return [{ peaks: talk.film?.peaks[piece.voice.stretch] ?? [], from: piece.voice.from, to: piece.voice.to }]
}))
const picture = computed(() => props.slide?.steps.at(-1)?.picture)
/** Where one stretch ended and the next began while the slide was up; a cut is no pause. */
const pauses = computed(() => talk.programme.pieces.slice(...props.visit.pieces).filter((piece, n, all) => {
  const before = all[n - 1]
  return piece.kind === 'recorded' && before?.kind === 'recorded' && before.show.stretch !== piece.show.stretch
}).length)
const strokes = computed(() => {
  const spans = talk.programme.pieces.slice(...props.visit.pieces).flatMap((piece) => (piece.kind === 'still' ? [] : [piece.show]))
  return spans.reduce((sum, span) => sum + (talk.film?.stretches.find((one) => one.id === span.stretch)?.cues
    .filter((cue) => cue.kind === 'ink' && cue.at >= span.from && cue.at < span.to).length ?? 0), 0)
})
/** Where the presenter stumbled, in ms from the visit's beginning. */
const stumbles = computed(() => {
  let at = 0
  return talk.programme.pieces.slice(...props.visit.pieces).flatMap((piece) => {
    const from = at
    at += pieceLength(piece)
    if (piece.kind === 'still') return []
    const cues = talk.film?.stretches.find((one) => one.id === piece.show.stretch)?.cues ?? []
    return cues.flatMap((cue) => (cue.kind === 'stumble' && cue.at >= piece.show.from && cue.at < piece.show.to
      ? [from + Math.round(((cue.at - piece.show.from) * piece.rate.den) / piece.rate.num)] : []))
  })
})
/** The chosen part, as far as it lies in this visit, from its beginning on. */
const range = computed(() => {
  const chosen = mending.range
  if (chosen === null || chosen.from < props.visit.start || chosen.from >= props.visit.start + props.visit.length) return null
  return { from: chosen.from - props.visit.start, to: Math.min(chosen.to - props.visit.start, props.visit.length) }
})
const seams = computed(() => mending.seams.filter(({ seam, at }) => (seam.after === null
  ? props.visit.start === 0
  : talk.programme.pieces.slice(...props.visit.pieces).some((piece) => piece.id === seam.after)) && at >= props.visit.start).map(({ seam, at }) => ({ seam, at: at - props.visit.start })))
function choose(from: Ms, to: Ms): void {
  if (to > from) mending.range = { from: props.visit.start + from, to: props.visit.start + to }
}
function playChosen(): void {
  if (range.value !== null) emit('go', range.value.from)
}
const planned = computed(() => (props.slide === undefined ? 0 : plannedTime({ ...props.slide, skip: false }, talk.speaker)))
const played = computed(() => Math.max(0, Math.min(1, (props.at - props.visit.start) / props.visit.length)))
</script>

<template>
  <article class="visit" :class="{ current }">
    <button class="picture" :aria-label="`Play from ${number}: ${slide?.title ?? ''}`" @click="$emit('play')">
      <SlidePicture v-if="picture" :talk-id="talkId" :picture="picture" alt="" />
      <b class="clock">{{ number }}</b>
    </button>
    <div class="sound">
      <div class="head"><h3 :title="slide?.title">{{ slide?.title || `Slide ${number}` }}</h3><span class="clock soft">{{ preciseDuration(visit.start) }}</span><VisitMenu :visit="visit" /></div>
      <RangeWave :parts="parts" :played="played" :length="visit.length" :range="range" :seams="seams" @range="choose" @go="$emit('go', $event)" @reopen="mending.edit({ kind: 'reopen', seam: $event })" />
      <RangeBar v-if="range && mending.range" :range="mending.range" @play="playChosen" @loop="$emit('loop')" />
      <p v-if="stumbles.length > 0" class="stumbles">
        <button v-for="place in stumbles" :key="place" class="press quiet small" title="Play from three seconds before" @click="$emit('go', Math.max(0, place - 3000))"><Flag />stumble at <span class="clock">{{ preciseDuration(visit.start + place) }}</span></button>
      </p>
      <p class="marks soft"><NuxtLink class="retake" :to="`/talks/${talkId}/lectern?retake=${encodeURIComponent(visit.id)}`">Retake</NuxtLink>
        <span class="clock" :class="{ long: visit.length > planned * 1.25 }">{{ preciseDuration(visit.length) }}</span> of {{ duration(planned) }} planned<template v-if="strokes > 0">, {{ strokes }} {{ strokes === 1 ? 'stroke' : 'strokes' }}</template><template v-if="pauses > 0">, {{ pauses }} {{ pauses === 1 ? 'pause' : 'pauses' }}</template>
      </p>
    </div>
    <p class="written soft">{{ slide?.notes || 'Nothing was written for this slide.' }}</p>
  </article>
</template>

<style scoped>
.visit { display: grid; grid-template-columns: 112px minmax(0, 1.1fr) minmax(0, 1fr); gap: 14px; padding: 10px 14px; border-bottom: 1px solid var(--line); border-left: 4px solid transparent; background: var(--card); }
.visit.current { border-left-color: var(--accent); background: color-mix(in srgb, var(--accent-wash) 40%, var(--card)); }
.picture { position: relative; padding: 0; border: 1px solid var(--line); background: none; cursor: pointer; align-self: start; }
.picture b { position: absolute; left: 3px; bottom: 3px; padding: 0 5px; border-radius: 3px; background: var(--card); font-size: 13px; }
.sound { display: grid; gap: 3px; align-content: start; }
.head { display: flex; gap: 8px; align-items: center; font-size: 14px; }
.head h3 { flex: 1; }
h3 { font: 600 15px var(--read); overflow: hidden; white-space: nowrap; text-overflow: ellipsis; }
.marks { font-size: 13.5px; }
.retake { float: right; color: var(--brand); font-weight: 600; }
.stumbles { display: flex; flex-wrap: wrap; gap: 4px; }
.stumbles .press { color: var(--accent-text); }
.marks .long { color: var(--accent-text); font-weight: 700; }
.written { font-size: 14px; max-height: 84px; overflow-y: auto; white-space: pre-line; }
</style>
