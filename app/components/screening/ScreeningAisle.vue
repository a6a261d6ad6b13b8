<script setup lang="ts">
import type { Ms } from '@core/model'
import { visitAt } from '@core/screening'
import type { Hit } from '@core/screening'
import type { ScreenedVisit, ScreeningView } from '@contracts'
import { duration } from '~/words'

/** The talk laid out along its time: a slab for each slide as long as it is shown, with where it is and what was found. */
const props = defineProps<{
  view: ScreeningView
  at: Ms
  hits: readonly Hit[]
  /** When something is said that was found. */
  spoken: readonly Ms[]
}>()
const emit = defineEmits<{ seek: [at: Ms] }>()

const found = computed(() => new Set(props.hits.map(({ slide }) => slide)))
const share = (ms: Ms): string => `${String((ms / Math.max(1, props.view.length)) * 100)}%`
const current = computed(() => visitAt(props.view.visits, props.at)?.id ?? null)
const pictureOf = (visit: ScreenedVisit) => props.view.slides.find(({ id }) => id === visit.slide)?.picture ?? null

const aisle = useTemplateRef('aisle')
/** Where slabs are swiped along, the one that is on comes into sight by itself. */
watch(current, async () => {
  await nextTick()
  const slab = aisle.value?.querySelector<HTMLElement>('[aria-current]')?.parentElement
  if (aisle.value === null || slab == null || aisle.value.scrollWidth <= aisle.value.clientWidth) return
  const left = slab.offsetLeft - (aisle.value.clientWidth - slab.offsetWidth) / 2
  aisle.value.scrollTo({ left, behavior: window.matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth' })
})

/** A click goes to where in the slab it was; a key to its beginning. */
function go(visit: ScreenedVisit, event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const pressed = event.detail > 0 && box.width > 0
  emit('seek', pressed ? visit.start + ((event.clientX - box.left) / box.width) * visit.length : visit.start)
}
/** Little room at the beginning and the end: what is shown there is moved inside. */
const side = (visit: ScreenedVisit): string => {
  const middle = (visit.start + visit.length / 2) / Math.max(1, props.view.length)
  if (middle < 0.12) return 'left'
  return middle > 0.88 ? 'right' : ''
}
</script>

<template>
  <nav ref="aisle" class="aisle" aria-label="Slides along the film">
    <ol>
      <li v-for="visit in view.visits" :key="visit.id" :style="{ flexGrow: visit.length, flexBasis: 0 }">
        <a
          :href="`#slide-${visit.number}`"
          :aria-label="`Slide ${visit.number}, ${visit.title || 'without a title'}, at ${duration(visit.start)}`"
          :aria-current="visit.id === current ? 'step' : undefined"
          :class="{ found: found.has(visit.slide) }"
          @click.prevent="go(visit, $event)"
          ><span>{{ visit.number }}</span></a
        >
        <figure class="peek" :class="side(visit)" aria-hidden="true">
          <SlidePicture v-if="pictureOf(visit)" :media="view.media" :picture="pictureOf(visit)!" alt="" />
          <figcaption>{{ visit.title || `Slide ${visit.number}` }}</figcaption>
        </figure>
      </li>
    </ol>
    <i v-for="from in spoken" :key="from" class="spoken" :style="{ left: share(from) }" aria-hidden="true" />
    <i class="place" :style="{ left: share(at) }" aria-hidden="true" />
  </nav>
</template>

<style scoped>
.aisle {
  position: relative;
}
ol {
  display: flex;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  position: relative;
  min-width: 3px;
}
a {
  container-type: inline-size;
  display: grid;
  place-items: center;
  height: 34px;
  margin: 0 1px;
  border-radius: 2px;
  background: var(--brand);
  color: var(--brand-ink);
  font-weight: 600;
  text-decoration: none;
  overflow: hidden;
}
/* A number that has no room says less than none: the slab's name is there for who reaches for it. */
@container (max-width: 24px) {
  a span {
    display: none;
  }
}
a:hover {
  filter: brightness(1.12);
}
a[aria-current] {
  box-shadow: inset 0 -4px var(--accent);
}
a.found {
  background: var(--accent);
  color: #1d2a29;
}
/* Below the slabs, where their numbers are not hidden. */
.spoken {
  position: absolute;
  top: 100%;
  width: 7px;
  height: 5px;
  margin-left: -3.5px;
  background: var(--accent);
  clip-path: polygon(50% 0, 100% 100%, 0 100%);
  pointer-events: none;
}
.place {
  position: absolute;
  top: -4px;
  bottom: -4px;
  width: 3px;
  margin-left: -1px;
  background: var(--accent);
  outline: 1px solid var(--ground);
  pointer-events: none;
}
.peek {
  display: none;
  position: absolute;
  z-index: 3;
  left: 50%;
  bottom: 40px;
  width: 190px;
  margin: 0;
  transform: translateX(-50%);
  border: 1px solid var(--line);
  background: var(--card);
  pointer-events: none;
}
.peek.left {
  left: 0;
  transform: none;
}
.peek.right {
  left: auto;
  right: 0;
  transform: none;
}
.peek figcaption {
  padding: 4px 8px;
  font-size: 14px;
}
li:hover .peek,
a:focus-visible + .peek {
  display: block;
}
@media (max-width: 760px) {
  /* Slabs wide enough for a finger: swiped along. */
  .aisle {
    overflow-x: auto;
    overscroll-behavior-x: contain;
  }
  li {
    min-width: 44px;
  }
  a {
    height: 44px;
  }
  .place,
  li:hover .peek {
    display: none;
  }
}
@media print {
  .aisle {
    display: none;
  }
}
</style>
