<script setup lang="ts">
import type { Review } from '@core/calls'
import type { RegisterRow } from '@contracts'
import { REVIEW_WORDS } from '~/calls'
import { RULE_NAMES } from '~/hand-in'
import { fileSize, moment } from '~/words'

/** What somebody handed in: played here, with what does not keep the rules, and what is said of it. */
const props = defineProps<{ row: RegisterRow; call: string; busy: boolean }>()
const emit = defineEmits<{ say: [review: Review, remark: string]; close: [] }>()
const entry = computed(() => props.row.entry)
const path = computed(() => `/api/calls/${props.call}/entries/${entry.value?.id ?? ''}`)
const remark = ref('')
// What was said stands above the field.
watch(
  () => [entry.value?.id, entry.value?.remarkedAt],
  () => {
    remark.value = ''
  },
)
const faults = computed(() => (entry.value?.lines ?? []).filter(({ state }) => state !== 'met'))
const isSound = computed(() => entry.value?.plays?.startsWith('audio/') === true)
</script>

<template>
  <aside v-if="entry" class="panel" :aria-label="`What ${row.name} handed in`">
    <div class="head">
      <div>
        <h2>{{ entry.title }}</h2>
        <p class="soft">{{ row.name }}, {{ moment(entry.at) }}<template v-if="entry.late">, late</template></p>
      </div>
      <button class="press quiet small" @click="emit('close')">Close</button>
    </div>
    <audio v-if="isSound" :key="entry.id" controls :src="`${path}/film?show`" />
    <video v-else-if="entry.plays" :key="`v${entry.id}`" controls preload="metadata" :src="`${path}/film?show`" />
    <p v-else class="notice">No browser plays this kind of file. Save it, and play it with a program of yours.</p>
    <ul v-if="faults.length > 0" class="faults" aria-label="Rules that are not kept">
      <li v-for="line in faults" :key="line.kind">
        <b>{{ RULE_NAMES[line.kind] }}</b> {{ line.found }}
      </li>
    </ul>
    <p class="wrapped">
      <a class="press small" :href="`${path}/film`" :download="entry.file"
        >Save the film<span v-if="entry.bytes" class="soft clock">{{ fileSize(entry.bytes) }}</span></a
      >
      <a v-for="{ role } in entry.companions" :key="role" class="press small" :href="`${path}/${role}`">{{ role }}</a>
    </p>
    <p v-if="entry.remark && entry.remarkedAt" class="said">
      <b>{{ REVIEW_WORDS[entry.review] }}</b> <span class="soft">{{ moment(entry.remarkedAt) }}</span><br />{{ entry.remark }}
    </p>
    <form class="remark" @submit.prevent>
      <label class="asked"
        >A remark
        <el-input
          v-model="remark"
          type="textarea"
          maxlength="4000"
          :autosize="{ minRows: 3, maxRows: 8 }"
          placeholder="It is mailed, and stands in their talk."
        />
      </label>
      <div class="wrapped">
        <button
          type="button"
          class="press main"
          :disabled="busy || entry.review === 'accepted'"
          @click="emit('say', 'accepted', remark.trim())"
        >
          {{ entry.review === 'accepted' ? 'Accepted' : 'Accept' }}
        </button>
        <button type="button" class="press" :disabled="busy || remark.trim() === ''" @click="emit('say', 'sent-back', remark.trim())">
          Send back
        </button>
        <span v-if="remark.trim() === ''" class="soft">A remark goes with what is sent back.</span>
      </div>
    </form>
  </aside>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 14px;
  align-content: start;
  padding: 16px 18px;
  border: 1px solid var(--line);
  border-top: 5px solid var(--brand);
  background: var(--card);
}
.head {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  align-items: flex-start;
}
h2 {
  font-size: 19px;
  overflow-wrap: anywhere;
}
video {
  width: 100%;
  aspect-ratio: 16 / 9;
  background: black;
}
audio {
  width: 100%;
}
.faults {
  margin: 0;
  padding: 8px 12px;
  border-left: 3px solid var(--alarm);
  list-style: none;
  overflow-wrap: anywhere;
}
.said {
  padding: 8px 12px;
  border-left: 3px solid var(--accent);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.remark {
  display: grid;
  gap: 10px;
}
</style>
