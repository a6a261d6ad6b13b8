<script setup lang="ts">
import type { ScaleLinear } from 'd3'
import type { Ms } from '@core/model'
import { useGrab } from '~/composables/useGrab'
import { useDressing } from '~/stores/dressing'
import type { DressedItem } from '~/stores/dressing'
import { useTalk } from '~/stores/talk'
import { dressedName, preciseDuration } from '~/words'

/** What lies over the talk along its aisle: titles and pictures above, music below. It is moved there, and made longer or shorter. */
const props = defineProps<{ scale: ScaleLinear<number, number> }>()
const emit = defineEmits<{ choose: [] }>()
const dressing = useDressing()
const talk = useTalk()
const length = computed(() => talk.index?.length ?? 0)

type Grip = 'whole' | 'from' | 'to'
/** How far keys move, in ms. */
const STEP = { small: 100, large: 1000 } as const
/** Nothing that is pressed is smaller, in pixels (WCAG 2.2, 2.5.8). */
const LEAST_TARGET = 24
/** What is shorter than this does not get any shorter by hand. */
const LEAST: Ms = 500

const lane = ref<HTMLElement | null>(null)
const draft = shallowRef<{ readonly item: DressedItem; readonly grip: Grip; readonly from: Ms; readonly to: Ms } | null>(null)
const held = useGrab<{ readonly item: DressedItem; readonly grip: Grip }>(
  lane,
  ({ item, grip }, { x }) => {
    const pixels = x * (lane.value?.getBoundingClientRect().width ?? 0)
    draft.value = { item, grip, ...moved(item, grip, props.scale.invert(props.scale(0) + pixels)) }
  },
  () => {
    const next = draft.value
    draft.value = null
    if (next !== null && (next.from !== next.item.from || next.to !== next.item.to)) place(next.item, next.grip, next)
  },
)
/** Moved as a whole it stays as long as it is. */
const place = (item: DressedItem, grip: Grip, { from, to }: Pick<DressedItem, 'from' | 'to'>): void => {
  dressing.place(item, from, grip === 'whole' ? null : to)
}
/** Listeners of something, or of one of its ends. */
const holding = (item: DressedItem, grip: Grip) =>
  held(() => {
    choose(item)
    return { item, grip }
  })

const shown = (item: DressedItem): { readonly from: Ms; readonly to: Ms } => (draft.value?.item.id === item.id ? draft.value : item)
function style(item: DressedItem): Record<string, string> {
  const { from, to } = shown(item)
  const [left, right] = [props.scale(Math.max(0, from)), props.scale(to)]
  const wide = Math.max(2, right - left)
  return { left: `${String(left)}px`, width: `${String(Math.max(LEAST_TARGET, wide))}px`, '--wide': `${String(wide)}px` }
}

/** Where something would be, moved by so much. */
function moved({ from, to }: DressedItem, grip: Grip, by: Ms): { readonly from: Ms; readonly to: Ms } {
  switch (grip) {
    case 'from':
      return { from: Math.max(0, Math.min(to - LEAST, from + by)), to }
    case 'to':
      return { from, to: Math.min(length.value, Math.max(from + LEAST, to + by)) }
    case 'whole': {
      const shift = Math.max(-from, Math.min(length.value - LEAST - from, by))
      return { from: from + shift, to: to + shift }
    }
  }
}

function key(event: KeyboardEvent, item: DressedItem): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (event.key === 'Delete') void dressing.remove(item.id)
  else if (event.key === 'Enter') choose(item)
  else if (way !== undefined) {
    const by = way * (event.shiftKey ? STEP.large : STEP.small)
    const grip = event.altKey ? 'to' : 'whole'
    place(item, grip, moved(item, grip, by))
  } else return
  event.preventDefault()
  event.stopPropagation()
}
function choose(item: DressedItem): void {
  dressing.chosenId = item.id
  emit('choose')
}
const label = (item: DressedItem): string =>
  `${dressedName(item.hung)}, from ${preciseDuration(Math.max(0, item.from))} to ${preciseDuration(item.to)}`
</script>

<template>
  <div ref="lane" class="over" role="group" aria-label="What lies over the talk">
    <div
      v-for="item in dressing.items"
      :key="item.id"
      class="item"
      :class="[item.kind, item.kind === 'over' ? item.hung.kind : '', { chosen: item.id === dressing.chosenId }]"
      :style="style(item)"
      tabindex="0"
      role="button"
      :aria-label="label(item)"
      :aria-pressed="item.id === dressing.chosenId"
      :title="`${label(item)}. Drag it; arrow keys move it, with Alt its end.`"
      v-on="holding(item, 'whole')"
      @keydown="key($event, item)"
    >
      <i class="end" v-on="holding(item, 'from')" />
      <span class="name">{{ dressedName(item.hung) }}</span>
      <i class="end" v-on="holding(item, 'to')" />
    </div>
    <p v-if="dressing.items.length === 0" class="soft none">Titles, pictures and music stand here. They are set under Dressing.</p>
  </div>
</template>

<style scoped>
.over {
  position: relative;
  height: 54px;
  border-top: 1px dotted var(--line);
}
.item {
  position: absolute;
  top: 2px;
  display: flex;
  height: 24px;
  overflow: hidden;
  --ground: var(--card);
  border: 1px solid var(--brand);
  border-radius: 3px;
  /* What is short is as wide as a finger needs, and filled as far as it lasts. */
  background: linear-gradient(to right, var(--ground) var(--wide), transparent var(--wide));
  cursor: grab;
  touch-action: none;
}
.item.music {
  top: 28px;
  border-color: var(--accent);
  --ground: var(--accent-wash);
}
.item.card {
  --ground: var(--brand-wash);
}
.item.chosen {
  outline: 2px solid var(--accent);
  outline-offset: 0;
}
.item:focus-visible {
  outline: 2px solid var(--focus);
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  font: 600 12px/22px var(--read);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.end {
  flex: none;
  width: 5px;
  cursor: ew-resize;
  touch-action: none;
}
.none {
  padding-top: 16px;
  font-size: 13px;
}
</style>
