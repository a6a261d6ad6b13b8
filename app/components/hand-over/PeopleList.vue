<script setup lang="ts">
import { readPeople } from '@core/formats'
import type { PersonNamed } from '@contracts'

/** People by their addresses: added by hand or by pasting a list, and taken off one by one. */
const props = defineProps<{ people: readonly PersonNamed[]; label: string }>()
const emit = defineEmits<{ change: [people: readonly PersonNamed[]] }>()
const pasted = ref('')
const added = ref<number | null>(null)
/** Lines shown of those that name nobody, and people of those who are there. */
const MOST_LINES = 5
const FEW = 8
const all = ref(false)
const read = computed(() => readPeople(pasted.value))
const fresh = computed(() => {
  const known = new Set(props.people.map(({ address }) => address))
  return read.value.people.filter(({ address }) => !known.has(address))
})
const shown = computed(() => (all.value ? props.people : props.people.slice(0, FEW)))

function add(): void {
  added.value = fresh.value.length
  emit('change', [...props.people, ...fresh.value])
  // What could not be read stays to be put right.
  pasted.value = read.value.unread.map(({ text }) => text).join('\n')
}
const remove = (address: string): void => {
  emit(
    'change',
    props.people.filter((person) => person.address !== address),
  )
}
const count = (n: number, one: string, many: string): string => (n === 1 ? `1 ${one}` : `${String(n)} ${many}`)
</script>

<template>
  <div class="people">
    <ul v-if="people.length > 0" :aria-label="label">
      <li v-for="person in shown" :key="person.address">
        <b v-if="person.name">{{ person.name }}</b><span class="soft">{{ person.address }}</span>
        <button class="press quiet small" :aria-label="`Take ${person.name || person.address} off`" @click="remove(person.address)">
          Take off
        </button>
      </li>
    </ul>
    <button v-if="people.length > FEW" class="press quiet small more" @click="all = !all">
      {{ all ? 'Show fewer' : `Show all ${people.length}` }}
    </button>
    <label
      >Add people
      <el-input
        v-model="pasted"
        type="textarea"
        :autosize="{ minRows: 2, maxRows: 8 }"
        placeholder="Addresses, or a list with names: one a line, or as a table. Paste it here."
        @update:model-value="added = null"
      />
    </label>
    <ul v-if="read.unread.length > 0" class="unread" role="status">
      <li v-for="{ line, text } in read.unread.slice(0, MOST_LINES)" :key="line">
        Line {{ line }} has no address that can be read: {{ text }}
      </li>
      <li v-if="read.unread.length > MOST_LINES">and {{ count(read.unread.length - MOST_LINES, 'more line', 'more lines') }}</li>
    </ul>
    <p class="row">
      <button class="press small" :disabled="fresh.length === 0" @click="add">
        {{ fresh.length === 0 ? 'Add' : `Add ${count(fresh.length, 'person', 'people')}` }}
      </button>
      <span v-if="added !== null" class="soft" role="status">{{ count(added, 'person was', 'people were') }} added.</span>
      <span v-else-if="read.people.length > fresh.length" class="soft"
        >{{ count(read.people.length - fresh.length, 'is', 'are') }} here already.</span
      >
    </p>
  </div>
</template>

<style scoped>
.people {
  display: grid;
  gap: 10px;
}
ul {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: center;
  min-height: 30px;
  overflow-wrap: anywhere;
}
li .press {
  margin-left: auto;
}
.more {
  justify-self: start;
}
label {
  display: grid;
  gap: 4px;
}
.unread li {
  min-height: 0;
  color: var(--alarm);
  font-size: 14px;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
</style>
