<script setup lang="ts">
import { useHeldAsRecorded } from '~/composables/useHeldAsRecorded'
import { useDressing } from '~/stores/dressing'

/** While it is held, or its key is, recordings are heard and seen as they are. */
defineProps<{ label: string; hint: string }>()
const dressing = useDressing()
const { hold, release } = useHeldAsRecorded()
</script>

<template>
  <button
    class="press small"
    :aria-pressed="dressing.asRecorded"
    :title="hint"
    @pointerdown="hold"
    @pointerup="release"
    @pointerleave="release"
  >
    <kbd>O</kbd>Hold: {{ label }}
  </button>
</template>
