<script setup lang="ts">
/** A slider of one number, which tells it when the hand lets go. Its bounds and its name are the slider's own. */
const props = defineProps<{ modelValue: number }>()
const emit = defineEmits<{ change: [value: number] }>()
/** Where it is while it is moved: what it is of changes when the hand lets go. */
const draft = ref(props.modelValue)
watch(
  () => props.modelValue,
  (value) => {
    draft.value = value
  },
)
function changed(value: number | readonly number[]): void {
  if (typeof value === 'number' && value !== props.modelValue) emit('change', value)
}
</script>

<template>
  <el-slider v-model="draft" size="small" @change="changed" />
</template>
