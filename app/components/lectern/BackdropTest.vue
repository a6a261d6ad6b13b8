<script setup lang="ts">
import { Refusal } from '@core/model'
import type { BackdropStillView } from '@contracts'
import { api, backdropQuery } from '~/client'
import { useTriedBackdrop } from '~/composables/useTriedBackdrop'

/** Shows before a take what the room behind could be exchanged for afterwards, and what would help. */
const props = defineProps<{ video: HTMLVideoElement | null }>()
/** Width of the picture that is sent, in pixels. */
const WIDTH = 640

/** The camera's picture as JPEG. */
async function jpegOf(video: HTMLVideoElement): Promise<Blob> {
  const canvas = new OffscreenCanvas(WIDTH, Math.round((WIDTH * video.videoHeight) / Math.max(1, video.videoWidth) / 2) * 2)
  canvas.getContext('2d')?.drawImage(video, 0, 0, canvas.width, canvas.height)
  return await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })
}
const { still, busy, trouble, show } = useTriedBackdrop(async (backdrop) => {
  const { video } = props
  if (video === null) throw new Refusal('not-found', 'The camera shows nothing yet.')
  return await api.post<BackdropStillView>(`/backdrop-still?${backdropQuery(backdrop)}`, await jpegOf(video))
})
</script>

<template>
  <div class="test" role="group" aria-label="Backdrop afterwards">
    <p class="row">
      <button class="press small" :disabled="busy || video === null" @click="show({ kind: 'soft', finder: 'outline' })">
        Try a soft backdrop
      </button>
      <span class="soft small">Set it in Review, after the take; this shows how it would look here.</span>
    </p>
    <TriedBackdrop :still="still" :busy="busy" :trouble="trouble" />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.test {
  display: grid;
  gap: 8px;
}
.small {
  font-size: 14px;
}
</style>
