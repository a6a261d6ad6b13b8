<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { DeliveryView } from '@contracts'
import { duration, fileSize } from '~/words'

/** Two files side by side: what was measured in them, and their pictures on either side of a line that can be moved. */
const props = defineProps<{ files: readonly [DeliveryView, DeliveryView] }>()
defineEmits<{ close: [] }>()
const left = ref<HTMLVideoElement | null>(null)
const right = ref<HTMLVideoElement | null>(null)
const split = ref(50)
const playing = ref(false)
const at = ref(0)
const longest = computed(() => Math.max(...props.files.map((file) => file.facts?.length ?? 0)) / 1000)
/** Farther apart than this the second picture is brought to the first, in seconds. */
const APART = 0.08

function toggle(): void {
  playing.value = !playing.value
  for (const video of [left.value, right.value]) {
    if (playing.value)
      void video?.play().catch(() => {
        playing.value = false
      })
    else video?.pause()
  }
}
function goTo(seconds: number): void {
  for (const video of [left.value, right.value]) if (video !== null) video.currentTime = seconds
}
/** The second follows the first; only the first is heard. */
function follow(): void {
  const [first, second] = [left.value, right.value]
  if (first === null || second === null) return
  at.value = first.currentTime
  if (Math.abs(second.currentTime - first.currentTime) > APART) second.currentTime = first.currentTime
  if (first.ended) playing.value = false
}
useEventListener(left, 'timeupdate', follow)

interface Row {
  readonly name: string
  readonly values: readonly string[]
}
/** How fine a file was asked for. */
function qualityWords({ bits, quality }: DeliveryView['recipe']): string {
  if (bits.kind === 'free') return quality
  return bits.kind === 'size' ? `under ${fileSize(bits.most)}` : `at most ${String(bits.most)} kbit/s`
}
const rows = computed<readonly Row[]>(() => {
  const of = (name: string, say: (facts: NonNullable<DeliveryView['facts']>, file: DeliveryView) => string): Row => ({
    name,
    values: props.files.map((file) => (file.facts === null ? '' : say(file.facts, file))),
  })
  return [
    of('length', (facts) => duration(facts.length)),
    of('picture', (facts) => `${String(facts.width)}×${String(facts.height)}`),
    of('frames', (facts) => `${String(facts.frameRate)} a second`),
    of('size', (facts) => fileSize(facts.bytes)),
    of('bit rate', (facts) => `${String(Math.round((facts.bytes * 8) / Math.max(1, facts.length)))} kbit/s`),
    of('quality', (_, { recipe }) => qualityWords(recipe)),
    of('stored as', ({ videoCodec, audioCodec }) => `${videoCodec}, ${audioCodec}`),
    of('loudness', (facts) => (facts.loudness === null ? 'silent' : `${facts.loudness.toFixed(1)} LUFS`)),
    of('made of', (_, file) => (file.revision === null ? 'planned times' : `version ${String(file.revision)} of the talk`)),
  ]
})
</script>

<template>
  <section class="compare" aria-label="Two files side by side">
    <div class="pictures">
      <video ref="left" :src="`/api/deliveries/${files[0].id}/file?show`" playsinline preload="auto" />
      <video
        ref="right"
        class="over"
        :style="{ clipPath: `inset(0 0 0 ${split}%)` }"
        :src="`/api/deliveries/${files[1].id}/file?show`"
        muted
        playsinline
        preload="auto"
      />
      <i class="line" :style="{ left: `${split}%` }" />
    </div>
    <el-slider v-model="split" :show-tooltip="false" aria-label="Where one picture ends and the other begins" />
    <div class="row">
      <button class="press" @click="toggle">{{ playing ? 'Pause' : 'Play both' }}</button>
      <el-slider
        class="time"
        :model-value="at"
        :max="longest"
        :step="0.04"
        :format-tooltip="(value: number) => duration(value * 1000)"
        aria-label="Time"
        @input="goTo(Number($event))"
      />
      <button class="press quiet small" @click="$emit('close')">Close</button>
    </div>
    <table>
      <thead>
        <tr>
          <th />
          <th v-for="(file, n) in files" :key="file.id" scope="col">{{ n === 0 ? 'left' : 'right' }}: {{ file.file }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name" :class="{ differs: row.values[0] !== row.values[1] }">
          <th scope="row">{{ row.name }}</th>
          <td v-for="(value, n) in row.values" :key="n" class="clock">{{ value }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.compare {
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  border: 1px solid var(--brand);
  border-radius: 6px;
  background: var(--card);
}
.pictures {
  position: relative;
  background: #14201e;
}
video {
  display: block;
  width: 100%;
  aspect-ratio: 16 / 9;
  object-fit: contain;
}
.over {
  position: absolute;
  inset: 0;
}
.line {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--accent);
}
.row {
  display: flex;
  gap: 16px;
  align-items: center;
}
.time {
  flex: 1;
}
table {
  border-collapse: collapse;
  font-size: 14.5px;
}
th,
td {
  padding: 3px 12px 3px 0;
  text-align: left;
  border-bottom: 1px solid var(--line);
}
th {
  font-weight: 400;
  color: var(--soft);
  overflow-wrap: anywhere;
}
.differs td {
  font-weight: 700;
}
</style>
