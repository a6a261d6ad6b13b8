<script setup lang="ts">
import { coverage } from '@core/layout'
import { framingOf } from '@core/scene'
import type { Size, Slide } from '@core/model'
import { assetUrl } from '~/client'

/** The chosen slide, large, with its steps and where the face will sit. */
const props = defineProps<{ slide: Slide, number: number, talkId: string, shape: Size }>()
const chosen = ref(0)
watch(() => props.slide.id, () => { chosen.value = 0 })
const step = computed(() => props.slide.steps[Math.min(chosen.value, props.slide.steps.length - 1)])
const framing = computed(() => framingOf(props.slide))
const covered = computed(() => (step.value === undefined ? 0 : coverage(step.value.content, framing.value.rect)))
const place = computed(() => {
  const { x, y, w, h } = framing.value.rect
  return { left: `${String(x * 100)}%`, top: `${String(y * 100)}%`, width: `${String(w * 100)}%`, height: `${String(h * 100)}%` }
})
</script>

<template>
  <section class="bench" aria-label="The chosen slide">
    <div class="stage" :style="{ aspectRatio: `${shape.width} / ${shape.height}` }">
      <img v-if="step" :src="assetUrl(talkId, step.picture.screen)" :alt="slide.title || `Slide ${number}`" :class="{ page: step.picture.kind === 'page' }">
      <div class="face" :class="{ warn: covered > 0.03 }" :style="place"><span>your face</span></div>
    </div>
    <div v-if="slide.steps.length > 1" class="steps" role="group" aria-label="Steps of this slide">
      <button v-for="(one, n) in slide.steps" :key="n" :class="{ on: n === chosen }" :aria-pressed="n === chosen" @click="chosen = n">
        <img :src="assetUrl(talkId, one.picture.thumb)" alt=""><span class="clock">{{ n + 1 }}</span>
      </button>
    </div>
    <p class="say soft">
      <template v-if="covered > 0.03">The face would cover {{ Math.round(covered * 100) }}% of what is on this step; no corner of this slide is emptier.</template>
      <template v-else>The face sits where this slide is emptiest and covers nothing that matters.</template>
    </p>
  </section>
</template>

<style scoped>
.bench { display: grid; gap: 12px; align-content: start; }
.stage { position: relative; width: 100%; background: #14201E; border: 1px solid var(--line); }
.stage img { position: absolute; inset: 0; width: 100%; height: 100%; object-fit: contain; }
.stage img.page { background: #fff; }
.face { position: absolute; display: grid; place-items: end center; border: 2px solid var(--brand); border-radius: 6px; background: color-mix(in srgb, var(--brand) 16%, transparent); }
.face.warn { border-color: var(--alarm); background: color-mix(in srgb, var(--accent) 35%, transparent); }
.face span { margin-bottom: 4px; padding: 0 6px; border-radius: 4px; background: var(--card); font-size: 12.5px; }
.steps { display: flex; flex-wrap: wrap; gap: 8px; }
.steps button { position: relative; width: 92px; padding: 0; border: 2px solid var(--line); background: var(--card); cursor: pointer; }
.steps button.on { border-color: var(--brand); }
.steps img { display: block; width: 100%; }
.steps span { position: absolute; right: 2px; bottom: 2px; padding: 0 4px; background: var(--card); font-size: 12px; }
</style>
