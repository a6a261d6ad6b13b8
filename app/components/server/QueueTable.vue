<script setup lang="ts">
import type { QueueName, QueueState } from '@contracts'
import { duration } from '~/words'

/** What waits in each queue, and how long it has. */
defineProps<{ queues: readonly QueueState[] }>()
const NAMES: Readonly<Record<QueueName, string>> = {
  takes: 'Takes to close',
  decks: 'Decks to read',
  letters: 'Letters and files to send',
  films: 'Files to make',
  listening: 'Talks to listen to',
  ahead: 'Made ahead',
}
</script>

<template>
  <el-table :data="[...queues]" empty-text="Nothing waits.">
    <el-table-column label="Queue"
      ><template #default="{ row }">{{ NAMES[row.name as QueueName] }}</template></el-table-column
    >
    <el-table-column label="Under way" prop="underWay" align="right" width="100" />
    <el-table-column label="Waiting" prop="waiting" align="right" width="90" />
    <el-table-column label="Longest" align="right" width="100"
      ><template #default="{ row }">{{ row.oldest > 0 ? duration(row.oldest) : '' }}</template></el-table-column
    >
    <el-table-column label="For later" prop="later" align="right" width="90" />
    <el-table-column label="Given up" align="right" width="90"
      ><template #default="{ row }"
        ><span :class="{ bad: row.failed > 0 }">{{ row.failed }}</span></template
      ></el-table-column
    >
  </el-table>
</template>

<style scoped>
.bad {
  color: var(--alarm);
  font-weight: 600;
}
</style>
