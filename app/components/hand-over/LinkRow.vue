<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import type { SharedLink } from '@contracts'
import { duration, readDuration } from '~/words'

/** One link: where it leads, what it is called, and from when to when it stands beside the film. */
const link = defineModel<SharedLink>({ required: true })
defineProps<{ number: number }>()
const emit = defineEmits<{ remove: [] }>()

/** How long a link stands beside the film whose end nobody said, in ms. */
const USUAL = 20_000
const change = (fields: Partial<SharedLink>): void => {
  link.value = { ...link.value, ...fields }
}
/** What is typed of an address without a scheme is meant to have the usual one. */
const address = computed({
  get: () => link.value.address,
  set: (text: string) => {
    const typed = text.trim()
    if (typed !== '') change({ address: /^[a-z][a-z0-9+.-]*:/i.test(typed) ? typed : `https://${typed}` })
  },
})
const title = computed({
  get: () => link.value.title,
  set: (text: string) => {
    change({ title: text.trim() })
  },
})
const from = computed({
  get: () => (link.value.during === null ? '' : duration(link.value.during.from)),
  set: (text: string) => {
    const typed = readDuration(text)
    const before = link.value.during
    if (typed === null) change({ during: null })
    else change({ during: { from: typed, to: before !== null && before.to > typed ? before.to : typed + USUAL } })
  },
})
const to = computed({
  get: () => (link.value.during === null ? '' : duration(link.value.during.to)),
  set: (text: string) => {
    const typed = readDuration(text)
    if (link.value.during !== null && typed !== null) change({ during: { ...link.value.during, to: typed } })
  },
})
</script>

<template>
  <tr>
    <td>
      <DraftInput v-model="address" type="url" placeholder="https://" maxlength="2000" :aria-label="`Address of link ${number}`" />
    </td>
    <td>
      <DraftInput v-model="title" :disabled="link.address === ''" maxlength="200" :aria-label="`Name of link ${number}`" />
    </td>
    <td>
      <DraftInput
        v-model="from"
        class="clock time"
        :disabled="link.address === ''"
        placeholder="0:00"
        :aria-label="`When link ${number} comes, empty when it is only listed`"
      />
    </td>
    <td>
      <DraftInput
        v-model="to"
        class="clock time"
        :disabled="link.during === null"
        placeholder="0:00"
        :aria-label="`When link ${number} goes`"
      />
    </td>
    <td>
      <button class="press quiet small" :aria-label="`Take link ${number} away`" title="Take away" @click="emit('remove')">
        <Delete />
      </button>
    </td>
  </tr>
</template>

<style scoped>
td {
  padding: 2px 8px 2px 0;
}
td:first-child {
  width: 46%;
}
td:last-child {
  width: 32px;
  padding-right: 0;
}
input {
  width: 100%;
  min-height: 34px;
  padding: 2px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
input:disabled {
  opacity: 0.55;
}
.time {
  width: 76px;
}
</style>
