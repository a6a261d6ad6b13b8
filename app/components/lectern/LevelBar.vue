<script setup lang="ts">
import { scaleLinear } from 'd3'
import { useDevices } from '~/stores/devices'

/** The microphone's level in dBFS with its peak, and what it means in words. */
const devices = useDevices()
const scale = scaleLinear([-60, 0], [0, 100]).clamp(true)
const VERDICTS = {
  waiting: { say: 'Listening …', bad: false },
  nothing: { say: 'Nothing heard', bad: true },
  quiet: { say: 'Too quiet: come nearer', bad: true },
  good: { say: 'Good', bad: false },
  clipping: { say: 'Too loud: it clips', bad: true },
} as const
const verdict = computed<{ readonly say: string; readonly bad: boolean }>(() => {
  if (devices.stream === null) return { say: 'No microphone', bad: true }
  return devices.unmeasured === null ? VERDICTS[devices.verdict] : { say: 'Not measured', bad: true }
})
</script>

<template>
  <div class="level" :class="{ bad: verdict.bad }">
    <div
      class="track"
      role="meter"
      aria-label="Microphone level"
      aria-valuemin="-60"
      aria-valuemax="0"
      :aria-valuenow="Math.max(-60, Math.round(devices.level.peak))"
    >
      <i :style="{ width: `${scale(devices.level.peak)}%` }" />
      <b :style="{ left: `${scale(devices.held)}%` }" />
    </div>
    <p>
      <span>{{ verdict.say }}</span><span class="clock soft">{{ devices.held < -90 ? '' : `${Math.round(devices.held)} dB` }}</span>
    </p>
  </div>
</template>

<style scoped>
.track {
  position: relative;
  height: 12px;
  border-radius: 3px;
  background: var(--ground);
  border: 1px solid var(--line);
  overflow: hidden;
}
.track i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--brand);
}
.track b {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--text);
}
.bad .track i {
  background: var(--alarm);
}
.bad p span:first-child {
  color: var(--alarm);
  font-weight: 600;
}
p {
  display: flex;
  justify-content: space-between;
  font-size: 14px;
}
</style>
