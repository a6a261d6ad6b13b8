<script setup lang="ts">
import { VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useRafFn } from '@vueuse/core'
import { motionsOf, withStart } from '@core/objects'
import type { MotionId, ObjectMotion, Slide, StepStart } from '@core/model'
import { useObjects } from '~/stores/objects'
import { DEED_WORDS, nameOfObject } from '~/words'

/** What moves when in a step of a slide, and how that step begins. It can be played here. */
const props = defineProps<{ slide: Slide; step: number }>()
const emit = defineEmits<{ step: [step: number] }>()
const objects = useObjects()
const motions = computed(() => motionsOf(objects.kept, props.step))
/** What the lane has room for, in ms. */
const room = computed(() => Math.max(1000, objects.movesFor(props.step) * 1.04))
const percent = (ms: number): string => `${String((ms / room.value) * 100)}%`
const nameOf = ({ object, does }: ObjectMotion): string => {
  const found = objects.kept.objects.find(({ id }) => id === object)
  return `${found === undefined ? '' : nameOfObject(found.form)} ${DEED_WORDS[does.kind]}`
}
function pick(id: MotionId, motion: ObjectMotion): void {
  objects.choose([motion.object])
  objects.motion = id
}

const playing = computed(() => objects.elapsed !== Infinity)
let began = 0
const { pause, resume } = useRafFn(
  () => {
    objects.elapsed = performance.now() - began
    if (objects.elapsed > objects.movesFor(props.step)) stop()
  },
  { immediate: false },
)
function play(): void {
  began = performance.now()
  objects.elapsed = 0
  resume()
}
function stop(): void {
  pause()
  objects.elapsed = Infinity
}
watch(() => [props.slide.id, props.step], stop)
onBeforeUnmount(stop)

type Begins = 'presenter' | StepStart['after']
const BEGINS: readonly { readonly value: Begins; readonly label: string }[] = [
  { value: 'presenter', label: 'when I go on' },
  { value: 'begun', label: 'by itself, after the step before has been on for' },
  { value: 'ended', label: 'by itself, once the step before has come to rest, after' },
]
const start = computed(() => objects.kept.starts.find(({ step }) => step === props.step))
const setStart = (next: Omit<StepStart, 'step'> | null): void => {
  objects.keep(withStart(objects.kept, props.step, next))
}
function setBegins(value: Begins): void {
  setStart(value === 'presenter' ? null : { after: value, wait: start.value?.wait ?? 1000 })
}
</script>

<template>
  <section class="lane" aria-label="What moves when">
    <div class="head">
      <button class="press small" :disabled="motions.length === 0" @click="playing ? stop() : play()">
        <VideoPause v-if="playing" aria-hidden="true" /><VideoPlay v-else aria-hidden="true" />{{ playing ? 'Stop' : 'Play' }} step
        {{ step + 1 }}
      </button>
      <template v-if="step > 0">
        <span class="soft">It begins</span>
        <el-select
          class="begins"
          size="small"
          :model-value="start?.after ?? 'presenter'"
          aria-label="This step begins"
          @update:model-value="setBegins"
        >
          <el-option v-for="one in BEGINS" :key="one.value" :value="one.value" :label="one.label" />
        </el-select>
        <SecondsField
          v-if="start"
          :model-value="start.wait"
          aria-label="Seconds until it begins"
          @update:model-value="setStart({ ...start, wait: $event })"
        />
      </template>
    </div>
    <p v-if="motions.length === 0" class="soft none">
      Nothing moves in step {{ step + 1 }}. Choose an object, and say how it moves.
      <button v-if="slide.steps.length > step + 1" class="press quiet small" @click="emit('step', step + 1)">To step {{ step + 2 }}</button>
    </p>
    <ol v-else class="bars">
      <li v-for="{ motion, from, to } in motions" :key="motion.id">
        <button
          class="bar"
          :class="{ on: motion.id === objects.motion }"
          :aria-pressed="motion.id === objects.motion"
          :style="{ marginLeft: percent(from), width: percent(Math.max(to - from, room / 60)) }"
          :title="nameOf(motion)"
          @click="pick(motion.id, motion)"
        >
          <span>{{ nameOf(motion) }}</span>
        </button>
      </li>
      <li v-if="playing" class="now" :style="{ left: percent(objects.elapsed) }" aria-hidden="true" />
    </ol>
    <MotionRow v-if="objects.chosenMotion && objects.chosenMotion.step === step" :steps="slide.steps.length" @step="emit('step', $event)" />
  </section>
</template>

<style scoped>
.lane {
  display: grid;
  flex: none;
  gap: 6px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  font-size: 14px;
}
.head svg {
  width: 15px;
}
.begins {
  flex: 1 1 130px;
  max-width: 330px;
}
.none {
  font-size: 14px;
}
.bars {
  position: relative;
  display: grid;
  gap: 3px;
  max-height: 132px;
  margin: 0;
  padding: 4px;
  overflow: hidden auto;
  border: 1px solid var(--line);
  background: var(--card);
  list-style: none;
}
.bar {
  display: block;
  min-width: 24px;
  height: 24px;
  padding: 0 6px;
  border: 1px solid var(--brand);
  border-radius: 4px;
  background: var(--brand-wash);
  text-align: left;
  white-space: nowrap;
  cursor: pointer;
}
.bar span {
  font-size: 12.5px;
}
.bar.on {
  border: 2px solid var(--accent);
  font-weight: 600;
}
.now {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--accent);
}
</style>
