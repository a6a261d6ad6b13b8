<script setup lang="ts">
import { Ellipsis } from '@lucide/vue'
import type { PersonRow } from '@contracts'
import { fileSize, moment } from '~/words'

/** What is done with somebody's account. */
type Deed = 'quota' | 'hand-over' | 'reset' | 'operator' | 'blocked' | 'verified' | 'goes'

const props = defineProps<{ person: PersonRow; own: boolean }>()
const emit = defineEmits<{ deed: [deed: Deed] }>()
const marks = computed(() =>
  [
    props.person.operator ? 'operator' : '',
    props.person.blocked ? 'blocked' : '',
    props.person.verified ? '' : 'address not shown',
    props.person.goes === null ? '' : `goes ${moment(props.person.goes)}`,
    Object.values(props.person.own).some((value) => value !== null) ? 'room of their own' : '',
  ].filter((mark) => mark !== ''),
)
const DEEDS = computed<readonly { readonly deed: Deed; readonly words: string }[]>(() => [
  { deed: 'quota', words: 'What they may have …' },
  { deed: 'reset', words: 'Link to another password' },
  { deed: 'hand-over', words: 'Hand over what they made …' },
  ...(props.person.verified ? [] : [{ deed: 'verified', words: 'The address is theirs' } as const]),
  { deed: 'operator', words: props.person.operator ? 'No longer an operator' : 'Make an operator' },
  { deed: 'blocked', words: props.person.blocked ? 'Let in again' : 'Block' },
  { deed: 'goes', words: props.person.goes === null ? 'Delete …' : 'Keep after all' },
])
</script>

<template>
  <li :class="{ out: person.blocked || person.goes !== null }">
    <span class="who"
      ><b>{{ person.name }}</b
      ><span v-if="own" class="soft"> (you)</span><br /><span class="soft">{{ person.email }}</span></span
    >
    <span class="marks"
      ><span v-for="mark in marks" :key="mark" class="mark">{{ mark }}</span></span
    >
    <span class="numbers"
      >{{ person.talks === 1 ? '1 talk' : `${person.talks} talks` }}, {{ fileSize(person.bytes) }}<br /><span class="soft">{{
        person.seen === null ? 'not here yet' : `here ${moment(person.seen)}`
      }}</span></span
    >
    <el-dropdown trigger="click" @command="emit('deed', $event)">
      <button class="press quiet small" :aria-label="`What to do with ${person.name}`"><Ellipsis aria-hidden="true" /></button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item v-for="{ deed, words } in DEEDS" :key="deed" :command="deed">{{ words }}</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) auto auto;
  gap: 12px;
  align-items: center;
  padding: 10px 4px;
  border-bottom: 1px solid var(--line);
}
.who {
  overflow-wrap: anywhere;
}
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.mark {
  padding: 1px 8px;
  border-radius: 4px;
  background: var(--brand-wash);
  font-size: 14px;
}
.numbers {
  text-align: right;
}
.out .who b {
  color: var(--soft);
  text-decoration: line-through;
}
</style>
