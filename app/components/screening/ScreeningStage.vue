<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { CaptionStyle, Ms, Size } from '@core/model'
import type { Hit } from '@core/screening'
import type { ScreeningView } from '@contracts'
import { mediaUrl } from '~/client'
import { useClipPlayers } from '~/composables/useClipPlayers'
import { useDescriptions } from '~/composables/useDescriptions'
import { useKept } from '~/composables/useKept'
import { useScreeningKeys } from '~/composables/useScreeningKeys'
import { useScreeningPlayer } from '~/composables/useScreeningPlayer'
import { useWatched } from '~/composables/useWatched'
import { duration } from '~/words'

/** The picture of a talk that is watched, its timeline, and what plays it. */
const props = defineProps<{ view: ScreeningView; pageKey: string; hits: readonly Hit[]; spoken: readonly Ms[] }>()
const emit = defineEmits<{ at: [at: Ms]; find: [] }>()

const frame = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const help = ref(false)
const waits = ref(false)
/** Where captions stand. */
const captioned = useKept<'off' | 'below' | 'on' | 'large'>('captions', 'off')
const ground = useKept<CaptionStyle['ground']>('caption-ground', 'dark')
const { width } = useElementSize(canvas)
const size = computed<Size>(() => {
  const ratio = import.meta.client ? Math.min(2, window.devicePixelRatio) : 1
  const pixels = Math.max(320, Math.round(width.value * ratio))
  return { width: pixels, height: Math.round((pixels * props.view.shape.height) / props.view.shape.width) }
})
const urlOf = (digest: string): string => mediaUrl(props.view.media, digest)
const redraw = (): void => {
  player.draw()
}
const clips = useClipPlayers(urlOf, redraw)
const film = ref<HTMLElement | null>(null)
const player = useScreeningPlayer(props.view, canvas, size, clips, waits, film)
const { described, wanted: tells, told, goOn } = useDescriptions(props.view, player)
const { at, playing, form, speed, muted, held, stalled, away, trouble, visit, links, ready } = player
useWatched(props.pageKey, props.view, at, playing)
watch(at, (now) => {
  emit('at', now)
})

/** Plays and stops; where a slide is being told, it goes on. */
function press(): void {
  if (told.value === null) player.toggle()
  else goOn()
}
/** What is seen before any script: the first slide, as it is in the end. */
const opening = computed(() => props.view.slides[0]?.picture ?? null)
const poster = computed(() => (opening.value === null || opening.value.kind === 'composed' ? null : opening.value.screen))
const shown = computed(() => props.view.slides.find(({ id }) => id === visit.value?.slide) ?? null)

function wide(): void {
  const full = document.fullscreenElement === null ? frame.value?.requestFullscreen() : document.exitFullscreen()
  void full?.catch(() => undefined)
}
useScreeningKeys({
  toggle: press,
  by: (ms) => {
    player.seek(at.value + ms)
  },
  goBy: player.goBy,
  mute: () => {
    muted.value = !muted.value
  },
  captions: () => {
    captioned.value = captioned.value === 'off' ? 'below' : 'off'
  },
  wait: () => {
    waits.value = !waits.value
  },
  wide,
  find: () => {
    emit('find')
  },
  help: () => {
    help.value = !help.value
  },
})
defineExpose({ seek: player.seek })
const track =
  props.view.captions.length === 0 ? '' : `<track kind="captions" label="Captions" default src="${props.view.media}/captions.vtt">`
/** Without scripts: the browser's own player, once there is a film for it. Nothing in it is anybody's words. */
const plain =
  props.view.films.length > 0
    ? `<style>.picture, .controls { display: none !important }</style>
       <video controls preload="metadata" style="width:100%;max-height:75vh" src="${props.view.media}/film.mp4">${track}</video>`
    : `<style>.controls { display: none !important }</style>
       <p class="notice">This page plays with scripts switched on. All that is on its slides can be read below.</p>`
const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 2]
const doing = computed(() => {
  if (held.value || told.value !== null) return 'Go on'
  return playing.value ? 'Stop' : 'Play'
})
</script>

<template>
  <section class="stage" aria-label="Film">
    <div ref="frame" class="frame" :class="{ captioned: view.captions.length > 0, strip: captioned === 'below' }">
      <div class="picture" :style="{ aspectRatio: `${view.shape.width} / ${view.shape.height}` }">
        <img v-if="poster && !ready" :src="mediaUrl(view.media, poster)" alt="" fetchpriority="high" />
        <canvas
          ref="canvas"
          :width="size.width"
          :height="size.height"
          role="img"
          :aria-label="shown === null ? '' : `Slide ${shown.number}: ${shown.title}. ${shown.text} ${shown.description}`"
          @click="press"
        />
        <div v-show="form !== 'sharp'" ref="film" class="film" @click="press" />
        <PictureLinks :links="links" />
        <p v-if="stalled || away" class="over" role="status">
          {{ away ? 'The line is lost. It goes on by itself when it is back.' : 'A moment …' }}
        </p>
        <div class="told" role="status">
          <p v-if="told">{{ told.description }}</p>
        </div>
        <CaptionNow
          v-if="captioned === 'on' || captioned === 'large'"
          :captions="view.captions"
          :at="at"
          :look="captioned"
          :ground="ground"
        />
        <button v-if="held" class="press main over" @click="player.play">Go on to the next slide</button>
      </div>
      <CaptionNow v-if="captioned === 'below'" :captions="view.captions" :at="at" look="below" />
      <ScreeningAisle :view="view" :at="at" :hits="hits" :spoken="spoken" @seek="player.seek" />
      <div class="controls">
        <button class="press main" :disabled="!ready" @click="press">{{ doing }}</button>
        <button class="press" aria-label="The slide before" title="Page Up" @click="player.goBy(-1)">Back</button>
        <button class="press" aria-label="The next slide" title="Page Down" @click="player.goBy(1)">Next</button>
        <span class="clock" aria-live="off">{{ duration(at) }} of {{ duration(view.length) }}</span>
        <span class="gap" />
        <label class="check" title="W"><input v-model="waits" type="checkbox" /> Wait at each slide</label>
        <label v-if="described" class="check"><input v-model="tells" type="checkbox" /> Tell what slides show</label>
        <label v-if="view.voice" class="check" title="M"><input v-model="muted" type="checkbox" /> Sound off</label>
        <label v-if="view.captions.length > 0" class="speed" title="C"
          >Captions
          <select v-model="captioned">
            <option value="off">off</option>
            <option value="below">below the picture</option>
            <option value="on">on the picture</option>
            <option value="large">large, on the picture</option>
          </select></label
        >
        <label v-if="captioned === 'on' || captioned === 'large'" class="speed"
          >Ground
          <select v-model="ground">
            <option value="dark">dark</option>
            <option value="light">light</option>
            <option value="none">none</option>
          </select></label
        >
        <label v-if="view.films.length > 0" class="speed"
          >Picture
          <select v-model="form">
            <option value="sharp">sharp, drawn here</option>
            <option value="auto">light, as a film</option>
            <option v-for="lines in view.films" :key="lines" :value="lines">film of {{ lines }} lines</option>
          </select></label
        >
        <label class="speed"
          >Speed
          <select v-model.number="speed">
            <option v-for="one in SPEEDS" :key="one" :value="one">{{ one }}×</option>
          </select></label
        >
        <button class="press" title="F" @click="wide">Whole screen</button>
        <button class="press quiet keyed" title="?" @click="help = !help">Keys</button>
      </div>
    </div>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <ScreeningKeys v-if="help" @close="help = false" />
    <!-- What a browser reads here depends on whether it runs scripts, so it is text to the page. -->
    <!-- eslint-disable-next-line vue/no-v-html -->
    <noscript v-html="plain" />
  </section>
</template>

<style scoped>
.frame {
  --under: 218px;
  display: grid;
  gap: 8px;
  justify-items: center;
}
.frame.captioned {
  --under: 262px;
}
.frame.captioned.strip {
  --under: 318px;
}
.frame > * {
  width: 100%;
}
.picture {
  position: relative;
  /* Picture, timeline and what plays it are seen together. */
  max-width: min(100%, calc((100vh - var(--under)) * 16 / 9));
  min-width: min(100%, 480px);
  background: #14201e;
  overflow: hidden;
}
.film :deep(video) {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  background: #14201e;
  cursor: pointer;
}
.picture img,
.picture canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: pointer;
}
.over {
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
}
/* What a slide shows is said over the picture: those who need it do not need that. */
.told {
  position: absolute;
  inset: auto 0 0;
  max-height: 100%;
  overflow-y: auto;
}
.told p {
  padding: 12px 18px;
  background: rgb(20 32 30 / 0.92);
  color: #fffdf8;
  font-size: 18px;
  white-space: pre-line;
}
p.over {
  padding: 6px 14px;
  border-radius: 6px;
  background: rgb(20 32 30 / 0.86);
  color: #fffdf8;
}
.controls {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
}
.gap {
  flex: 1;
}
.check,
.speed {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  min-height: 36px;
}
.check input {
  width: 18px;
  height: 18px;
  accent-color: var(--brand);
}
select {
  min-height: 34px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.notice {
  margin-top: 10px;
}
.frame:fullscreen {
  align-content: center;
  padding: 12px;
  background: var(--ground);
}
.frame:fullscreen .picture {
  max-width: min(100%, calc((100vh - 150px) * 16 / 9));
}
@media (max-width: 760px) {
  /* The picture stays in sight for as long as the page is read. */
  .stage,
  .frame:not(:fullscreen) {
    display: contents;
  }
  .aisle,
  .controls {
    margin-top: 8px;
  }
  .picture {
    position: sticky;
    top: 0;
    z-index: 2;
    max-width: 100%;
  }
}
@media (pointer: coarse) {
  .keyed {
    display: none;
  }
}
@media print {
  .stage {
    display: none;
  }
}
</style>
