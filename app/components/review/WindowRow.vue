<script setup lang="ts">
import type { Clip, Rect } from '@core/model'
import { useBoxDrag } from '~/composables/useBoxDrag'
import { assetUrl } from '~/client'
import { rectStyle } from '~/styles/rect-style'
import { preciseDuration } from '~/words'

/** A window that was shown in a visit: which part of it is seen, and how loud its sound is. */
const props = defineProps<{ clip: Clip; talkId: string }>()
const emit = defineEmits<{ change: [fields: Partial<Clip>] }>()

const ALL: Rect = { x: 0, y: 0, w: 1, h: 1 }
/** Near enough to all of it to be that. */
const NEARLY_ALL = 0.98
const layer = ref<HTMLElement | null>(null)
const region = computed(() => props.clip.crop ?? ALL)
const drag = useBoxDrag<'region'>(layer, (_, rect) => {
  emit('change', { crop: rect.w >= NEARLY_ALL ? undefined : rect })
})
const shown = computed(() => drag.draft.value?.rect ?? region.value)
const ratio = computed(() => {
  const { width, height } = props.clip.media.picture?.size ?? { width: 16, height: 9 }
  return `${String(width)} / ${String(height)}`
})
/** What is likely wanted first: a half of it, in its middle. */
const closer = (): void => {
  emit('change', { crop: { x: 0.25, y: 0.25, w: 0.5, h: 0.5 } })
}
</script>

<template>
  <ClipCard :name="clip.name">
    <template #beside
      ><span class="clock soft">{{ preciseDuration(clip.media.length) }}</span></template
    >
    <div class="look">
      <div ref="layer" class="whole" :style="{ aspectRatio: ratio }">
        <img v-if="clip.media.picture" :src="assetUrl(talkId, clip.media.picture.poster)" alt="" />
        <div
          class="region"
          :style="rectStyle(shown)"
          tabindex="0"
          role="button"
          aria-label="The part that is seen: drag it, or move it with the arrow keys; plus and minus change its size"
          v-on="drag.moving('region', region)"
          @keydown="drag.key($event, 'region', region)"
        >
          <CornerHandle v-on="drag.resizing('region', region)" />
        </div>
      </div>
      <div class="say">
        <p class="soft">{{ clip.crop ? 'Only the framed part is seen, as large as the slide.' : 'All of it is seen.' }}</p>
        <button v-if="clip.crop" class="press small" @click="emit('change', { crop: undefined })">Show all of it</button>
        <button v-else class="press small" @click="closer">Show a part of it</button>
      </div>
    </div>
    <ClipLoudness :clip="clip" @change="emit('change', { gain: $event })" />
  </ClipCard>
</template>

<style scoped>
.look {
  display: grid;
  grid-template-columns: minmax(0, 300px) 1fr;
  gap: 14px;
  align-items: center;
}
.whole {
  position: relative;
  overflow: hidden;
  background: #14201e;
}
img {
  display: block;
  width: 100%;
}
.region {
  position: absolute;
  border: 2px dashed var(--accent);
  --handle: var(--accent);
  box-shadow: 0 0 0 1000px rgb(16 28 26 / 45%);
  cursor: move;
  touch-action: none;
}
.region:focus-visible {
  outline: 2px solid var(--focus);
}
.say {
  display: grid;
  gap: 8px;
  justify-items: start;
}
</style>
