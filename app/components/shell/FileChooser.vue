<script setup lang="ts">
/** A field for files that is not seen: whoever uses it has it opened by a button. `accept`, `multiple` and its name are the field's own. */
const emit = defineEmits<{ files: [files: readonly File[]] }>()
const field = ref<HTMLInputElement | null>(null)

function chosen(): void {
  if (field.value === null) return
  const files = [...(field.value.files ?? [])]
  // The same file can be chosen once more.
  field.value.value = ''
  if (files.length > 0) emit('files', files)
}
defineExpose({
  open: (): void => {
    field.value?.click()
  },
})
</script>

<template>
  <input ref="field" type="file" hidden @change="chosen" />
</template>
