<script setup lang="ts">
/** A field whose words count once it is left or Enter is pressed. Until then what was typed stays, whatever else changes on the page. */
const props = defineProps<{ modelValue: string }>()
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()
const draft = ref<string | null>(null)

async function keep(): Promise<void> {
  if (draft.value !== null) emit('update:modelValue', draft.value)
  await nextTick()
  draft.value = null
}
</script>

<template>
  <input :value="draft ?? props.modelValue" @input="draft = ($event.target as HTMLInputElement).value" @change="keep" />
</template>
