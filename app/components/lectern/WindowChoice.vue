<script setup lang="ts">
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useOpenWindow } from '~/stores/open-window'

/** Asks for a window to show, and shows what one is held ready. */
const lectern = useLectern()
const devices = useDevices()
const windows = useOpenWindow()
const preview = ref<HTMLVideoElement | null>(null)
/** Asked for once its preview plays: by then it has given pictures. */
const lines = ref<number | null>(null)

async function open(how: 'choose' | 'practice'): Promise<void> {
  // While a take runs there is no time to try: nobody waits for a window.
  if ((await windows.open(how, !lectern.live)) && lectern.takesWindow) show()
}
function show(): void {
  windows.asking = false
  void lectern.showWindow(performance.now())
}
watch(
  [preview, () => windows.held],
  () => {
    if (preview.value !== null && windows.held !== null) preview.value.srcObject = new MediaStream([windows.held.picture])
  },
  { flush: 'post' },
)
onBeforeUnmount(() => {
  windows.close()
})
</script>

<template>
  <el-dialog v-model="windows.asking" title="Show a window" width="540" class="dark-shell" append-to-body>
    <p v-if="windows.trouble" class="notice bad" role="alert">{{ windows.trouble }}</p>
    <div v-if="windows.held" class="held">
      <video
        v-if="windows.asking"
        ref="preview"
        autoplay
        muted
        playsinline
        :aria-label="windows.held.name"
        @playing="lines = windows.held?.lines() ?? null"
      />
      <div>
        <p>
          <b>{{ windows.held.name }}</b> is ready.
        </p>
        <p class="soft">
          <template v-if="lines">Recorded with {{ lines }} lines, and in full size whenever it rests. </template>
          {{ windows.held.sound ? 'Its sound is recorded with it.' : 'No sound comes with it.' }}
        </p>
        <p v-if="!lectern.live" class="soft">While you record, <kbd>Q</kbd> shows it and goes back to the slides.</p>
      </div>
    </div>
    <p v-else>
      A window, a tab or the whole screen takes the place of the slide until you go back. Your voice, face and ink go on over it, and it
      becomes a slide of its own.
    </p>
    <p v-if="lectern.live && !lectern.takesWindow" class="soft">
      While one slide is said again, a window can be shown only on a slide that was one.
    </p>
    <p v-if="windows.opening && devices.stream" class="soft" role="status">Trying what this computer keeps up with …</p>
    <template #footer>
      <div class="buttons">
        <button v-if="windows.held" class="press" @click="windows.close()">Let it go</button>
        <button class="press" :disabled="windows.opening" @click="open('practice')">Practice window</button>
        <button class="press" :class="{ main: !windows.held }" :disabled="windows.opening" @click="open('choose')">
          {{ windows.held ? 'Choose another …' : 'Choose a window, tab or screen …' }}
        </button>
        <button v-if="windows.held && lectern.takesWindow" class="press main" @click="show">Show it</button>
      </div>
    </template>
  </el-dialog>
</template>

<style scoped>
.held {
  display: grid;
  grid-template-columns: 210px 1fr;
  gap: 14px;
  align-items: start;
}
video {
  width: 100%;
  aspect-ratio: 16 / 9;
  background: #0c1413;
  border-radius: 4px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  justify-content: end;
}
p + p {
  margin-top: 6px;
}
</style>
