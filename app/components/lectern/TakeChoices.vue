<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { Intent } from '@core/model'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import type { RecordingMode } from '@core/session'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** The other ways to record, and how a take begins and ends. */
const emit = defineEmits<{ record: [intent: Intent, mode: RecordingMode] }>()
const lectern = useLectern()
const preferences = usePreferences()
const devices = useDevices()
const talk = useTalk()
const open = ref(false)
const hears = computed(() => devices.stream !== null)
const recorded = computed(() => talk.visits.length > 0)

interface Way {
  readonly name: string
  readonly say: string
  readonly intent: Intent
  readonly mode: RecordingMode
  readonly needsVoice: boolean
}
const ways = computed<readonly Way[]>(() => {
  const length = talk.index?.length ?? 0
  const end: Way = {
    name: 'On at the end',
    say: `Everything stays; this follows at ${duration(length)}.`,
    intent: { kind: 'append' },
    mode: 'full',
    needsVoice: true,
  }
  const dub: Way = {
    name: 'Voice over what is there',
    say: 'Slides, steps and ink play as recorded; you speak. The old voice and face go from that part.',
    intent: { kind: 'dub', at: 0 },
    mode: 'dub',
    needsVoice: true,
  }
  const silent: Way = {
    name: 'Timings and ink, no voice',
    say: 'Show and draw in peace; speak over it afterwards.',
    intent: { kind: 'replaceAll' },
    mode: 'silent',
    needsVoice: false,
  }
  return recorded.value ? [end, dub, silent] : [silent]
})
useEventListener(
  window,
  'keydown',
  (event: KeyboardEvent) => {
    if (event.key === 'Escape') open.value = false
  },
  { capture: true },
)

function choose(way: Way): void {
  open.value = false
  emit('record', way.intent, way.mode)
}
</script>

<template>
  <el-popover v-model:visible="open" placement="top-start" :width="420" trigger="click" popper-class="dark-shell">
    <template #reference><button class="press" aria-label="More ways to record">More ways …</button></template>
    <div class="choices">
      <button
        v-for="way in ways"
        :key="way.name"
        class="way"
        :disabled="lectern.slide === null || (way.needsVoice && !hears)"
        @click="choose(way)"
      >
        <b>{{ way.name }}</b><span>{{ way.say }}</span>
      </button>
      <hr />
      <label class="habit"
        >Count down
        <el-input-number
          :model-value="preferences.now.countdown"
          :min="0"
          :max="10"
          size="small"
          aria-label="Seconds counted down"
          @update:model-value="preferences.set({ countdown: $event ?? 3 })"
        />
        s before recording</label
      >
      <label class="habit"
        ><el-switch
          :model-value="preferences.now.endAtLimit"
          size="small"
          aria-label="End at the limit"
          @update:model-value="preferences.set({ endAtLimit: $event === true })"
        />End at the limit<template v-if="talk.talk?.limit != null"> of {{ duration(talk.talk.limit) }}</template></label
      >
      <label class="habit"
        ><el-switch
          :model-value="preferences.now.endAfterLast"
          size="small"
          aria-label="End after the last step"
          @update:model-value="preferences.set({ endAfterLast: $event === true })"
        />End when I go on after the last step</label
      >
    </div>
  </el-popover>
</template>

<style scoped>
.choices {
  display: grid;
  gap: 8px;
}
.way {
  display: grid;
  gap: 2px;
  padding: 8px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: none;
  color: var(--text);
  font: 15px var(--read);
  text-align: left;
  cursor: pointer;
}
.way:hover:not(:disabled) {
  border-color: var(--brand);
}
.way:disabled {
  opacity: 0.5;
  cursor: default;
}
.way span {
  color: var(--soft);
  font-size: 14px;
}
hr {
  width: 100%;
  border: 0;
  border-top: 1px solid var(--line);
  margin: 2px 0;
}
.habit {
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--text);
}
</style>
