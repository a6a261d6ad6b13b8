<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { motionsOf, shiftedMotion, withoutMotion } from '@core/objects'
import { EASES, ENTRANCES, MOST_DRAWN_STEPS, MOTION_STARTS, PATH_LINES } from '@core/model'
import type { MotionDeed } from '@core/model'
import { useObjects } from '~/stores/objects'
import { EASE_WORDS, ENTRANCE_WORDS, LINE_WORDS, MOTION_START_WORDS } from '~/words'

/** How the chosen motion goes. */
const props = defineProps<{ steps: number }>()
const emit = defineEmits<{ step: [step: number] }>()
const objects = useObjects()
const motion = computed(() => objects.chosenMotion)
/** Its place among the motions of its step. */
const place = computed(() => motionsOf(objects.kept, motion.value?.step ?? 0).findIndex((one) => one.motion.id === motion.value?.id))
const stepChoices = computed(() => Array.from({ length: Math.min(props.steps + 1, MOST_DRAWN_STEPS) }, (_, n) => n))
function setStep(step: number): void {
  objects.changeMotion({ step })
  // At once: the row is of the step that is up, and goes with it.
  emit('step', step)
}
function deed(fields: object): void {
  if (motion.value !== null) objects.changeMotion({ does: { ...motion.value.does, ...fields } as MotionDeed })
}
function shift(by: 1 | -1): void {
  if (motion.value !== null) objects.keep(shiftedMotion(objects.kept, motion.value.id, by))
}
function remove(): void {
  if (motion.value === null) return
  const { id } = motion.value
  objects.motion = null
  objects.keep(withoutMotion(objects.kept, id))
}
/** One more corner, a little further on. */
function addPoint(): void {
  const does = motion.value?.does
  if (does?.kind !== 'path') return
  const last = does.points.at(-1) ?? { x: 0, y: 0 }
  deed({ points: [...does.points, { x: last.x + 0.1, y: last.y + 0.1 }] })
}
const removePoint = (): void => {
  const does = motion.value?.does
  if (does?.kind === 'path') deed({ points: does.points.slice(0, -1) })
}
</script>

<template>
  <div v-if="motion" class="row" role="group" aria-label="How it moves">
    <el-select size="small" class="step" :model-value="motion.step" aria-label="With step" @update:model-value="setStep">
      <el-option v-for="n in stepChoices" :key="n" :value="n" :label="n === steps ? `a new step ${n + 1}` : `with step ${n + 1}`" />
    </el-select>
    <el-select
      v-if="place > 0"
      size="small"
      class="start"
      :model-value="motion.start"
      aria-label="It begins"
      @update:model-value="objects.changeMotion({ start: $event })"
    >
      <el-option v-for="start in MOTION_STARTS" :key="start" :value="start" :label="MOTION_START_WORDS[start]" />
    </el-select>
    <span class="field"
      >after
      <SecondsField
        :model-value="motion.delay"
        aria-label="Seconds before it begins"
        @update:model-value="objects.changeMotion({ delay: $event })"
    /></span>
    <span class="field"
      >for
      <SecondsField
        :model-value="motion.duration"
        aria-label="Seconds that it takes"
        @update:model-value="objects.changeMotion({ duration: $event })"
    /></span>
    <el-select
      size="small"
      class="start"
      :model-value="motion.ease"
      aria-label="Its speed"
      @update:model-value="objects.changeMotion({ ease: $event })"
    >
      <el-option v-for="ease in EASES" :key="ease" :value="ease" :label="EASE_WORDS[ease]" />
    </el-select>
    <el-select
      v-if="motion.does.kind === 'comes' || motion.does.kind === 'goes'"
      size="small"
      class="step"
      :model-value="motion.does.how"
      aria-label="How it comes or goes"
      @update:model-value="deed({ how: $event })"
    >
      <el-option v-for="how in ENTRANCES" :key="how" :value="how" :label="ENTRANCE_WORDS[how]" />
    </el-select>
    <template v-else-if="motion.does.kind === 'path'">
      <el-select
        size="small"
        class="step"
        :model-value="motion.does.line"
        aria-label="Its way is"
        @update:model-value="deed({ line: $event })"
      >
        <el-option v-for="line in PATH_LINES" :key="line" :value="line" :label="LINE_WORDS[line]" />
      </el-select>
      <el-checkbox size="small" :model-value="motion.does.turns" @update:model-value="deed({ turns: $event === true })"
        >turns with its way</el-checkbox
      >
      <button class="press small" :aria-pressed="objects.pen === 'path'" @click="objects.pen = 'path'">Draw its way by hand</button>
      <template v-if="motion.does.line !== 'freehand'">
        <button class="press small" @click="addPoint">One more point</button>
        <button v-if="motion.does.points.length > 1" class="press small" @click="removePoint">One less</button>
      </template>
    </template>
    <span v-else class="field"
      >to
      <el-input-number
        v-if="motion.does.kind === 'grows'"
        size="small"
        controls-position="right"
        :model-value="Math.round(motion.does.to * 100)"
        :min="0"
        :max="2000"
        :step="10"
        aria-label="Size, in percent"
        @update:model-value="deed({ to: ($event ?? 100) / 100 })"
      />
      <el-input-number
        v-else
        size="small"
        controls-position="right"
        :model-value="Math.round(motion.does.to * 100)"
        :min="0"
        :max="100"
        :step="10"
        aria-label="Covers, in percent"
        @update:model-value="deed({ to: ($event ?? 100) / 100 })"
      />
      %</span
    >
    <button v-if="place > 0" class="press small" @click="shift(-1)">Earlier</button>
    <button class="press small danger" aria-label="Take this motion off" title="Take this motion off" @click="remove"><Delete /></button>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  font-size: 13.5px;
}
.step {
  width: 118px;
}
.start {
  width: 160px;
}
.field {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
.field .el-input-number {
  width: 84px;
}
</style>
