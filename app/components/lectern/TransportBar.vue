<script setup lang="ts">
import { Flag, Microphone, Mute, QuestionFilled, Timer, VideoCamera, VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'

defineEmits<{ check: [], record: [fromStart: boolean], stop: [], keys: [] }>()
const lectern = useLectern()
const devices = useDevices()
const talk = useTalk()
const ready = computed(() => devices.stream !== null && lectern.slide !== null)
const waits = computed(() => ['idle', 'after', 'rehearsed'].includes(lectern.phase))
</script>

<template>
  <footer class="transport" aria-label="Transport">
    <template v-if="waits">
      <button class="press" @click="$emit('check')"><Microphone />Room check</button>
      <button class="press" :disabled="lectern.slide === null" title="Everything as when recording; only the timings are kept" @click="lectern.rehearse()"><Timer />Rehearse</button>
      <button class="press record" :disabled="!ready" @click="$emit('record', true)"><i />{{ talk.visits.length > 0 ? 'Record everything again' : 'Record from the start' }}</button>
      <button v-if="lectern.place > 0" class="press" :disabled="!ready" @click="$emit('record', false)">Record from slide {{ lectern.place + 1 }}</button>
      <span class="gap" />
      <span v-if="!ready" class="soft">{{ lectern.slide === null ? 'Bring in a deck first.' : 'Check camera and mic first.' }}</span>
    </template>
    <template v-else-if="lectern.phase === 'countdown'">
      <button class="press" @click="lectern.cancelCountdown()">Not yet</button>
      <span class="soft">Recording begins after the count. The count is not in the video.</span><span class="gap" />
    </template>
    <template v-else>
      <button v-if="lectern.live" class="press" @click="lectern.pause()"><VideoPause />Pause <kbd>P</kbd></button>
      <button v-else class="press main" :disabled="lectern.phase !== 'paused'" @click="lectern.resume()"><VideoPlay />Go on <kbd>P</kbd></button>
      <button class="press" :disabled="lectern.phase === 'stopping'" @click="$emit('stop')"><i class="square" />Stop <kbd>Esc</kbd></button>
      <button v-if="!lectern.rehearsing" class="press" :aria-pressed="!lectern.inset" @click="lectern.setInset(!lectern.inset, $event.timeStamp)"><VideoCamera />{{ lectern.inset ? 'Hide face from viewers' : 'Show face to viewers' }} <kbd>I</kbd></button>
      <button v-if="!lectern.rehearsing" class="press" :class="{ muted: lectern.muted }" :aria-pressed="lectern.muted" @click="lectern.setMuted(!lectern.muted, $event.timeStamp)"><Mute v-if="lectern.muted" /><Microphone v-else />{{ lectern.muted ? 'Unmute' : 'Mute' }} <kbd>M</kbd></button>
      <button v-if="!lectern.rehearsing" class="press" :disabled="lectern.phase !== 'recording'" @click="lectern.stumble($event.timeStamp)"><Flag />Stumble <kbd>S</kbd></button>
      <span class="gap" />
    </template>
    <span v-if="waits" class="keys soft"><kbd>→</kbd> on <kbd>←</kbd> back <kbd>D</kbd> pen <kbd>N</kbd> notes</span>
    <button class="press quiet small" aria-label="All keys" title="All keys (?)" @click="$emit('keys')"><QuestionFilled /></button>
  </footer>
</template>

<style scoped>
.transport { display: flex; align-items: center; gap: 10px; padding: 8px 16px; border-top: 1px solid var(--line); background: var(--card); }
.gap { flex: 1; }
.record { border-color: var(--alarm); }
.muted { border-color: var(--accent); color: var(--accent); }
.record i { width: 13px; height: 13px; border-radius: 50%; background: var(--alarm); }
.square { width: 11px; height: 11px; background: currentcolor; }
kbd { padding: 0 5px; border: 1px solid var(--line); border-radius: 4px; font: 12px var(--clock); color: var(--soft); }
.keys { display: flex; gap: 6px; align-items: center; font-size: 14px; white-space: nowrap; }
</style>
