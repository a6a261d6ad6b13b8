<script setup lang="ts">
import { aboveRoom } from '@core/voice'
import { useMicComparison } from '~/composables/useMicComparison'
import { useDevices } from '~/stores/devices'

/** The same sentence by two microphones, side by side: which of them to take. */
const devices = useDevices()
const { busy, trouble, heard, better, compare, reset } = useMicComparison()
const others = computed(() => devices.mics.filter(({ id }) => id !== devices.mic))
const other = ref<string | null>(null)
const chosen = computed(() => others.value.find(({ id }) => id === other.value) ?? others.value[0] ?? null)
const verdict = computed(() => {
  if (heard.value.every(({ facts }) => facts.speech === null)) return 'Nobody was heard by either. Say a sentence while it counts.'
  return better.value === null ? 'They hear you alike.' : `${better.value.name} hears you better.`
})
const db = (level: number | null): string => (level === null ? '–' : `${String(Math.round(level))} dB`)

function take(id: string): void {
  reset()
  void devices.choose('mic', id)
}
</script>

<template>
  <div v-if="chosen" class="compare" role="group" aria-label="Two microphones">
    <p class="row">
      <button class="press small" :disabled="busy || devices.stream === null" @click="compare(chosen.id)">
        {{ busy ? 'Say a sentence …' : 'Compare with' }}
      </button>
      <el-select
        :model-value="chosen.id"
        size="small"
        aria-label="The other microphone"
        class="other"
        :disabled="busy"
        @update:model-value="other = String($event)"
      >
        <el-option v-for="one in others" :key="one.id" :label="one.label" :value="one.id" />
      </el-select>
    </p>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <template v-if="heard.length > 0">
      <table>
        <thead>
          <tr>
            <th scope="col">Microphone</th>
            <th scope="col">Voice</th>
            <th scope="col">Above the room</th>
            <th scope="col"><span class="unseen">Listen and choose</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in heard" :key="one.id" :class="{ better: better?.id === one.id }">
            <th scope="row" :title="one.name">{{ one.name }}</th>
            <td class="clock">{{ db(one.facts.speech) }}</td>
            <td class="clock">{{ one.facts.speech !== null && one.facts.noise === null ? 'silent room' : db(aboveRoom(one.facts)) }}</td>
            <td class="row">
              <audio :src="one.url" controls :aria-label="`The sentence by ${one.name}`" />
              <button v-if="one.id !== devices.mic" class="press small" @click="take(one.id)">Take it</button>
            </td>
          </tr>
        </tbody>
      </table>
      <p role="status">{{ verdict }}</p>
    </template>
    <p v-else class="soft small">Six seconds, one sentence: heard by both at once, so that you can choose.</p>
  </div>
</template>

<style scoped>
.compare {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.other {
  flex: 1;
}
table {
  width: 100%;
  table-layout: fixed;
  border-collapse: collapse;
  font-size: 14px;
}
th {
  overflow: hidden;
  font-weight: 600;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
th:nth-child(2),
th:nth-child(3) {
  width: 74px;
}
th:nth-child(3) {
  width: 112px;
}
th:last-child {
  width: 210px;
}
td,
th {
  padding: 3px 4px;
}
.better {
  background: var(--brand-wash);
}
audio {
  width: 118px;
  height: 30px;
}
.small {
  font-size: 14px;
}
</style>
