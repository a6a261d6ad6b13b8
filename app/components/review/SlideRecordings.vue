<script setup lang="ts">
import type { Ms } from '@core/model'
import { piecesOfVisit } from '@core/programme'
import type { Visit } from '@core/programme'
import type { RecordingView } from '@contracts'
import { api, recordingUrl, sentenceOf } from '~/client'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { duration, moment } from '~/words'

/** Every recording of a visit's slide side by side, to be heard and chosen. */
const props = defineProps<{ visit: Visit; title: string }>()
const open = defineModel<boolean>({ required: true })
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const recordings = shallowRef<readonly RecordingView[] | null>(null)
const trouble = ref<string | null>(null)
/** The one that plays; only that recording has one. */
let media: HTMLVideoElement | null = null
const hold = (element: unknown): void => {
  media = element instanceof HTMLVideoElement ? element : null
}
const playing = shallowRef<RecordingView | null>(null)
const at = ref<Ms>(0)
let part = 0

const KINDS = { full: 'Whole take', retake: 'Retake', dub: 'Voice', rehearsal: 'Run-through' } as const
/** How much of this recording the visit is made of now. */
function share(recording: RecordingView): 'all' | 'some' | 'none' {
  const shown = piecesOfVisit(talk.programme, props.visit).flatMap((piece) => (piece.kind === 'recorded' ? [piece.show] : []))
  const here = shown.filter((show) =>
    recording.parts.some(({ stretch, from, to }) => stretch === String(show.stretch) && show.from < to && show.to > from),
  )
  const length = here.reduce((sum, show) => sum + show.to - show.from, 0)
  if (here.length === 0) return 'none'
  return here.length === shown.length && length === recording.parts.reduce((sum, part) => sum + part.to - part.from, 0) ? 'all' : 'some'
}
const named = (recording: RecordingView): string => `${KINDS[recording.kind]} of ${moment(recording.started)}`

async function load(): Promise<void> {
  recordings.value = null
  trouble.value = null
  try {
    recordings.value = await api.get<RecordingView[]>(`/talks/${talk.talk?.id ?? ''}/slides/${props.visit.slide}/recordings`)
  } catch (error) {
    trouble.value = sentenceOf(error)
  }
}

function stop(): void {
  media?.pause()
  playing.value = null
}
function playPart(recording: RecordingView, n: number): void {
  const next = recording.parts[n]
  if (next === undefined || media === null) {
    stop()
    return
  }
  part = n
  playing.value = recording
  const url = recordingUrl(next.stretch)
  if (!media.src.endsWith(url)) media.src = url
  media.currentTime = next.from / 1000
  void media.play().catch(() => {
    trouble.value = 'This recording cannot be played here. It is kept on the server; reload the page to try again.'
    stop()
  })
}
function heard(): void {
  const now = playing.value
  const current = now?.parts[part]
  if (now === null || current === undefined || media === null) return
  const time = media.currentTime * 1000
  at.value = now.parts.slice(0, part).reduce((sum, one) => sum + one.to - one.from, 0) + time - current.from
  if (time >= current.to || media.ended) playPart(now, part + 1)
}
async function use(recording: RecordingView): Promise<void> {
  stop()
  if (await programmeEdits.use({ visit: props.visit.id, take: recording.take, showing: recording.showing, name: Date.now().toString(36) }))
    open.value = false
}
watch(open, (now) => {
  if (now) void load()
  else stop()
})
async function play(recording: RecordingView): Promise<void> {
  playing.value = recording
  await nextTick()
  playPart(recording, 0)
}
</script>

<template>
  <el-dialog v-model="open" :title="`Recordings of “${title}”`" width="min(920px, 92vw)" append-to-body>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-else-if="recordings === null" class="soft">Looking …</p>
    <p v-else-if="recordings.length === 0">This slide was never recorded by itself: it is held without a voice.</p>
    <div v-else class="side">
      <article
        v-for="recording in recordings"
        :key="recording.showing"
        :class="{ on: share(recording) !== 'none' }"
        :aria-label="named(recording)"
      >
        <video v-if="playing === recording" :ref="hold" class="film" playsinline @timeupdate="heard" />
        <div v-else class="film none">
          <span class="clock">{{ duration(recording.length) }}</span>
        </div>
        <WaveLine
          :parts="recording.parts.map((one) => ({ peaks: one.peaks, from: 0, to: one.to - one.from }))"
          :played="playing === recording ? at / recording.length : 0"
        />
        <h3>{{ named(recording) }}</h3>
        <div class="acts">
          <button v-if="playing === recording" class="press small" @click="stop">Stop</button>
          <button v-else class="press small" @click="play(recording)">Play</button>
          <span v-if="share(recording) !== 'none'" class="soft">{{
            share(recording) === 'all' ? 'in the talk now' : 'partly in the talk'
          }}</span>
          <button v-if="share(recording) !== 'all'" class="press small main" :disabled="programmeEdits.busy" @click="use(recording)">
            Take this one
          </button>
        </div>
      </article>
    </div>
    <p v-if="programmeEdits.trouble" class="notice bad" role="alert">{{ programmeEdits.trouble }}</p>
  </el-dialog>
</template>

<style scoped>
.side {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 250px;
  gap: 14px;
  overflow-x: auto;
  padding: 2px 2px 10px;
}
article {
  display: grid;
  gap: 8px;
  align-content: start;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
article.on {
  border-color: var(--brand);
  border-width: 2px;
  padding: 11px;
}
.film {
  width: 100%;
  aspect-ratio: 16 / 9;
  background: #14201e;
}
.none {
  display: grid;
  place-items: center;
  background: var(--brand-wash);
  font-size: 22px;
  color: var(--soft);
}
h3 {
  font: 600 15px var(--read);
}
.acts {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
}
</style>
