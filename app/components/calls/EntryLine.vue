<script setup lang="ts">
import type { EntryView } from '@contracts'
import { REVIEW_WORDS } from '~/calls'
import { duration, fileSize, moment } from '~/words'

/** Something that was handed in for a call, as who handed it in sees it: its receipt, or why it was not taken. */
const props = defineProps<{ entry: EntryView; /** Whether something newer counts. */ replaced: boolean }>()
const said = computed(() => props.entry.review === 'sent-back' || props.entry.review === 'accepted')
</script>

<template>
  <article class="entry" :class="[entry.state, { replaced }]" :aria-label="`${entry.title}, ${moment(entry.at)}`">
    <p class="head">
      <b v-if="entry.state === 'taken'">{{ replaced ? 'Handed in before' : 'Handed in' }}</b>
      <b v-else-if="entry.state === 'refused'">Not taken</b>
      <b v-else-if="entry.state === 'making'" role="status">Its file is being made …</b>
      <b v-else role="status">It is being looked at …</b>
      <span class="soft">{{ moment(entry.at) }}<template v-if="entry.late">, after the last day</template></span>
      <span v-if="said && !replaced" class="review" :class="entry.review">{{ REVIEW_WORDS[entry.review] }}</span>
    </p>
    <p v-if="entry.sentence" class="sentence">{{ entry.sentence }}</p>
    <p v-if="entry.state === 'making' || entry.state === 'checking'" class="soft">
      It counts from when you handed it in. You can close this page; it goes on.
    </p>
    <p v-if="entry.state === 'taken'" class="soft facts">
      {{ entry.file }}<template v-if="entry.length !== null">, {{ duration(entry.length) }}</template
      ><template v-if="entry.bytes !== null">, {{ fileSize(entry.bytes) }}</template
      ><span v-if="entry.digest" class="digest" :title="`SHA-256 ${entry.digest}`">SHA-256 {{ entry.digest.slice(0, 16) }}…</span>
    </p>
    <p v-if="entry.remark" class="remark">{{ entry.remark }}</p>
  </article>
</template>

<style scoped>
.entry {
  display: grid;
  gap: 4px;
  padding: 8px 12px;
  border-left: 3px solid var(--accent);
}
.taken {
  border-left-color: var(--brand);
}
.replaced {
  border-left-color: var(--line);
}
.refused {
  border-left-color: var(--alarm);
}
.refused .sentence {
  color: var(--alarm);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
}
.review {
  font-weight: 600;
}
.review.accepted {
  color: var(--brand);
}
.review.sent-back {
  color: var(--accent-text);
}
.facts {
  overflow-wrap: anywhere;
}
.digest {
  margin-left: 12px;
  font: 13px var(--clock);
}
.remark {
  padding: 6px 10px;
  background: var(--accent-wash);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>
