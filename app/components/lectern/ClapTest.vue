<script setup lang="ts">
import { useClaps } from '~/composables/useClaps'
import { useDevices } from '~/stores/devices'

/** Has the presenter clap, to see how late camera or microphone are: no page can know that by itself. */
const devices = useDevices()
const { listening, claps, strip, last, late, trouble, start, choose, keep, reset } = useClaps()

const saying = (camera: number, mic: number): string =>
  camera >= mic ? `The picture comes ${String(camera)} ms after the sound.` : `The sound comes ${String(mic)} ms after the picture.`
const known = computed(() => (devices.late.camera + devices.late.mic === 0 ? null : saying(devices.late.camera, devices.late.mic)))

function draw(canvas: unknown, picture: ImageData): void {
  if (canvas instanceof HTMLCanvasElement) canvas.getContext('2d')?.putImageData(picture, 0, 0)
}
</script>

<template>
  <section class="claps" aria-label="Picture and voice together">
    <div v-if="!listening" class="row">
      <button class="press small" :disabled="!devices.cameraOn" @click="start">Measure by a clap</button>
      <p v-if="known" class="soft small">
        {{ known }} Takes are put right by that. <button class="press quiet small" @click="devices.setLate(null)">Forget</button>
      </p>
      <p v-else class="soft small">If lips and voice do not meet: one clap shows by how much.</p>
    </div>
    <template v-else>
      <p role="status">
        <b v-if="late === null">Clap once, hands before your face …</b
        ><template v-else
          >{{ saying(late.camera, late.mic) }}
          <span class="soft">{{ claps.length === 1 ? 'Clap again to be surer.' : `By ${String(claps.length)} claps.` }}</span></template
        >
      </p>
      <div v-if="last" class="strip" role="radiogroup" aria-label="In which picture do your hands meet?">
        <button
          v-for="frame in strip"
          :key="frame.n"
          role="radio"
          :aria-checked="frame.n === last.chosen"
          :aria-label="`Picture ${Math.round(frame.at - last.clap.heard)} ms from the sound`"
          :class="{ chosen: frame.n === last.chosen }"
          @click="choose(frame.n)"
        >
          <canvas
            :ref="
              (canvas) => {
                draw(canvas, frame.picture)
              }
            "
            width="160"
            height="90"
          /><span class="clock">{{ frame.at >= last.clap.heard ? '+' : '−' }}{{ Math.abs(Math.round(frame.at - last.clap.heard)) }}</span>
        </button>
      </div>
      <p v-if="last" class="soft small">Choose the picture in which your hands meet.</p>
      <div class="row">
        <button v-if="late" class="press small main" @click="keep">Put takes right by this</button>
        <button class="press quiet small" @click="reset">{{ late ? 'Leave it' : 'Cancel' }}</button>
      </div>
    </template>
    <p v-if="trouble" class="notice" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.claps {
  display: grid;
  gap: 8px;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.row p {
  flex: 1;
}
.strip {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 4px;
}
.strip button {
  display: grid;
  padding: 0;
  border: 2px solid transparent;
  border-radius: 3px;
  background: var(--ground);
  cursor: pointer;
  overflow: hidden;
}
.strip button.chosen {
  border-color: var(--accent);
}
.strip canvas {
  width: 100%;
}
.strip .clock {
  padding: 2px;
  font-size: 12px;
  text-align: center;
}
.small {
  font-size: 14px;
}
</style>
