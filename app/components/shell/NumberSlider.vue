<script setup lang="ts">
/** A slider of one number, which tells it when the hand lets go. Its bounds and its name are the slider's own. */
const emit = defineEmits<{ change: [value: number] }>()
function changed(value: number | readonly number[]): void {
  if (typeof value === 'number') emit('change', value)
}
</script>

<template>
  <el-slider size="small" @change="changed" />
</template>
