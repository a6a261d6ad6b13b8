<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { embedMarkup } from '@core/screening'
import type { ShareChange, ShareView } from '@contracts'

/** The talk within a page of somebody else, such as a class page: which sites may, and what is put there. */
const props = defineProps<{ share: ShareView }>()
const emit = defineEmits<{ change: [fields: Partial<ShareChange>] }>()
const { copy, copied } = useClipboard({ legacy: true })
const site = ref('')
const trouble = ref<string | null>(null)
const snippet = computed(() => embedMarkup(props.share.address, 640, 470))
/** A site as browsers name it: what comes behind its host says nothing of who may. */
function add(): void {
  const text = site.value.trim()
  const whole = /^https?:\/\//i.test(text) ? text : `https://${text}`
  trouble.value = URL.canParse(whole) ? null : 'A site is named like https://class.example.'
  if (trouble.value !== null) return
  const { origin } = new URL(whole)
  if (!props.share.embedOn.includes(origin)) emit('change', { embedOn: [...props.share.embedOn, origin] })
  site.value = ''
}
const remove = (origin: string): void => {
  emit('change', { embedOn: props.share.embedOn.filter((one) => one !== origin) })
}
</script>

<template>
  <details class="embed" :open="share.embedOn.length > 0">
    <summary>Within another page</summary>
    <p v-if="share.embedOn.length === 0" class="soft">A class page can show the talk within itself. Say which site may; no other can.</p>
    <ul v-else aria-label="Sites that may show it">
      <li v-for="origin in share.embedOn" :key="origin">
        {{ origin }}<button class="press quiet small" :aria-label="`Take ${origin} off`" @click="remove(origin)">Take off</button>
      </li>
    </ul>
    <form @submit.prevent="add">
      <el-input v-model="site" aria-label="Site that may show it" placeholder="https://class.example" maxlength="200" />
      <button class="press small" :disabled="site.trim() === ''">Let it show the talk</button>
    </form>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <div v-if="share.embedOn.length > 0" class="snippet">
      <code>{{ snippet }}</code>
      <button class="press small" @click="copy(snippet)">{{ copied ? 'Copied' : 'Copy this into that page' }}</button>
    </div>
  </details>
</template>

<style scoped>
.embed[open] {
  display: grid;
  gap: 10px;
}
summary {
  min-height: 30px;
  cursor: pointer;
}
.embed > * + * {
  margin-top: 10px;
}
ul {
  margin-bottom: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  overflow-wrap: anywhere;
}
form {
  display: flex;
  gap: 8px;
}
.snippet {
  display: grid;
  gap: 8px;
  justify-items: start;
}
code {
  padding: 8px 10px;
  background: var(--ground);
  font-size: 13.5px;
  overflow-wrap: anywhere;
}
</style>
