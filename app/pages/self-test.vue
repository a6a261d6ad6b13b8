<script setup lang="ts">
import { CircleCheck, CircleClose, Switch } from '@element-plus/icons-vue'
import { useClipboard } from '@vueuse/core'
import { useSelfTest } from '~/composables/useSelfTest'
import { useDevices } from '~/stores/devices'

/** What this browser and its devices can do, measured on the spot, as a page that can be copied and sent. */
const { all, under, run, text } = useSelfTest()
const devices = useDevices()
const { copy, copied } = useClipboard()
const ICONS = { good: CircleCheck, standIn: Switch, bad: CircleClose } as const
const STATES = { good: 'Good', standIn: 'Something stands in', bad: 'Wrong' } as const

useHead({ title: 'Self-test · Aisle Talk' })
onMounted(() => {
  void run()
})
</script>

<template>
  <div class="home">
    <ShellBar />
    <main>
      <header>
        <h1>Self-test</h1>
        <p class="soft">What this browser, camera, microphone and disk can do, measured now. Speak while it runs. Nothing of it is kept.</p>
        <div class="acts">
          <button class="press main" :disabled="under !== null" @click="run">
            {{ under === null ? 'Measure again' : `Measuring: ${under} …` }}
          </button>
          <button class="press" :disabled="under !== null || all.length === 0" @click="copy(text)">
            {{ copied ? 'Copied' : 'Copy as text' }}
          </button>
          <label class="soft"
            >Camera
            <el-select
              :model-value="devices.camera"
              class="device"
              size="small"
              aria-label="Camera"
              :disabled="under !== null"
              @update:model-value="devices.choose('camera', $event)"
            >
              <el-option v-for="one in devices.cameras" :key="one.id" :label="one.label" :value="one.id" />
            </el-select>
          </label>
          <label class="soft"
            >Microphone
            <el-select
              :model-value="devices.mic"
              class="device"
              size="small"
              aria-label="Microphone"
              :disabled="under !== null"
              @update:model-value="devices.choose('mic', $event)"
            >
              <el-option v-for="one in devices.mics" :key="one.id" :label="one.label" :value="one.id" />
            </el-select>
          </label>
        </div>
      </header>
      <div class="parts" aria-live="polite">
        <section v-for="part in all" :key="part.title">
          <h2>{{ part.title }}</h2>
          <dl>
            <template v-for="line in part.lines" :key="line.name">
              <dt><component :is="ICONS[line.state]" :class="line.state" :aria-label="STATES[line.state]" role="img" />{{ line.name }}</dt>
              <dd :class="line.state">{{ line.say }}</dd>
            </template>
          </dl>
          <ClapTest v-if="part.title === 'Timing' && devices.cameraOn" />
        </section>
      </div>
    </main>
  </div>
</template>

<style scoped>
.home {
  min-height: 100vh;
}
main {
  display: grid;
  gap: 18px;
  max-width: 1160px;
  margin: 0 auto;
  padding: 24px 20px 60px;
}
header {
  display: grid;
  gap: 8px;
}
h1 {
  font-size: 28px;
}
h2 {
  font-size: 17px;
  margin-bottom: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.acts label {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
.device {
  width: 210px;
}
.parts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  align-items: start;
}
.parts > section {
  padding: 14px 16px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 16px;
  margin: 0 0 8px;
  font-size: 14.5px;
}
dt {
  display: flex;
  gap: 8px;
  align-items: center;
  font-weight: 600;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
dt svg {
  width: 17px;
  height: 17px;
  flex: none;
}
.good:is(svg) {
  color: var(--brand);
}
.standIn:is(svg) {
  color: var(--accent-text);
}
.bad {
  color: var(--alarm);
}
@media (max-width: 900px) {
  .parts {
    grid-template-columns: 1fr;
  }
}
</style>
