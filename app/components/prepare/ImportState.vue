<script setup lang="ts">
import type { ImportView } from '@contracts'

/** How the reading of a deck is going, or why it stopped. */
defineProps<{ imported: ImportView }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <div v-if="imported.state === 'failed'" class="notice bad" role="alert">
    <p>
      <b>{{ imported.name }}</b> was not brought in. {{ imported.sentence }}
    </p>
    <button class="press quiet small" @click="$emit('close')">Close</button>
  </div>
  <div v-else class="notice" role="status">
    <p>
      Reading <b>{{ imported.name }}</b><template v-if="imported.pagesTotal !== null"
        >: page {{ imported.pagesDone }} of {{ imported.pagesTotal }}</template
      >
      …
    </p>
    <el-progress
      :percentage="imported.pagesTotal ? Math.round((imported.pagesDone / imported.pagesTotal) * 100) : 0"
      :show-text="false"
      :stroke-width="8"
      style="width: 160px"
    />
  </div>
</template>
