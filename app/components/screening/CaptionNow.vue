<script setup lang="ts">
import type { Caption, CaptionStyle, Ms } from '@core/model'

/** What is said at this moment, to be read: in a strip of its own below the picture, or on it. */
const props = defineProps<{ captions: readonly Caption[]; at: Ms; look: 'below' | 'on' | 'large'; ground?: CaptionStyle['ground'] }>()
const now = computed(() => props.captions.find(({ from, until }) => from <= props.at && props.at < until) ?? null)
</script>

<template>
  <div class="caption" :class="[look, ground]">
    <p v-if="now">
      <span v-for="line in now.lines" :key="line">{{ line }}</span>
    </p>
  </div>
</template>

<style scoped>
.caption {
  pointer-events: none;
  text-align: center;
}
/* Room for two lines, so that nothing moves when one comes. */
.below {
  height: 3.1em;
  font-size: 18px;
  line-height: 1.45;
}
.on,
.large {
  position: absolute;
  inset: auto 6% 4%;
  z-index: 1;
  font-size: clamp(13px, 2.2vw, 22px);
}
.large {
  font-size: clamp(16px, 3.4vw, 36px);
}
span {
  display: table;
  margin: 0 auto;
  padding: 1px 10px;
}
.dark span {
  background: rgb(20 32 30 / 0.86);
  color: #fffdf8;
}
.light span {
  background: rgb(255 253 248 / 0.9);
  color: #1d2a29;
}
/* Letters with an edge are read on anything. */
.none span {
  color: #fffdf8;
  paint-order: stroke;
  -webkit-text-stroke: 4px #14201e;
}
</style>
