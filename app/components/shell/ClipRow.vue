<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { SHORTEST_CLIP } from '@core/model'
import type { Clip, ClipStart, Ms } from '@core/model'
import { assetUrl } from '~/client'
import { preciseDuration, readDuration } from '~/words'

/** One clip: when it begins, which part of it is played, and how loud. */
const props = defineProps<{ clip: Clip; talkId: string; steps: number }>()
const emit = defineEmits<{ change: [fields: Partial<Clip>]; off: [] }>()

const player = ref<HTMLVideoElement | null>(null)
const starts = [
  { value: 'step', label: 'by itself' },
  { value: 'click', label: 'when I click' },
] as const
const EDGES = [
  { edge: 'from', label: 'From', name: 'begins at', here: 'From here' },
  { edge: 'to', label: 'To', name: 'ends at', here: 'To here' },
] as const

/** As near to what is wanted as the clip allows. */
function setPart(edge: 'from' | 'to', wanted: Ms): void {
  const { from, to, media } = props.clip
  const at = Math.round(wanted)
  emit(
    'change',
    edge === 'from'
      ? { from: Math.max(0, Math.min(at, to - SHORTEST_CLIP)) }
      : { to: Math.max(from + SHORTEST_CLIP, Math.min(at, media.length)) },
  )
}
function typed(edge: 'from' | 'to', text: string): void {
  const read = readDuration(text)
  if (read !== null) setPart(edge, read)
}
function setHere(edge: 'from' | 'to'): void {
  setPart(edge, (player.value?.currentTime ?? 0) * 1000)
}
/** Plays the part that is shown, and no more. */
function playPart(): void {
  if (player.value === null) return
  player.value.currentTime = props.clip.from / 1000
  void player.value.play().catch(() => undefined)
}
function watchEnd(): void {
  if (player.value !== null && !player.value.paused && player.value.currentTime * 1000 >= props.clip.to) player.value.pause()
}
</script>

<template>
  <ClipCard :name="clip.name">
    <template #beside>
      <button class="press quiet small" :aria-label="`Take ${clip.name} off this slide`" @click="$emit('off')"><Delete />Take off</button>
    </template>
    <div class="look">
      <video
        ref="player"
        controls
        playsinline
        preload="metadata"
        :class="{ sound: clip.media.picture === null }"
        :src="assetUrl(talkId, clip.media.file)"
        :aria-label="`${clip.name}, to look at`"
        @timeupdate="watchEnd"
      />
      <div class="part">
        <template v-for="{ edge, label, name, here } in EDGES" :key="edge">
          <span class="soft">{{ label }}</span>
          <DraftInput
            class="time clock"
            :model-value="preciseDuration(clip[edge])"
            :aria-label="`${clip.name} ${name}`"
            @update:model-value="typed(edge, $event)"
          />
          <button class="press quiet small" @click="setHere(edge)">{{ here }}</button>
        </template>
        <button class="press small whole" @click="playPart">Play this part</button>
      </div>
    </div>
    <div class="row">
      <label class="field"
        >It starts
        <el-select
          :model-value="clip.start"
          size="small"
          aria-label="What starts it"
          @update:model-value="$emit('change', { start: $event as ClipStart })"
        >
          <el-option v-for="{ value, label } in starts" :key="value" :value="value" :label="label" />
        </el-select>
      </label>
      <label v-if="steps > 1" class="field"
        >It is there from step
        <el-select
          :model-value="clip.step"
          size="small"
          aria-label="From which step on"
          @update:model-value="$emit('change', { step: $event as number })"
        >
          <el-option v-for="n in steps" :key="n" :value="n - 1" :label="String(n)" />
        </el-select>
      </label>
      <el-checkbox :model-value="clip.loop" size="small" @update:model-value="$emit('change', { loop: $event === true })"
        >Again and again</el-checkbox
      >
    </div>
    <ClipLoudness :clip="clip" @change="$emit('change', { gain: $event })" />
  </ClipCard>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.look {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
}
.part {
  display: grid;
  grid-template-columns: auto auto auto;
  gap: 6px 8px;
  align-items: center;
}
.whole {
  grid-column: 1 / -1;
}
video {
  width: 100%;
  height: 132px;
  background: #14201e;
}
video.sound {
  height: 54px;
}
.time {
  width: 78px;
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.field {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--soft);
  font-size: 14px;
}
.field .el-select {
  width: 122px;
}
</style>
