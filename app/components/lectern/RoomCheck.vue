<script setup lang="ts">
import { NO_CAMERA, PRACTICE } from '~/capture'
import { useRoomTest } from '~/composables/useRoomTest'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'

/** Camera, microphone and room: which, and whether they are fit for a take. */
const open = defineModel<boolean>({ required: true })
const devices = useDevices()
const preferences = usePreferences()
const face = ref<HTMLVideoElement | null>(null)
const { testing, progress, played, room, record, listen, reset } = useRoomTest()
const ROOM = {
  still: 'A still room. Nobody will hear it.',
  usual: 'A usual room: a little noise that nobody minds.',
  noisy: 'A noisy room. Close a window or a door, or come nearer to the microphone.',
  loud: 'A loud room: the noise will be heard all through. Find another place if you can.',
} as const
const CARE = [
  { key: 'noise', name: 'Take noise away', say: 'Good in a room with a fan or a street; it can make a voice thinner.' },
  { key: 'echo', name: 'Take echo away', say: 'Only when loudspeakers are on; it harms a voice heard over earphones.' },
  { key: 'gain', name: 'Even out loudness', say: 'Good for somebody who moves about; it raises the room in pauses.' },
] as const

watch(
  open,
  (now) => {
    if (now && devices.stream === null) void devices.open()
    if (!now) reset()
  },
  { immediate: true },
)
watch([face, () => devices.stream], () => {
  if (face.value === null) return
  const tracks = devices.stream?.getVideoTracks() ?? []
  face.value.srcObject = tracks.length === 0 ? null : new MediaStream(tracks)
  void face.value.play().catch(() => undefined)
})
function care(key: 'noise' | 'echo' | 'gain', on: boolean): void {
  preferences.set({ [key]: on })
  void devices.open()
}
</script>

<template>
  <el-dialog v-model="open" title="Room check" width="min(880px, 96vw)" top="6vh" class="dark-shell" append-to-body>
    <div class="check">
      <div class="left">
        <div class="view">
          <video v-show="devices.cameraOn && !played" ref="face" muted playsinline aria-label="What the camera sees" />
          <svg v-if="devices.cameraOn && !played" class="guide" viewBox="0 0 160 90" aria-hidden="true">
            <path d="M80 17c9 0 15 7 15 17s-6 19-15 19-15-9-15-19 6-17 15-17z M42 90c2-20 17-29 38-29s36 9 38 29" />
          </svg>
          <video v-if="played && devices.cameraOn" :src="played" controls autoplay aria-label="The test, played back" />
          <audio v-else-if="played" :src="played" controls autoplay aria-label="The test, played back" />
          <p v-if="!devices.cameraOn && !played" class="soft">
            {{ devices.opening ? 'Opening …' : 'No camera: the video will show the slides with your voice.' }}
          </p>
        </div>
        <p class="soft small">
          {{
            played ? 'This is what a viewer would see and hear.' : 'Head and shoulders inside the line; the light before you, not behind.'
          }}
        </p>
        <div class="row">
          <button class="press" :disabled="devices.stream === null || testing !== null" @click="record">
            {{ testing === 'test' ? `Speak … ${Math.ceil(10 - progress * 10)}` : played ? 'Test again' : 'Record a ten-second test' }}
          </button>
          <button v-if="played" class="press quiet" @click="reset">Back to the camera</button>
        </div>
        <ClapTest v-if="devices.cameraOn && testing === null" />
        <p class="soft small">
          Something does not work? <NuxtLink to="/self-test">The self-test</NuxtLink> measures everything, as a page to send.
        </p>
      </div>
      <div class="choices">
        <p v-if="devices.trouble" class="notice bad" role="alert">{{ devices.trouble }}</p>
        <p v-if="devices.missing" class="notice" role="alert">{{ devices.missing }}</p>
        <label
          >Camera
          <span class="pair">
            <el-select :model-value="devices.camera" aria-label="Camera" @update:model-value="devices.choose('camera', $event)">
              <el-option v-for="one in devices.cameras" :key="one.id" :label="one.label" :value="one.id" />
            </el-select>
            <button v-if="devices.camera !== NO_CAMERA" class="press small" @click="devices.choose('camera', NO_CAMERA)">Voice only</button>
          </span>
          <span v-if="devices.fitted?.stepped && devices.fitted.size" class="soft small plain"
            >Recorded at {{ devices.fitted.size.width }} × {{ devices.fitted.size.height }}: this computer does not keep up with more.</span
          >
        </label>
        <label
          >Microphone
          <el-select :model-value="devices.mic" aria-label="Microphone" @update:model-value="devices.choose('mic', $event)">
            <el-option v-for="one in devices.mics" :key="one.id" :label="one.label" :value="one.id" />
          </el-select>
        </label>
        <div><b>Say something</b><LevelBar /></div>
        <p v-if="devices.unmeasured" class="notice" role="alert">{{ devices.unmeasured }} Until then, record a test and listen to it.</p>
        <MicComparison v-if="devices.stream !== null && testing === null" />
        <div class="room">
          <button class="press small" :disabled="devices.stream === null || testing !== null" @click="listen">
            {{ testing === 'room' ? 'Be silent …' : 'Listen to the room' }}
          </button>
          <p v-if="room" role="status">
            {{ ROOM[room.verdict] }} <span class="clock soft">{{ Math.round(room.level) }} dB</span>
          </p>
          <p v-else class="soft small">Three seconds of silence say how noisy it is.</p>
        </div>
        <BackdropTest v-if="devices.cameraOn && testing === null && !played" :video="face" />
        <fieldset v-if="devices.mic !== PRACTICE">
          <legend>What the browser may do to your voice</legend>
          <label v-for="{ key, name, say } in CARE" :key="key" class="care"
            ><el-switch
              :model-value="preferences.now[key]"
              size="small"
              :aria-label="name"
              @update:model-value="care(key, $event === true)"
            /><span
              >{{ name }} <span class="soft small">{{ say }}</span></span
            ></label
          >
        </fieldset>
        <p v-else class="soft small">
          The practice camera and mic need no device: a drawn speaker and a shipped voice, for trying everything out.
        </p>
      </div>
    </div>
    <template #footer>
      <button class="press main" :disabled="devices.stream === null || devices.opening" @click="open = false">Use these</button>
    </template>
  </el-dialog>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: 440px 1fr;
  gap: 24px;
}
.left,
.choices {
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
}
.view {
  position: relative;
  display: grid;
  place-items: center;
  aspect-ratio: 16 / 9;
  background: var(--ground);
  border: 1px solid var(--line);
  overflow: hidden;
  text-align: center;
}
.view p {
  padding: 12px;
}
.view video {
  width: 100%;
  height: 100%;
  object-fit: cover;
  min-height: 0;
}
.guide {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.guide path {
  fill: none;
  stroke: #fffdf8;
  stroke-width: 0.8;
  stroke-dasharray: 3 2;
  opacity: 0.75;
}
.row,
.pair,
.room {
  display: flex;
  gap: 10px;
  align-items: center;
}
.pair .el-select {
  flex: 1;
}
.pair .press {
  white-space: nowrap;
}
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
fieldset {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 8px 12px 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.care {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 10px;
  align-items: start;
  font-weight: 400;
}
.small {
  font-size: 14px;
}
.plain {
  font-weight: 400;
}
@media (max-width: 900px) {
  .check {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
