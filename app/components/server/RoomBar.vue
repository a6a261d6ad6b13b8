<script setup lang="ts">
import { scaleLinear } from 'd3'
import { useElementSize } from '@vueuse/core'
import type { ServerState } from '@contracts'
import { fileSize } from '~/words'

/** What takes the room on the disk of the store, what else does, and what is left. */
const props = defineProps<{ room: ServerState['room']; held: ServerState['held'] }>()
const plot = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(plot)
const HEIGHT = 34
const NAMES: Readonly<Record<ServerState['held'][number]['what'], string>> = {
  recorded: 'recordings',
  brought: 'decks and what was brought',
  films: 'finished files',
  'taken along': 'archives and bundles',
}
const x = computed(() => scaleLinear([0, Math.max(1, props.room.whole)], [0, Math.max(10, width.value)]))
/** One part after the other, from the left; what else lies on the disk comes last. */
const parts = computed(() => {
  const ours = props.held.map(({ what, bytes }) => ({ name: NAMES[what], kind: what.replace(' ', '-'), bytes }))
  const kept = ours.reduce((sum, { bytes }) => sum + bytes, 0)
  const all = [...ours, { name: 'all else on this disk', kind: 'else', bytes: Math.max(0, props.room.whole - props.room.left - kept) }]
  return all.map((part, n) => ({ ...part, from: all.slice(0, n).reduce((sum, { bytes }) => sum + bytes, 0) }))
})
const full = computed(() => props.room.left < props.room.floor)
</script>

<template>
  <div class="room">
    <p :class="{ full }">
      <b>{{ fileSize(room.left) }}</b> of {{ fileSize(room.whole) }} are free.
      <template v-if="full">
        That is less than the {{ fileSize(room.floor) }} that are kept for recordings: recording goes on, all else waits until there is
        room.
      </template>
    </p>
    <svg ref="plot" :height="HEIGHT" role="img" :aria-label="`${fileSize(room.left)} of ${fileSize(room.whole)} are free`">
      <rect class="whole" x="0" y="0" :width="x(room.whole)" :height="HEIGHT" />
      <rect v-for="part in parts" :key="part.kind" :class="part.kind" :x="x(part.from)" y="0" :width="x(part.bytes)" :height="HEIGHT" />
      <line class="floor" :x1="x(room.whole - room.floor)" :x2="x(room.whole - room.floor)" y1="0" :y2="HEIGHT" />
    </svg>
    <ul class="wrapped">
      <li v-for="part in parts" :key="part.kind">
        <span class="key" :class="part.kind" aria-hidden="true" />{{ part.name }} <b>{{ fileSize(part.bytes) }}</b>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.room {
  display: grid;
  gap: 10px;
}
svg {
  width: 100%;
}
.full {
  color: var(--alarm);
}
.whole {
  fill: var(--ground);
  stroke: var(--line);
}
.recorded {
  fill: var(--brand);
  background: var(--brand);
}
.brought {
  fill: color-mix(in srgb, var(--brand) 55%, var(--card));
  background: color-mix(in srgb, var(--brand) 55%, var(--card));
}
.films {
  fill: var(--accent);
  background: var(--accent);
}
.taken-along {
  fill: color-mix(in srgb, var(--accent) 50%, var(--card));
  background: color-mix(in srgb, var(--accent) 50%, var(--card));
}
.else {
  fill: var(--line);
  background: var(--line);
}
.floor {
  stroke: var(--alarm);
  stroke-width: 2;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.key {
  display: inline-block;
  width: 12px;
  height: 12px;
  margin-right: 6px;
  border-radius: 2px;
}
</style>
