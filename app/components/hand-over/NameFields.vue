<script setup lang="ts">
import { KNOWN_FIELDS, emptyFields, ownFields } from '@core/plan'
import type { Recipe } from '@core/model'

/** What stands for the fields of a file's name that the talk does not know. */
const recipe = defineModel<Recipe>({ required: true })
const known = KNOWN_FIELDS.map((field) => `{${field}}`).join(', ')
const fields = computed(() => ownFields(recipe.value.name))
const empty = computed(() => emptyFields(recipe.value.name, recipe.value.fields))
function setField(field: string, text: string): void {
  recipe.value = { ...recipe.value, fields: { ...recipe.value.fields, [field]: text.trim() } }
}
</script>

<template>
  <div v-if="fields.length > 0" class="fields">
    <label v-for="field in fields" :key="field"
      ><span>{{ field }}</span
      ><DraftInput
        :model-value="recipe.fields[field] ?? ''"
        maxlength="80"
        :aria-invalid="empty.includes(field)"
        @update:model-value="setField(field, $event)"
    /></label>
    <p v-if="empty.length > 0" class="soft">Say {{ empty.join(' and ') }}; what is left empty is left out of the name.</p>
  </div>
  <p v-else class="soft hint">The name may hold {{ known }} and fields of your own, such as {paper}.</p>
</template>

<style scoped>
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
input {
  width: 10em;
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: inherit;
  font-size: 16px;
}
input[aria-invalid='true'] {
  border-color: var(--alarm);
}
.hint {
  font-size: 14px;
}
</style>
