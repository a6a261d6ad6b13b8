<script setup lang="ts">
import type { TalkExportView } from '@contracts'
import { fileSize, moment } from '~/words'

/** One thing that can be taken along: what it is, how far it is made, and the way to have it. */
const props = defineProps<{
  name: string
  says: string
  made: TalkExportView | null
  busy: boolean
  address: string
  /** Why it cannot be made yet; left out: it can. */
  lacks?: string | undefined
}>()
defineEmits<{ make: []; remove: [] }>()
const isMaking = computed(() => props.made?.state === 'queued' || props.made?.state === 'making')
/** There is a file, perhaps of how the talk was before. */
const file = computed(() => (props.made?.bytes == null ? null : { ...props.made, bytes: props.made.bytes }))
const percent = computed(() => Math.round((props.made?.share ?? 0) * 100))
</script>

<template>
  <article :aria-label="name">
    <div class="what">
      <h3>{{ name }}</h3>
      <p class="soft">{{ says }}</p>
      <div v-if="!isMaking" class="options"><slot /></div>
      <p v-if="lacks" class="soft">{{ lacks }}</p>
      <p v-if="made?.state === 'failed'" class="notice bad" role="alert">{{ made.sentence }}</p>
      <template v-else-if="file">
        <p class="file">
          <b>{{ file.file }}</b><span class="soft clock">{{ fileSize(file.bytes) }}, {{ moment(file.made) }}</span>
        </p>
        <p v-if="!file.current && !isMaking" class="old">The talk was changed since it was made.</p>
        <p v-if="file.sentence" class="soft">{{ file.sentence }}</p>
      </template>
    </div>
    <div class="acts">
      <template v-if="isMaking">
        <el-progress :percentage="percent" :aria-label="`${name}: ${percent} percent made`" />
        <span v-if="made?.state === 'queued'" class="soft">waits its turn</span>
        <button class="press quiet small" :disabled="busy" @click="$emit('remove')">Stop</button>
      </template>
      <template v-else>
        <a v-if="file" class="press" :class="{ main: file.current }" :href="address" download>Save</a>
        <button v-if="!file?.current" class="press" :disabled="busy || lacks !== undefined" @click="$emit('make')">
          {{ file || made?.state === 'failed' ? 'Make it again' : 'Make it' }}
        </button>
        <div v-if="file" class="more">
          <button v-if="file.current" class="press quiet small" :disabled="busy" @click="$emit('make')">Make it again</button>
          <button class="press quiet small" :disabled="busy" @click="$emit('remove')">Remove</button>
        </div>
      </template>
    </div>
  </article>
</template>

<style scoped>
article {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 184px;
  gap: 4px 24px;
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
h3 {
  font-size: 16px;
}
.what {
  display: grid;
  gap: 4px;
  align-content: start;
}
.options:empty {
  display: none;
}
.file {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin-top: 4px;
  overflow-wrap: anywhere;
}
.old {
  color: var(--accent-text);
}
.acts {
  display: grid;
  gap: 6px;
  justify-items: stretch;
  align-content: start;
}
.acts > .press {
  justify-content: center;
}
.more {
  display: flex;
  justify-content: space-between;
}
</style>
