<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { Intent } from '@core/model'
import { useLecternKeys } from '~/composables/useLecternKeys'
import { useRetakeWish } from '~/composables/useRetakeWish'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'
import type { BandPlace } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import type { RecordingMode } from '@core/session'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

const talk = useTalk()
const lectern = useLectern()
const devices = useDevices()
const checking = ref(false)
const asking = ref(false)
const help = ref(false)
const whole = ref(false)
const jumping = ref(false)
const prompter = ref<{ move: (by: number) => void; grow: (by: number) => void; nextMoves: () => void } | null>(null)

const preferences = usePreferences()
/** Where the notes stand with this camera. */
const band = computed(() => preferences.now.bands[devices.camera] ?? 'top')
const putBand = (to: BandPlace): void => {
  preferences.set({ bands: { ...preferences.now.bands, [devices.camera]: to } })
}

useHead({ title: () => `Lectern · ${talk.talk?.name ?? 'Aisle Talk'}` })

const underWay = computed(() => ['recording', 'rehearsing', 'paused', 'stopping'].includes(lectern.phase))

/** A take that waits for an answer: what speaks against it, and what would go from the programme. */
interface Asked {
  readonly intent: Intent
  readonly mode: RecordingMode
  readonly fromStart: boolean
  readonly doubts: readonly string[]
}
const asked = shallowRef<Asked | null>(null)
const replaces = computed(() => asked.value?.intent.kind === 'replaceAll' && talk.visits.length > 0)

function start({ intent, mode, fromStart }: Pick<Asked, 'intent' | 'mode' | 'fromStart'>): void {
  asked.value = null
  const first = lectern.running[0]
  if (fromStart && first !== undefined) lectern.goTo(first.id, performance.now())
  lectern.record(intent, mode)
}

/** Asks first when nothing would be heard or seen, or when what is there would go out of the programme. */
function record(intent: Intent, mode: RecordingMode, fromStart: boolean): void {
  const doubts = devices.doubts(mode === 'silent')
  if (devices.stream === null && mode !== 'silent') checking.value = true
  else if (doubts.length > 0 || (intent.kind === 'replaceAll' && talk.visits.length > 0)) asked.value = { intent, mode, fromStart, doubts }
  else start({ intent, mode, fromStart })
}

const route = useRoute()
const { wanted, part, rest } = useRetakeWish()
watch(
  wanted,
  (visit) => {
    if (visit !== null && !underWay.value) lectern.bringUp(visit.slide, performance.now())
  },
  { immediate: true },
)

/** Says one visit again, or the part of it that Review asked for: its slide comes up, and the take ends when it is gone on from. */
function retake(id: string): void {
  const visit = talk.visits.find((one) => one.id === id)
  if (visit === undefined) return
  if (!lectern.bringUp(visit.slide, performance.now())) return
  if (rest.value && visit === wanted.value) record({ kind: 'replaceFrom', at: visit.start }, 'full', false)
  else
    record(
      part.value !== null && visit === wanted.value
        ? { kind: 'range', visit: visit.id, ...part.value }
        : { kind: 'retake', visit: visit.id },
      'full',
      false,
    )
}

/** The first slide that was not shown yet comes up, and what is said follows at the end. */
function goOnAtEnd(): void {
  const seen = new Set(talk.visits.map((visit) => visit.slide))
  const next = lectern.running.find((slide) => !seen.has(slide.id))
  if (next !== undefined) lectern.goTo(next.id, performance.now())
  record({ kind: 'append' }, 'full', false)
}

/** What is shown next, over its slab on the aisle. */
const coming = computed(() => {
  const next = lectern.nextPosition
  const picture = next?.slide.steps[next.step]?.picture
  return next === null || picture === undefined || talk.talk === null
    ? null
    : { slide: next.slide.id, talkId: talk.talk.id, picture, say: next.step > 0 ? 'next step' : 'next slide' }
})

async function stop(): Promise<void> {
  asking.value = false
  await lectern.stop()
}

useLecternKeys({
  record: () => {
    record({ kind: 'replaceAll' }, 'full', true)
  },
  stop: () => {
    if (lectern.live || lectern.phase === 'paused') asking.value = true
  },
  notes: () => {
    whole.value = !whole.value
  },
  line: (by) => {
    prompter.value?.move(by)
  },
  grow: (by) => {
    prompter.value?.grow(by)
  },
  help: () => {
    help.value = true
  },
  jump: () => {
    jumping.value = !jumping.value
  },
  moves: () => {
    prompter.value?.nextMoves()
  },
  busy: () => checking.value || asking.value || help.value || jumping.value || asked.value !== null,
})
watch(
  () => talk.talk?.id,
  (id) => {
    if (id === undefined) return
    if (!underWay.value) lectern.rest()
    if (devices.stream === null) checking.value = true
    // A link may ask for a slide that is not in the talk yet.
    const chosen = talk.slides.find((slide) => slide.id === route.query['slide'])?.id ?? talk.selected
    if (underWay.value) return
    if (wanted.value !== null) lectern.bringUp(wanted.value.slide, performance.now())
    else if (chosen !== null) lectern.goTo(chosen, performance.now())
  },
  { immediate: true },
)
watch(
  () => talk.selected,
  (id) => {
    if (id !== null && id !== lectern.slide?.id) lectern.goTo(id, talk.selectedAt())
  },
)
useEventListener(window, 'beforeunload', (event) => {
  if (underWay.value) event.preventDefault()
})
onBeforeRouteLeave(() => {
  if (!underWay.value) {
    devices.close()
    return true
  }
  asking.value = true
  return false
})
function checkRoom(): void {
  asked.value = null
  checking.value = true
}
</script>

<template>
  <StationFrame dark :coming="coming" :landing="lectern.landing" :playhead="underWay ? lectern.spent : null" @broken="checking = false">
    <div class="lectern" :class="[{ live: lectern.live }, `notes-${band}`]">
      <div v-if="lectern.trouble" class="notice bad" role="alert">
        <p>{{ lectern.trouble }}</p>
        <button class="press small" @click="lectern.trouble = null">Close</button>
      </div>
      <div class="top">
        <PrompterBand ref="prompter" v-model:whole="whole" :place="band" @place="putBand" />
      </div>
      <ToolRail class="tools" />
      <div class="middle">
        <AfterTake v-if="lectern.phase === 'after' || lectern.phase === 'stopping'" @go-on="goOnAtEnd" @retake="retake" />
        <AfterRehearsal v-else-if="lectern.phase === 'rehearsed'" />
        <template v-else-if="talk.talk && lectern.slide">
          <LecternStage :talk-id="talk.talk.id" :shape="talk.talk.shape" />
          <ListenBack v-if="lectern.phase === 'paused' && !lectern.rehearsing" />
          <LeadIn
            v-if="lectern.leadIn"
            :from="lectern.leadIn.from"
            :to="lectern.leadIn.to"
            :shape="talk.talk.shape"
            @done="lectern.leadIn.then()"
          />
          <JumpGrid v-model="jumping" />
        </template>
        <div v-else class="none">
          <h2>No slides yet</h2>
          <NuxtLink v-if="talk.talk" class="press main" :to="`/talks/${talk.talk.id}/prepare`">Bring in a deck</NuxtLink>
        </div>
      </div>
      <ClockColumn class="clocks" />
      <TransportBar
        class="foot"
        :wanted="wanted?.id ?? null"
        :part="part"
        :rest="rest"
        @check="checking = true"
        @record="record"
        @stop="asking = true"
        @keys="help = true"
        @jump="jumping = true"
        @retake="retake"
      />
    </div>
    <RoomCheck v-model="checking" />
    <el-dialog
      v-model="asking"
      :title="lectern.rehearsing ? 'End this run-through?' : 'Stop this take?'"
      width="460"
      class="dark-shell"
      append-to-body
    >
      <p v-if="lectern.rehearsing">The timings until now are kept.</p>
      <p v-else>
        {{ lectern.phase === 'recording' ? 'Recording goes on while this is open.' : 'The take is paused.' }} What was recorded is kept.
      </p>
      <template #footer>
        <button class="press" @click="asking = false">Go on</button>
        <button class="press main" @click="stop">{{ lectern.rehearsing ? 'End it' : 'Stop and keep' }}</button>
      </template>
    </el-dialog>
    <el-dialog
      :model-value="asked !== null"
      :title="asked?.doubts.length ? 'Before you start' : 'Record again?'"
      width="500"
      class="dark-shell"
      append-to-body
      @close="asked = null"
    >
      <p v-for="doubt in asked?.doubts" :key="doubt" class="doubt" role="alert">{{ doubt }}</p>
      <p v-if="replaces">
        The new take replaces the {{ duration(talk.index?.length ?? 0) }} that Review plays now. The old recording is kept; discarding the
        new one brings it back.
      </p>
      <template #footer>
        <button v-if="asked?.doubts.length" class="press" @click="checkRoom">Room check</button>
        <button v-else class="press" @click="asked = null">Not now</button>
        <button class="press" :class="{ main: !asked?.doubts.length }" @click="asked && start(asked)">
          {{ asked?.doubts.length ? 'Record all the same' : 'Record again' }}
        </button>
      </template>
    </el-dialog>
    <KeyList v-model="help" />
    <WindowChoice />
  </StationFrame>
</template>

<style scoped>
/* Over the lane: what is said during a take must not move the slide from under the pen. */
.lectern > .notice {
  position: absolute;
  z-index: 20;
  left: 12px;
  right: 12px;
  bottom: calc(100% + 6px);
}
.lectern {
  position: relative;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / 54px minmax(0, 1fr) 250px;
  height: 100%;
}
.top {
  grid-column: 2;
  display: grid;
  gap: 6px;
  padding: 4px 12px 0;
  min-width: 0;
}
.tools {
  grid-row: 1 / 3;
  grid-column: 1;
}
.middle {
  position: relative;
  grid-row: 2;
  grid-column: 2;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 8px;
  place-items: stretch;
  padding: 8px 12px 12px;
  min-height: 0;
  min-width: 0;
}
.middle > .after,
.none {
  place-self: center;
}
.clocks {
  grid-row: 1 / 3;
  grid-column: 3;
}
.foot {
  grid-row: 3;
  grid-column: 1 / -1;
  transition: opacity 0.3s;
}
.tools {
  transition: opacity 0.3s;
}
.live .foot:not(:hover, :focus-within),
.live .tools:not(:hover, :focus-within) {
  opacity: 0.8;
}
.none {
  display: grid;
  gap: 14px;
  justify-items: center;
}
.doubt {
  color: var(--accent);
  font-weight: 600;
}
.doubt + p {
  margin-top: 10px;
}
/* The notes beside or under the slide, where the camera is. */
.notes-foot {
  grid-template-rows: minmax(0, 1fr) auto auto;
}
.notes-foot .top {
  grid-row: 2;
}
.notes-foot .middle {
  grid-row: 1;
}
.notes-left {
  grid-template: minmax(0, 1fr) auto / 54px 270px minmax(0, 1fr) 250px;
}
.notes-right {
  grid-template: minmax(0, 1fr) auto / 54px minmax(0, 1fr) 270px 250px;
}
:is(.notes-left, .notes-right) :is(.tools, .middle, .top, .clocks) {
  grid-row: 1;
}
.notes-left .top,
.notes-right .middle {
  grid-column: 2;
}
.notes-left .middle,
.notes-right .top {
  grid-column: 3;
}
:is(.notes-left, .notes-right) .clocks {
  grid-column: 4;
}
:is(.notes-left, .notes-right) .foot {
  grid-row: 2;
}
@media (max-width: 900px) {
  .lectern.lectern {
    grid-template: auto 74vh auto auto / 54px minmax(0, 1fr);
    height: auto;
  }
  .lectern.lectern .tools {
    grid-row: 1 / 3;
    grid-column: 1;
  }
  .lectern.lectern .top {
    grid-row: 1;
    grid-column: 2;
  }
  .lectern.lectern .middle {
    grid-row: 2;
    grid-column: 2;
  }
  .lectern.lectern .clocks {
    grid-row: 3;
    grid-column: 1 / -1;
    border-left: 0;
  }
  .lectern.lectern .foot {
    position: sticky;
    bottom: 0;
    grid-row: 4;
    grid-column: 1 / -1;
  }
}
</style>
