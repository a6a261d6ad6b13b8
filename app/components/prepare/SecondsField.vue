<script setup lang="ts">
import { LONGEST_MOTION } from '@core/model'
import type { Ms } from '@core/model'

/** A time in seconds, to a tenth. */
defineProps<{ modelValue: Ms }>()
const emit = defineEmits<{ 'update:modelValue': [ms: Ms] }>()
const set = (seconds: number | undefined): void => {
  emit('update:modelValue', Math.max(0, Math.min(LONGEST_MOTION, Math.round((seconds ?? 0) * 1000))))
}
</script>

<template>
  <span class="seconds"
    ><el-input-number
      size="small"
      controls-position="right"
      :model-value="modelValue / 1000"
      :min="0"
      :max="LONGEST_MOTION / 1000"
      :step="0.1"
      :precision="1"
      v-bind="$attrs"
      @update:model-value="set"
    />
    s</span
  >
</template>

<style scoped>
.seconds {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
.seconds .el-input-number {
  width: 84px;
}
</style>
