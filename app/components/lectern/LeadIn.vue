<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { Ms, Size } from '@core/model'
import { useFilmPlayer } from '~/composables/useFilmPlayer'
import { useTalk } from '~/stores/talk'

/** Plays the seconds before a part that is said again, so that its presenter can speak into them. */
const props = defineProps<{ from: Ms; to: Ms; shape: Size }>()
const emit = defineEmits<{ done: [] }>()
const talk = useTalk()
const room = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width: roomWidth, height: roomHeight } = useElementSize(room)
const size = computed<Size>(() => {
  const scale = Math.max(0.1, Math.min(roomWidth.value / props.shape.width, roomHeight.value / props.shape.height))
  return { width: Math.max(1, Math.round(props.shape.width * scale)), height: Math.max(1, Math.round(props.shape.height * scale)) }
})
const player = useFilmPlayer(
  computed(() => talk.index),
  canvas,
  size,
)
const left = computed(() => Math.max(0, props.to - player.at.value))
let over = false
function done(): void {
  if (over) return
  over = true
  player.pause()
  emit('done')
}
watch(player.at, (at) => {
  if (at >= props.to) done()
})
// What cannot be played must not keep anybody from speaking.
watch(player.trouble, (trouble) => {
  if (trouble !== null) done()
})
onMounted(() => {
  player.seek(props.from)
  player.play()
})
</script>

<template>
  <div ref="room" class="lead">
    <canvas ref="canvas" :width="size.width" :height="size.height" role="img" aria-label="What comes before the part that is said again" />
    <p class="say" role="status">
      Listen, and speak in <b class="clock">{{ (left / 1000).toFixed(1) }}</b>
    </p>
  </div>
</template>

<style scoped>
.lead {
  position: absolute;
  inset: 8px 12px 12px;
  display: grid;
  place-items: center;
  background: var(--ground);
}
.say {
  position: absolute;
  top: 12px;
  padding: 4px 14px;
  border-radius: 6px;
  background: var(--card);
  border: 1px solid var(--accent);
  font-size: 18px;
}
.say b {
  font-size: 26px;
  color: var(--accent);
}
</style>
