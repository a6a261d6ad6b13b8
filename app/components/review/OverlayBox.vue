<script setup lang="ts">
import type { Ms, Rect } from '@core/model'
import { overlaysAt } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { useBoxDrag } from '~/composables/useBoxDrag'
import { useDressing } from '~/stores/dressing'
import { rectStyle } from '~/styles/rect-style'
import { dressedKind } from '~/words'

/** The place of what is chosen, on the picture: it is moved there, and a picture is made larger or smaller. */
const props = defineProps<{ index: FilmIndex; at: Ms; stage: HTMLElement | null }>()
const dressing = useDressing()
const seen = computed(() => overlaysAt(props.index.overlays, props.at).find(({ overlay }) => overlay.id === dressing.chosenId) ?? null)
const overlay = computed(() => seen.value?.overlay ?? null)
const box = computed<Rect | null>(() => {
  if (seen.value === null || seen.value.overlay.kind === 'card') return null
  return seen.value.overlay.kind === 'picture' ? seen.value.overlay.box : seen.value.box
})

const drag = useBoxDrag<'box'>(
  computed(() => props.stage),
  (_, rect) => {
    const { chosen } = dressing
    if (chosen?.kind !== 'over') return
    dressing.change(chosen, chosen.hung.kind === 'picture' ? { box: rect } : { at: { x: rect.x, y: rect.y } })
  },
)
const shown = computed(() => drag.draft.value?.rect ?? box.value)
</script>

<template>
  <div
    v-if="overlay && box && shown"
    class="box"
    :style="rectStyle(shown)"
    tabindex="0"
    role="button"
    :aria-label="`${dressedKind(overlay)}: drag it, or move it with the arrow keys`"
    v-on="drag.moving('box', box)"
    @click.stop
    @keydown.stop="drag.key($event, 'box', box)"
  >
    <CornerHandle v-if="overlay.kind === 'picture'" v-on="drag.resizing('box', box)" />
  </div>
</template>

<style scoped>
.box {
  position: absolute;
  border: 2px dashed var(--accent);
  --handle: var(--accent);
  border-radius: 4px;
  cursor: move;
  touch-action: none;
}
.box:focus-visible {
  outline: 2px solid var(--focus);
}
</style>
