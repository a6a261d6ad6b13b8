<script setup lang="ts">
import type { SendingView } from '@contracts'
import { fileSize, moment } from '~/words'

/** A file on its way to somebody, or there: how far it is, and the receipt. */
const props = defineProps<{ sending: SendingView }>()
defineEmits<{ stop: []; again: [] }>()
const underWay = computed(() => props.sending.state === 'queued' || props.sending.state === 'sending')
const share = computed(() => Math.round((props.sending.sent / Math.max(1, props.sending.total)) * 100))
</script>

<template>
  <article class="sending" :class="sending.state" :aria-label="`${sending.file} to ${sending.to}`">
    <div class="head">
      <b>{{ sending.to }}</b>
      <span class="soft">{{ moment(sending.receipt?.at ?? sending.created) }}</span>
    </div>
    <template v-if="underWay">
      <el-progress :percentage="share" :stroke-width="8" :show-text="false" :aria-label="`${share}% sent`" />
      <p role="status" class="soft">
        <template v-if="sending.state === 'queued'">Waiting for its turn …</template>
        <template v-else-if="share >= 100">All of it is there; it is being looked at …</template>
        <template v-else>{{ fileSize(sending.sent) }} of {{ fileSize(sending.total) }} sent. You can close this page; it goes on.</template>
      </p>
    </template>
    <p v-else-if="sending.receipt">
      Taken<template v-if="sending.kind !== 'place'"
        >, receipt
        <a v-if="sending.receipt.page" :href="sending.receipt.page" target="_blank" rel="noopener">{{ sending.receipt.number }}</a><b
          v-else
          >{{ sending.receipt.number }}</b
        ></template
      ><template v-else> as {{ sending.file }}</template
      >.
      <span v-if="sending.digest" class="soft digest" :title="`SHA-256 ${sending.digest}`">SHA-256 {{ sending.digest.slice(0, 16) }}…</span>
    </p>
    <p v-else class="said">{{ sending.sentence }}</p>
    <div class="row">
      <button v-if="underWay" class="press quiet small" @click="$emit('stop')">Stop</button>
      <button
        v-else-if="(sending.state === 'failed' || sending.state === 'cancelled') && sending.delivery"
        class="press small"
        @click="$emit('again')"
      >
        Go on from {{ share }}%
      </button>
    </div>
  </article>
</template>

<style scoped>
.sending {
  display: grid;
  gap: 6px;
  padding: 8px 12px;
  border-left: 3px solid var(--line);
}
.done {
  border-left-color: var(--brand);
}
.refused,
.failed {
  border-left-color: var(--alarm);
}
.said {
  overflow-wrap: anywhere;
}
.refused .said,
.failed .said {
  color: var(--alarm);
}
.head {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}
.head b {
  overflow-wrap: anywhere;
}
.digest {
  font: 13px var(--clock);
}
.row:empty {
  display: none;
}
</style>
