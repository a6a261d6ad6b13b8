<script setup lang="ts">
/** Words that are asked for over their field. What holds of the field besides is the field's own. */
defineOptions({ inheritAttrs: false })
const words = defineModel<string>({ required: true })
defineProps<{ label: string; /** Of a field of several lines. */ lines?: number }>()
</script>

<template>
  <label class="asked"
    >{{ label }}
    <DraftInput v-bind="{ ...$attrs, ...(lines === undefined ? {} : { lines }) }" v-model="words" class="field" />
  </label>
</template>

<style scoped>
.field {
  width: 100%;
  padding: 6px 9px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--ground);
  font-weight: 400;
  resize: vertical;
}
</style>
