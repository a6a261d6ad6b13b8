<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { KEY_WORDS, useLecternKeys } from '~/composables/useLecternKeys'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

const talk = useTalk()
const lectern = useLectern()
const devices = useDevices()
const checking = ref(false)
const asking = ref(false)
const again = ref<boolean | null>(null)
const help = ref(false)
const whole = ref(false)
const band = ref<{ move: (by: number) => void, grow: (by: number) => void } | null>(null)

useHead({ title: () => `Lectern · ${talk.talk?.name ?? 'Aisle Talk'}` })

const underWay = computed(() => ['recording', 'rehearsing', 'paused', 'stopping'].includes(lectern.phase))

function start(fromStart: boolean): void {
  const first = lectern.running[0]
  if (fromStart && first !== undefined) lectern.goTo(first.id, performance.now())
  lectern.record({ kind: 'replaceAll' })
}

/** Recording again asks first: what is there goes out of the programme. */
function record(fromStart: boolean): void {
  if (devices.stream === null) checking.value = true
  else if (talk.visits.length > 0) again.value = fromStart
  else start(fromStart)
}

function sure(): void {
  const fromStart = again.value ?? true
  again.value = null
  start(fromStart)
}

async function stop(): Promise<void> {
  asking.value = false
  await lectern.stop()
}

useLecternKeys({
  record: () => { record(true) },
  stop: () => { if (lectern.live || lectern.phase === 'paused') asking.value = true },
  notes: () => { whole.value = !whole.value },
  line: (by) => { band.value?.move(by) },
  grow: (by) => { band.value?.grow(by) },
  help: () => { help.value = true },
  busy: () => checking.value || asking.value || help.value || again.value !== null,
})
watch(() => talk.talk?.id, (id) => {
  if (id === undefined) return
  if (!underWay.value) lectern.rest()
  if (devices.stream === null) checking.value = true
  const chosen = talk.selected
  if (chosen !== null && !underWay.value) lectern.goTo(chosen, performance.now())
}, { immediate: true })
watch(() => talk.selected, (id) => {
  if (id !== null && id !== lectern.slide?.id) lectern.goTo(id, performance.now())
})
useEventListener(window, 'beforeunload', (event) => { if (underWay.value) event.preventDefault() })
onBeforeRouteLeave(() => {
  if (!underWay.value) {
    devices.close()
    return true
  }
  asking.value = true
  return false
})
</script>

<template>
  <StationFrame dark :landing="lectern.landing" :playhead="underWay ? lectern.spent : null" @broken="checking = false">
    <div class="lectern" :class="{ live: lectern.live }">
      <div class="top">
        <div v-if="lectern.trouble" class="notice bad" role="alert"><p>{{ lectern.trouble }}</p><button class="press small" @click="lectern.trouble = null">Close</button></div>
        <PrompterBand ref="band" v-model:whole="whole" />
      </div>
      <ToolRail class="tools" />
      <div class="middle">
        <AfterTake v-if="lectern.phase === 'after' || lectern.phase === 'stopping'" />
        <AfterRehearsal v-else-if="lectern.phase === 'rehearsed'" />
        <template v-else-if="talk.talk && lectern.slide">
          <LecternStage :talk-id="talk.talk.id" :shape="talk.talk.shape" />
        </template>
        <div v-else class="none">
          <h2>No slides yet</h2>
          <NuxtLink v-if="talk.talk" class="press main" :to="`/talks/${talk.talk.id}/prepare`">Bring in a deck</NuxtLink>
        </div>
      </div>
      <ClockColumn class="clocks" />
      <TransportBar class="foot" @check="checking = true" @record="record" @stop="asking = true" @keys="help = true" />
    </div>
    <RoomCheck v-model="checking" />
    <el-dialog v-model="asking" :title="lectern.rehearsing ? 'End this run-through?' : 'Stop this take?'" width="460" class="dark-hall" append-to-body>
      <p v-if="lectern.rehearsing">The timings until now are kept.</p>
      <p v-else>{{ lectern.phase === 'recording' ? 'Recording goes on while this is open.' : 'The take is paused.' }} What was recorded is kept.</p>
      <template #footer>
        <button class="press" @click="asking = false">Go on</button>
        <button class="press main" @click="stop">{{ lectern.rehearsing ? 'End it' : 'Stop and keep' }}</button>
      </template>
    </el-dialog>
    <el-dialog :model-value="again !== null" title="Record again?" width="480" class="dark-hall" append-to-body @close="again = null">
      <p>The new take replaces the {{ duration(talk.index?.length ?? 0) }} that Review plays now. The old recording is kept; discarding the new one brings it back.</p>
      <template #footer>
        <button class="press" @click="again = null">Not now</button>
        <button class="press main" @click="sure">Record again</button>
      </template>
    </el-dialog>
    <el-dialog v-model="help" title="Keys" width="520" class="dark-hall" append-to-body>
      <dl class="keylist"><template v-for="[key, say] in KEY_WORDS" :key="key"><dt class="clock">{{ key }}</dt><dd>{{ say }}</dd></template></dl>
    </el-dialog>
  </StationFrame>
</template>

<style scoped>
.lectern { display: grid; grid-template: auto minmax(0, 1fr) auto / 54px minmax(0, 1fr) 250px; height: 100%; }
.top { grid-column: 1 / 3; display: grid; gap: 6px; padding: 4px 12px 0; min-width: 0; }
.tools { grid-row: 2; grid-column: 1; }
.middle { grid-row: 2; grid-column: 2; display: grid; place-items: stretch; padding: 8px 12px 12px; min-height: 0; min-width: 0; }
.middle > .after, .none { place-self: center; }
.clocks { grid-row: 1 / 3; grid-column: 3; }
.foot { grid-row: 3; grid-column: 1 / -1; transition: opacity 0.3s; }
.tools { transition: opacity 0.3s; }
.live .foot:not(:hover, :focus-within), .live .tools:not(:hover, :focus-within) { opacity: 0.8; }
.none { display: grid; gap: 14px; justify-items: center; }
.keylist { display: grid; grid-template-columns: max-content 1fr; gap: 6px 18px; margin: 0; }
dd { margin: 0; }
</style>
