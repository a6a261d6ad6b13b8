<script setup lang="ts">
import { AppWindow } from '@lucide/vue'
import { useWindowPress } from '~/composables/useWindowPress'
import { useLectern } from '~/stores/lectern'
import { useOpenWindow } from '~/stores/open-window'

/** Shows a window while a take or run-through is on, and goes back; before that, holds one ready. */
defineProps<{ waits: boolean }>()
const lectern = useLectern()
const windows = useOpenWindow()
const press = useWindowPress()
</script>

<template>
  <button
    v-if="waits"
    class="press quiet small"
    :class="{ off: windows.held }"
    :aria-label="windows.held ? `${windows.held.name} is ready to be shown` : 'A window to show'"
    title="A window to show while you record (Q)"
    @click="windows.asking = true"
  >
    <AppWindow />
  </button>
  <button
    v-else
    class="press"
    :class="{ off: lectern.windowShown }"
    :aria-pressed="lectern.windowShown !== null"
    title="A window, a tab or the screen takes the place of the slide"
    :disabled="!lectern.live || lectern.dubbing"
    @click="press($event.timeStamp)"
  >
    <AppWindow />{{ lectern.windowShown ? 'To the slides' : 'Window' }} <kbd>Q</kbd>
  </button>
</template>
