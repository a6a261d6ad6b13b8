<script setup lang="ts">
import type { SharedLink } from '@contracts'

/** Links in rows, with one more while a new one is written. */
const props = defineProps<{ links: readonly SharedLink[] }>()
const emit = defineEmits<{ change: [links: readonly SharedLink[]] }>()

const NEW: SharedLink = { address: '', title: '', during: null }
/** A row that leads nowhere yet is only here. */
const fresh = ref(false)
const rows = computed<readonly SharedLink[]>(() => (fresh.value ? [...props.links, NEW] : props.links))

function set(n: number, link: SharedLink): void {
  if (n === props.links.length) fresh.value = false
  emit('change', [...props.links.slice(0, n), link, ...props.links.slice(n + 1)])
}
function remove(n: number): void {
  if (n === props.links.length) fresh.value = false
  else
    emit(
      'change',
      props.links.filter((_, other) => other !== n),
    )
}
</script>

<template>
  <div class="links">
    <table v-if="rows.length > 0">
      <thead>
        <tr>
          <th scope="col">Leads to</th>
          <th scope="col">Called</th>
          <th scope="col">From</th>
          <th scope="col">To</th>
          <th scope="col" aria-label="Take away" />
        </tr>
      </thead>
      <tbody>
        <LinkRow
          v-for="(row, n) in rows"
          :key="n"
          :model-value="row"
          :number="n + 1"
          @update:model-value="set(n, $event)"
          @remove="remove(n)"
        />
      </tbody>
    </table>
    <button v-if="!fresh" class="press small" @click="fresh = true">Add a link</button>
  </div>
</template>

<style scoped>
.links {
  display: grid;
  gap: 8px;
  justify-items: start;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding: 0 8px 2px 0;
  color: var(--soft);
  font-weight: normal;
  text-align: left;
}
</style>
