<script setup lang="ts">
import { useDevices } from '~/stores/devices'

/** Camera and microphone: which, and whether they work. */
const open = defineModel<boolean>({ required: true })
const devices = useDevices()
const face = ref<HTMLVideoElement | null>(null)

watch(open, (now) => {
  if (now && devices.stream === null) void devices.open()
}, { immediate: true })
watch([face, () => devices.stream], () => {
  if (face.value === null) return
  const tracks = devices.stream?.getVideoTracks() ?? []
  face.value.srcObject = tracks.length === 0 ? null : new MediaStream(tracks)
  void face.value.play().catch(() => undefined)
})
</script>

<template>
  <el-dialog v-model="open" title="Room check" width="560" class="dark-hall" append-to-body>
    <div class="check">
      <div class="view">
        <video v-show="devices.stream && devices.stream.getVideoTracks().length > 0" ref="face" muted playsinline aria-label="What the camera sees" />
        <p v-if="!devices.stream || devices.stream.getVideoTracks().length === 0" class="soft">{{ devices.opening ? 'Opening …' : 'No camera: the video will show the slides with your voice.' }}</p>
      </div>
      <div class="choices">
        <label>Camera
          <el-select :model-value="devices.camera" aria-label="Camera" @update:model-value="devices.choose('camera', $event)">
            <el-option v-for="one in devices.cameras" :key="one.id" :label="one.label" :value="one.id" />
          </el-select>
        </label>
        <label>Microphone
          <el-select :model-value="devices.mic" aria-label="Microphone" @update:model-value="devices.choose('mic', $event)">
            <el-option v-for="one in devices.mics" :key="one.id" :label="one.label" :value="one.id" />
          </el-select>
        </label>
        <div><span>Say something</span><LevelBar /></div>
        <p v-if="devices.trouble" class="notice bad" role="alert">{{ devices.trouble }}</p>
        <p v-else class="soft small">The practice camera and mic need no device: a drawn speaker and a shipped voice, for trying everything out.</p>
      </div>
    </div>
    <template #footer>
      <button class="press main" :disabled="devices.stream === null" @click="open = false">Use these</button>
    </template>
  </el-dialog>
</template>

<style scoped>
.check { display: grid; grid-template-columns: 200px 1fr; gap: 20px; }
.view { display: grid; place-items: center; aspect-ratio: 3 / 4; background: var(--ground); border: 1px solid var(--line); overflow: hidden; text-align: center; padding: 0; }
.view p { padding: 12px; }
.view video { width: 100%; height: 100%; object-fit: cover; min-height: 0; }
.choices { display: grid; gap: 14px; align-content: start; }
label { display: grid; gap: 4px; font-weight: 600; }
.small { font-size: 14px; }
</style>
