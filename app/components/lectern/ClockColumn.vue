<script setup lang="ts">
import { plannedTime } from '@core/pace'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'
import type { ClockName as Clock } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

const lectern = useLectern()
const talk = useTalk()
const devices = useDevices()
const preferences = usePreferences()
const sizeOf = (clock: Clock): 'big' | 'mid' => (preferences.now.large.includes(clock) ? 'big' : 'mid')
const limit = computed(() => talk.talk?.limit ?? null)
const over = computed(() => (limit.value === null ? 0 : lectern.landing - limit.value))
const slidePlan = computed(() => (lectern.slide === null ? 0 : plannedTime(lectern.slide, talk.speaker)))
const underWay = computed(() => ['recording', 'rehearsing', 'paused', 'stopping'].includes(lectern.phase))
const state = computed(
  () =>
    ({
      idle: 'Ready',
      countdown: 'Starting',
      recording: lectern.plan.mode === 'dub' ? 'Voice over' : 'Recording',
      paused: 'Paused',
      stopping: 'Saving',
      after: 'Done',
      rehearsing: 'Rehearsing',
      rehearsed: 'Rehearsed',
    })[lectern.phase],
)
/** Somebody who speaks is louder than this, dBFS, for as long as this, ms. */
const SPEECH = -32
const LASTING = 700
const speaking = ref(false)
let loudSince: number | null = null
watch(
  () => devices.level,
  (level) => {
    if (!lectern.muted || level.peak < SPEECH) {
      if (!lectern.muted || (loudSince !== null && performance.now() - loudSince > 3000)) speaking.value = false
      if (level.peak < SPEECH - 12) loudSince = null
      return
    }
    loudSince ??= performance.now()
    if (performance.now() - loudSince > LASTING) speaking.value = true
  },
)
/** Seconds until the take ends by itself, once there are no more than sixty. */
const ending = computed(() =>
  lectern.left === null || lectern.left > 60_000 || !underWay.value ? null : Math.max(0, Math.ceil(lectern.left / 1000)),
)
</script>

<template>
  <aside class="column" aria-label="Clocks">
    <p class="state" :class="lectern.phase" role="status"><i aria-hidden="true" />{{ state }}</p>
    <p v-if="ending !== null" class="ending" :class="{ near: ending <= 10 }" role="status">
      Ends in <b class="clock">{{ duration(ending * 1000) }}</b>
    </p>
    <div class="times">
      <p>
        <ClockName clock="talk">talk</ClockName><b class="clock" :class="sizeOf('talk')">{{ duration(lectern.spent) }}</b>
      </p>
      <p :class="{ late: lectern.onSlide > slidePlan && underWay }">
        <ClockName clock="slide">slide {{ lectern.place + 1 }} of {{ lectern.running.length }}</ClockName>
        <span
          ><b class="clock" :class="sizeOf('slide')">{{ duration(lectern.onSlide) }}</b
          >{{ ' ' }}<span class="clock soft">of {{ duration(slidePlan) }}</span></span
        >
        <span v-if="underWay && !lectern.dubbing" class="clock soft" :class="{ late: lectern.ahead < -10000 }">{{
          lectern.ahead >= 0 ? `${duration(lectern.ahead)} ahead of the plan` : `${duration(-lectern.ahead)} behind the plan`
        }}</span>
      </p>
      <p :class="{ late: over > 0 }">
        <ClockName clock="landing">landing</ClockName>
        <span
          ><b class="clock" :class="sizeOf('landing')">{{ duration(lectern.landing) }}</b
          >{{ ' ' }}
          <span v-if="limit !== null" class="clock soft">{{
            over > 0 ? `${duration(over)} over` : `${duration(-over)} in hand`
          }}</span></span
        >
      </p>
    </div>
    <p v-if="lectern.nextPosition === null && underWay" class="soft">Nothing comes after this.</p>
    <div class="mic">
      <p class="soft">Microphone</p>
      <LevelBar v-if="lectern.plan.mode !== 'silent' || !underWay" />
      <p v-else class="soft">No voice is recorded in this take.</p>
      <p v-if="lectern.muted" class="mute" role="status">
        <b>Muted.</b> {{ speaking ? 'You are speaking, and nothing of it is kept. M unmutes.' : 'Nothing you say is kept.' }}
      </p>
    </div>
    <p v-if="lectern.stumbles > 0 && underWay" class="soft" role="status">
      {{ lectern.stumbles }} {{ lectern.stumbles === 1 ? 'stumble' : 'stumbles' }} marked for Review
    </p>
    <p v-if="lectern.unsent && underWay" class="net" role="status">
      The network is away. Safe on this computer to <span class="clock">{{ duration(lectern.safe.to) }}</span>;
      <span class="clock">{{ duration(lectern.safe.waiting) }}</span> of it is sent later.
    </p>
    <p v-else-if="lectern.safe.to > 0 && underWay && !lectern.rehearsing" class="soft small">
      Safe on the server to <span class="clock">{{ duration(lectern.safe.to) }}</span>
    </p>
    <p v-if="lectern.roomFor !== null && underWay" class="net" role="status">This computer has room for {{ lectern.roomFor }} min more.</p>
  </aside>
</template>

<style scoped>
.column {
  display: grid;
  gap: 18px;
  align-content: start;
  padding: 14px 16px;
  border-left: 1px solid var(--line);
  overflow-y: auto;
}
.state {
  display: flex;
  align-items: center;
  gap: 10px;
  font: 640 20px var(--display);
}
.state i {
  width: 14px;
  height: 14px;
  border-radius: 3px;
  border: 2px solid var(--soft);
}
.state.recording {
  color: var(--alarm);
}
.state.recording i {
  background: var(--alarm);
  border-color: var(--alarm);
  border-radius: 50%;
  animation: glow 1.6s ease-in-out infinite;
}
.state.rehearsing {
  color: var(--brand);
}
.state.rehearsing i {
  border-radius: 50%;
  border: 3px dashed var(--brand);
  background: none;
}
.state.paused {
  color: var(--accent);
}
.state.paused i {
  border: 0;
  width: 14px;
  background: linear-gradient(90deg, var(--accent) 35%, transparent 35% 65%, var(--accent) 65%);
  border-radius: 0;
}
@keyframes glow {
  50% {
    opacity: 0.35;
  }
}
.ending {
  padding: 6px 10px;
  border: 1px solid var(--accent);
  border-radius: 6px;
  color: var(--accent);
  font-size: 18px;
}
.ending.near {
  border-color: var(--alarm);
  background: var(--alarm);
  color: var(--ground);
}
.times {
  display: grid;
  gap: 12px;
}
.times p {
  display: grid;
}
.big {
  font-size: 46px;
  line-height: 1;
  font-weight: 700;
}
.mid {
  font-size: 24px;
  line-height: 1.1;
  font-weight: 700;
}
.times .late b {
  color: var(--alarm);
}
.mic {
  display: grid;
  gap: 4px;
}
.small {
  font-size: 14px;
}
.net,
.mute {
  color: var(--accent);
  font-size: 14px;
}
</style>
