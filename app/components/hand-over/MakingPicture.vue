<script setup lang="ts">
import type { DeliveryView } from '@contracts'
import type { Picture } from '@core/model'

/** The picture of a file that is being made: the talk's first slide until there is one. */
const props = defineProps<{ delivery: DeliveryView; talkId: string; opening: Picture | null }>()
// A new picture is asked for whenever progress was told.
const preview = computed(() => `/api/deliveries/${props.delivery.id}/preview?at=${String(props.delivery.framesDone)}`)
const seen = ref(false)
</script>

<template>
  <div class="preview">
    <SlidePicture v-if="opening !== null && !seen" class="opening" :talk-id="talkId" :picture="opening" alt="The slide it begins with" />
    <img
      v-if="delivery.framesDone > 0"
      v-show="seen"
      :src="preview"
      alt="The picture being made"
      @load="seen = true"
      @error="seen = false"
    />
  </div>
</template>

<style scoped>
.preview {
  width: 224px;
  aspect-ratio: 16 / 9;
  background: var(--line);
  flex: none;
  align-self: start;
  overflow: hidden;
}
.preview img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.opening {
  opacity: 0.55;
}
</style>
