<script setup lang="ts">
import { ENTRY_FIELDS, entryNames } from '@core/calls'
import type { RegisterRow } from '@contracts'

/** Everything that was handed in, or what is chosen of it, as one file. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ call: string; rows: readonly RegisterRow[]; chosen: ReadonlySet<string>; fields: readonly string[] }>()
const pattern = ref('{number}-{name}')
const entries = computed(() =>
  props.rows
    .filter(({ entry }) => entry !== null && (props.chosen.size === 0 || props.chosen.has(entry.id)))
    .sort((a, b) => a.name.localeCompare(b.name)),
)
/** What the first ones will be called. */
const examples = computed(() =>
  entryNames(
    pattern.value.trim() === '' ? '{number}-{name}' : pattern.value,
    entries.value.map(({ name, entry }) => ({ name, talk: entry?.title ?? '', date: entry?.at.slice(0, 10) ?? '', fields: {} })),
  ).slice(0, 2),
)
/** What can stand in the pattern. */
const inBraces = computed(() => [...ENTRY_FIELDS, ...props.fields].map((field) => `{${field}}`))
const address = computed(() => {
  const query = new URLSearchParams({ pattern: pattern.value.trim() === '' ? '{number}-{name}' : pattern.value.trim() })
  if (props.chosen.size > 0) query.set('entries', [...props.chosen].join(','))
  return `/api/calls/${props.call}/zip?${query.toString()}`
})
</script>

<template>
  <el-dialog v-model="open" title="Take along" width="520" append-to-body>
    <div class="form">
      <p>
        {{ entries.length === 1 ? 'One talk' : `${entries.length} talks` }} with captions and transcripts, and the register as a table, in
        one zip.
      </p>
      <label class="asked">Named <el-input v-model="pattern" maxlength="200" aria-label="Pattern of the names" /></label>
      <p class="soft">
        With <code v-for="field in inBraces" :key="field">{{ field }}</code>
      </p>
      <p v-if="examples.length > 0" class="soft">
        Such as <code v-for="name in examples" :key="name">{{ name }}.mp4</code>
      </p>
    </div>
    <template #footer>
      <button class="press" @click="open = false">Leave it</button>
      <a class="press main" :href="address" download @click="open = false">Save the zip</a>
    </template>
  </el-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}
code {
  margin-right: 8px;
  font: 14px var(--clock);
  overflow-wrap: anywhere;
}
</style>
