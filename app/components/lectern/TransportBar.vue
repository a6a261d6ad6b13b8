<script setup lang="ts">
import {
  ArrowLeft,
  ArrowRight,
  Flag,
  Grid,
  Hide,
  Microphone,
  Monitor,
  Mute,
  QuestionFilled,
  Timer,
  VideoCamera,
  VideoPause,
  VideoPlay,
  View,
} from '@element-plus/icons-vue'
import type { Intent, Ms } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import type { RecordingMode } from '@core/session'
import { useTalk } from '~/stores/talk'
import { preciseDuration } from '~/words'

/** `wanted`: a visit that is to be retaken; `part`: what of it, in ms from its beginning; `rest`: and everything after it. */
defineProps<{ wanted: string | null; part: { readonly from: Ms; readonly to: Ms } | null; rest: boolean }>()
const emit = defineEmits<{
  retake: [visit: string]
  check: []
  record: [intent: Intent, mode: RecordingMode, fromStart: boolean]
  stop: []
  keys: []
  jump: []
}>()
const lectern = useLectern()
const devices = useDevices()
const talk = useTalk()
const ready = computed(() => devices.stream !== null && lectern.slide !== null)
const waits = computed(() => ['idle', 'after', 'rehearsed'].includes(lectern.phase))
const recorded = computed(() => talk.visits.length > 0)
/** Whoever touches the screen has no keys to go on with, and while a pen is chosen a touch on the slide draws. */
const touched = ref(false)
onMounted(() => {
  touched.value = navigator.maxTouchPoints > 0
})

/** From the slide that is up: what the programme shows before its first visit stays. */
function fromHere(): void {
  const visit = talk.visits.find((one) => one.slide === lectern.slide?.id)
  const rest: Intent = visit === undefined ? { kind: 'append' } : { kind: 'replaceFrom', at: visit.start }
  emit('record', recorded.value ? rest : { kind: 'replaceAll' }, 'full', false)
}
function project(): void {
  if (talk.talk !== null) window.open(`/talks/${talk.talk.id}/projector`, `projector-${talk.talk.id}`, 'popup,width=1280,height=720')
}
</script>

<template>
  <footer class="transport" :class="{ touched }" aria-label="Transport">
    <template v-if="waits">
      <button class="press" @click="$emit('check')"><Microphone />Room check</button>
      <button
        class="press"
        :disabled="lectern.slide === null"
        title="Everything as when recording; only the timings are kept"
        @click="lectern.rehearse()"
      >
        <Timer />Rehearse
      </button>
      <button v-if="wanted" class="press record" :disabled="!ready" @click="$emit('retake', wanted)">
        <i />{{
          part
            ? `Say ${preciseDuration(part.to - part.from)} of this slide again`
            : rest
              ? 'Say everything again from here'
              : 'Retake this slide'
        }}
      </button>
      <button class="press" :class="{ record: !wanted }" :disabled="!ready" @click="$emit('record', { kind: 'replaceAll' }, 'full', true)">
        <i v-if="!wanted" />{{ recorded ? 'Record the talk again' : 'Record the talk' }}
      </button>
      <button
        v-if="lectern.place > 0"
        class="press"
        :disabled="!ready"
        :title="recorded ? 'What comes before this slide stays' : ''"
        @click="fromHere"
      >
        {{ recorded ? 'Go on' : 'Begin' }} from slide {{ lectern.place + 1 }}
      </button>
      <TakeChoices @record="(intent, mode) => $emit('record', intent, mode, mode !== 'full')" />
      <span class="gap" />
      <span v-if="!ready" class="soft">{{ lectern.slide === null ? 'Bring in a deck first.' : 'Check camera and mic first.' }}</span>
    </template>
    <template v-else-if="lectern.phase === 'countdown'">
      <button class="press" @click="lectern.cancelCountdown()">Not yet</button>
      <span class="soft">{{
        lectern.leadIn
          ? 'Three seconds from before play; recording begins where they end.'
          : 'Recording begins after the count. The count is not in the video.'
      }}</span><span class="gap" />
    </template>
    <template v-else>
      <button v-if="lectern.live" class="press" @click="lectern.pause()"><VideoPause />Pause <kbd>P</kbd></button>
      <button v-else class="press main" :disabled="lectern.phase !== 'paused'" @click="lectern.resume()">
        <VideoPlay />Go on <kbd>P</kbd>
      </button>
      <button class="press" :disabled="lectern.phase === 'stopping'" @click="$emit('stop')"><i class="square" />Stop <kbd>Esc</kbd></button>
      <template v-if="!lectern.rehearsing && lectern.plan.mode !== 'silent'">
        <span class="bar" />
        <button
          class="press"
          :class="{ off: lectern.muted }"
          :aria-pressed="lectern.muted"
          title="While muted, your voice is not kept"
          @click="lectern.setMuted(!lectern.muted, $event.timeStamp)"
        >
          <Mute v-if="lectern.muted" /><Microphone v-else />{{ lectern.muted ? 'Unmute' : 'Mute' }} <kbd>M</kbd>
        </button>
        <button
          class="press"
          :class="{ off: !lectern.inset }"
          :aria-pressed="!lectern.inset"
          title="Viewers do not see your face; it is recorded all the same"
          :disabled="lectern.dubbing"
          @click="lectern.setInset(!lectern.inset, $event.timeStamp)"
        >
          <component :is="lectern.inset ? View : Hide" />{{ lectern.inset ? 'Hide face' : 'Face hidden' }} <kbd>I</kbd>
        </button>
        <button
          class="press"
          :class="{ off: !devices.cameraOn }"
          :aria-pressed="!devices.cameraOn"
          title="Stops the camera itself; nothing of you is recorded"
          @click="lectern.setCamera(!devices.cameraOn)"
        >
          <VideoCamera />{{ devices.cameraOn ? 'Camera off' : 'Camera is off' }} <kbd>C</kbd>
        </button>
      </template>
      <WindowButton :waits="false" />
      <button v-if="!lectern.rehearsing" class="press" :disabled="lectern.phase !== 'recording'" @click="lectern.stumble($event.timeStamp)">
        <Flag />Stumble <kbd>S</kbd>
      </button>
      <span class="gap" />
    </template>
    <template v-if="touched">
      <button class="press" :disabled="lectern.slide === null" @click="lectern.back($event.timeStamp)"><ArrowLeft />Back</button>
      <button class="press" :disabled="lectern.slide === null" @click="lectern.forward($event.timeStamp)">Next<ArrowRight /></button>
    </template>
    <WindowButton v-if="waits" waits />
    <button class="press quiet small" aria-label="All slides" title="All slides (G)" @click="$emit('jump')"><Grid /></button>
    <button
      class="press quiet small"
      aria-label="Slides in a second window"
      title="Slides alone in a second window, for a projector"
      @click="project"
    >
      <Monitor />
    </button>
    <button class="press quiet small" aria-label="All keys" title="All keys (?)" @click="$emit('keys')"><QuestionFilled /></button>
  </footer>
</template>

<style scoped>
.transport {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 8px 16px;
  border-top: 1px solid var(--line);
  background: var(--card);
}
.press {
  white-space: nowrap;
}
.gap {
  flex: 1;
}
.bar {
  width: 1px;
  height: 22px;
  background: var(--line);
}
.record {
  border-color: var(--alarm);
}
.off {
  border-color: var(--accent);
  color: var(--accent);
}
.record i {
  width: 13px;
  height: 13px;
  border-radius: 50%;
  background: var(--alarm);
}
.square {
  width: 11px;
  height: 11px;
  background: currentcolor;
}
@media (max-width: 1400px) {
  .touched {
    gap: 5px;
    padding-inline: 10px;
  }
  .touched .press {
    padding-inline: 9px;
  }
  .touched :deep(kbd) {
    display: none;
  }
}
@media (max-width: 900px) {
  .transport {
    flex-wrap: wrap;
    padding: 6px 10px;
    gap: 6px;
  }
}
</style>
