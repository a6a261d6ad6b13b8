<script setup lang="ts">
import { CircleCheck, Warning } from '@element-plus/icons-vue'
import type { EntryView, RegisterRow } from '@contracts'
import { REVIEW_WORDS, faultsOf } from '~/calls'
import { duration, moment } from '~/words'

/** A register as a school keeps it: a line for each who was asked or has begun. */
const props = defineProps<{ rows: readonly RegisterRow[]; opened: string | null; chosen: ReadonlySet<string> }>()
const emit = defineEmits<{ open: [entry: EntryView]; choose: [entry: string, on: boolean]; link: [row: RegisterRow] }>()
const share = ({ entry, limit }: RegisterRow): number => (entry?.length == null || limit === null ? 0 : entry.length / limit)
const all = computed(() => props.rows.flatMap(({ entry }) => entry?.id ?? []))
const allChosen = computed(() => all.value.length > 0 && all.value.every((id) => props.chosen.has(id)))
const faults = (row: RegisterRow): string => `${String(faultsOf(row))} not kept`
function chooseAll(on: boolean): void {
  for (const id of all.value) emit('choose', id, on)
}
</script>

<template>
  <table>
    <thead>
      <tr>
        <th>
          <input
            type="checkbox"
            :checked="allChosen"
            :disabled="all.length === 0"
            aria-label="Choose all"
            @change="chooseAll(!allChosen)"
          />
        </th>
        <th>Who</th>
        <th>Talk</th>
        <th>Length</th>
        <th>Rules</th>
        <th>When</th>
        <th>State</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="`${row.entrant} ${row.address}`" :class="{ here: row.entry !== null && row.entry.id === opened }">
        <td>
          <input
            v-if="row.entry"
            type="checkbox"
            :checked="chosen.has(row.entry.id)"
            :aria-label="`Choose ${row.name}`"
            @change="emit('choose', row.entry.id, !chosen.has(row.entry.id))"
          />
        </td>
        <td class="who">
          <b>{{ row.name || row.address }}</b>
          <span v-if="row.address && row.name" class="soft">{{ row.address }}</span>
        </td>
        <template v-if="row.entry">
          <td class="talk">
            <button class="open" :aria-expanded="row.entry.id === opened" @click="emit('open', row.entry)">{{ row.entry.title }}</button>
            <span v-if="row.entries > 1" class="soft">handed in {{ row.entries }} times</span>
          </td>
          <td class="length">
            <span class="clock"
              >{{ row.entry.length === null ? '' : duration(row.entry.length)
              }}<span v-if="row.limit" class="soft"> of {{ duration(row.limit) }}</span></span
            >
            <span v-if="row.limit" class="measure" aria-hidden="true"
              ><span :class="{ over: share(row) > 1 }" :style="{ width: `${Math.min(1, share(row)) * 100}%` }"
            /></span>
          </td>
          <td class="rules">
            <span v-if="faultsOf(row) === 0" class="kept"><CircleCheck />kept</span
            ><span v-else class="wrong"><Warning />{{ faults(row) }}</span>
            <span v-if="row.earlierRules" class="soft">earlier rules</span>
          </td>
          <td>
            <span class="clock">{{ moment(row.entry.at) }}</span>
            <b v-if="row.entry.late" class="late">late</b>
          </td>
          <td>
            <span class="state" :class="`is-${row.entry.review}`">{{ REVIEW_WORDS[row.entry.review] }}</span>
          </td>
        </template>
        <td v-else colspan="5" class="soft none">
          {{ row.begun === null ? 'has not begun' : 'has begun'
          }}<template v-if="row.reminded">, written to {{ moment(row.reminded) }}</template>
          <button v-if="row.address && row.entrant" class="press quiet small" @click="emit('link', row)">Send the link again</button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  background: var(--card);
  border: 1px solid var(--line);
}
th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--card);
  font-size: 13px;
  font-weight: 600;
  text-align: left;
  color: var(--soft);
}
th,
td {
  padding: 7px 9px;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
.here td {
  background: var(--brand-wash);
}
td > span,
td > b {
  display: block;
}
.who,
.talk {
  overflow-wrap: anywhere;
  min-width: 96px;
}
.who .soft,
.talk .soft,
.rules .soft {
  font-size: 13px;
}
.open {
  padding: 0;
  border: 0;
  background: none;
  color: var(--brand);
  font-weight: 600;
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.clock {
  white-space: nowrap;
}
.measure {
  width: 84px;
  height: 6px;
  margin-top: 5px;
  border-right: 2px solid var(--text);
  background: color-mix(in srgb, var(--line) 60%, var(--card));
}
.measure span {
  display: block;
  height: 100%;
  background: var(--brand);
}
.measure .over {
  background: var(--alarm);
}
.kept,
.wrong,
.rules {
  white-space: nowrap;
}
.kept,
.wrong {
  display: flex;
  gap: 5px;
  align-items: center;
}
svg {
  width: 16px;
  height: 16px;
  flex: none;
}
.kept {
  color: var(--brand);
}
.wrong,
.late {
  color: var(--alarm);
}
.state {
  white-space: nowrap;
}
.is-unseen {
  font-weight: 600;
  color: var(--accent-text);
}
.is-sent-back {
  color: var(--accent-text);
}
.is-accepted {
  color: var(--brand);
}
.none .press {
  margin-left: 8px;
}
</style>
