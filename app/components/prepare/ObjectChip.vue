<script setup lang="ts">
import { Lock } from '@element-plus/icons-vue'
import { changed } from '@core/objects'
import type { SlideObject } from '@core/model'
import { growthBy, shiftBy } from '~/composables/useGrab'
import { useObjects } from '~/stores/objects'

/** An object of a slide by its name: chosen here, and moved, sized and turned by keys. */
const props = defineProps<{ object: SlideObject; name: string }>()
const objects = useObjects()
const isChosen = computed(() => objects.chosen.has(props.object.id))
const TURN = 5
const GROWTH = 0.05

/** What a key does to an object that is chosen; null: nothing. */
function keyed(event: KeyboardEvent, object: SlideObject): SlideObject | null {
  const [shift, growth] = [shiftBy(event), growthBy(event)]
  const { x, y, w, h } = object.box
  if (shift !== null) return { ...object, box: { x: x + shift.x, y: y + shift.y, w, h } }
  if (growth !== 0) {
    const by = 1 + growth * GROWTH
    return { ...object, box: { x: x - (w * (by - 1)) / 2, y: y - (h * (by - 1)) / 2, w: w * by, h: h * by } }
  }
  const turn = { '[': -TURN, ']': TURN }[event.key]
  return turn === undefined ? null : { ...object, turn: ((object.turn + turn + 540) % 360) - 180 }
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Escape') objects.choose([])
  if (!isChosen.value || event.ctrlKey || event.metaKey) return
  if (event.key === 'Delete' || event.key === 'Backspace') objects.remove()
  else if (keyed(event, props.object) === null) return
  else objects.keep(changed(objects.kept, objects.chosen, (object) => keyed(event, object) ?? object))
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <button
    class="chip"
    :class="{ on: isChosen }"
    :aria-pressed="isChosen"
    title="Arrow keys move it, + and − size it, [ and ] turn it, Delete takes it off"
    @click="objects.choose([object.id], $event.shiftKey)"
    @keydown="key"
  >
    <Lock v-if="object.locked" aria-label="Locked" />{{ name }}
  </button>
</template>

<style scoped>
.chip {
  display: inline-flex;
  gap: 4px;
  align-items: center;
  max-width: 170px;
  min-height: 26px;
  padding: 2px 10px;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 13px;
  background: var(--card);
  font-size: 13.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}
.chip.on {
  border-color: var(--brand);
  background: var(--brand-wash);
  font-weight: 600;
}
.chip svg {
  flex: none;
  width: 13px;
}
</style>
