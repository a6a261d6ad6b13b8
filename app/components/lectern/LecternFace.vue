<script setup lang="ts">
import { faceRect } from '@core/layout'
import type { Framing } from '@core/model'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'
import { rectStyle } from '~/styles/rect-style'

/** The live face in its framing. */
const props = defineProps<{
  framing: Framing
  /** Of the frame that it is in, in CSS pixels. */
  height: number
}>()
const lectern = useLectern()
const devices = useDevices()
const face = ref<HTMLVideoElement | null>(null)

const RADIUS = { card: '', wide: '', round: '50%', arch: '50% 50% 6px 6px / 38% 38% 6px 6px' } as const
const BORDER = { none: '0', thin: '3px', broad: '7px' } as const
const radius = computed(() => {
  const { placing, outline } = props.framing
  if (placing === 'full') return '0'
  return (placing === 'over' && RADIUS[outline]) || `${String(props.height * 0.022)}px`
})
const place = computed(() => ({
  ...rectStyle(faceRect(props.framing)),
  borderRadius: radius.value,
  outlineWidth: props.framing.placing === 'full' ? '0' : BORDER[props.framing.border],
}))
const within = computed(() => {
  const { zoom, centre, mirrored } = props.framing
  const at = `${String(centre.x * 100)}% ${String(centre.y * 100)}%`
  return {
    visibility: lectern.preview ? ('visible' as const) : ('hidden' as const),
    objectPosition: at,
    transformOrigin: at,
    transform: `scale(${String(mirrored ? -zoom : zoom)}, ${String(zoom)})`,
  }
})
watch(
  [face, () => devices.stream],
  () => {
    if (face.value === null) return
    const tracks = devices.stream?.getVideoTracks() ?? []
    face.value.srcObject = tracks.length === 0 ? null : new MediaStream(tracks)
    void face.value.play().catch(() => undefined)
  },
  { immediate: true },
)
</script>

<template>
  <div class="face" :class="{ hidden: !lectern.preview }" :style="place">
    <video ref="face" muted playsinline :style="within" />
  </div>
</template>

<style scoped>
.face {
  position: absolute;
  overflow: hidden;
  pointer-events: none;
  outline: 3px solid #fffdf8;
}
.face.hidden {
  outline: 2px dashed #fffdf8;
  background: rgb(16 28 26 / 35%);
}
.face video {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
</style>
