<script setup lang="ts">
/** A field whose words count once it is left or Enter is pressed. Until then what was typed stays, whatever else changes on the page. */
const props = defineProps<{ modelValue: string; /** Of a field of several lines; left out: it has one. */ lines?: number }>()
const emit = defineEmits<{ 'update:modelValue': [text: string] }>()
const draft = ref<string | null>(null)
const shown = computed(() => draft.value ?? props.modelValue)

function type(event: Event): void {
  draft.value = (event.target as HTMLInputElement | HTMLTextAreaElement).value
}
async function keep(): Promise<void> {
  if (draft.value !== null) emit('update:modelValue', draft.value)
  await nextTick()
  draft.value = null
}
</script>

<template>
  <textarea v-if="lines !== undefined" :rows="lines" :value="shown" @input="type" @change="keep" />
  <input v-else :value="shown" @input="type" @change="keep" />
</template>
