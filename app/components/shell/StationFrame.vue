<script setup lang="ts">
import { plannedTime } from '@core/pace'
import type { Ms, SlideId } from '@core/model'
import type { RatePoint } from '@core/words'
import { useLectern } from '~/stores/lectern'
import { useSession } from '~/stores/session'
import { useTalk } from '~/stores/talk'
import type { Coming, TimelineBlock } from './timeline-blocks'

/** What every station has: the bar, the aisle, what needs to be said, and the page being left. */
const props = defineProps<{
  dark?: boolean
  /** Recorded visits rather than slides on the aisle. */
  byVisit?: boolean
  playhead?: Ms | null
  landing?: Ms
  coming?: Coming | null
  rates?: readonly RatePoint[]
}>()
const emit = defineEmits<{ seek: [at: Ms]; broken: [] }>()

const talk = useTalk()
const session = useSession()
const lectern = useLectern()
const underWay = computed(() => ['countdown', 'recording', 'rehearsing', 'paused', 'stopping'].includes(lectern.phase))
const route = useRoute()
const id = computed(() => String(route.params['talk']))
watch(
  id,
  (value) => {
    void talk.open(value)
  },
  { immediate: true },
)

const router = useRouter()
onBeforeUnmount(() => {
  // From station to station the talk stays open.
  if (router.currentRoute.value.params['talk'] === undefined) void talk.leave()
})

const timelineBlocks = computed<readonly TimelineBlock[]>(() => {
  const changed = new Set(talk.changedVisits)
  if (props.byVisit === true) {
    const byId = new Map(talk.film?.slides.map((slide) => [slide.id, slide.title]) ?? [])
    return talk.visits.map((visit, n) => ({
      id: visit.id,
      title: byId.get(visit.slide) ?? '',
      number: n + 1,
      length: visit.length,
      state: changed.has(visit.id) ? 'changed' : 'recorded',
    }))
  }
  const slides = new Set(talk.visits.filter(({ id }) => changed.has(id)).map(({ slide }) => slide))
  const recordedState = (slide: SlideId): 'recorded' | 'changed' => (slides.has(slide) ? 'changed' : 'recorded')
  return talk.slides
    .filter((slide) => !slide.skip)
    .map((slide) => {
      const recorded = talk.recorded.get(slide.id) ?? 0
      const unrecorded = talk.rehearsed.has(slide.id) ? 'rehearsed' : 'planned'
      return {
        id: slide.id,
        title: slide.title,
        number: talk.slides.indexOf(slide) + 1,
        length: recorded > 0 ? recorded : plannedTime(slide, talk.speaker),
        state: recorded > 0 ? recordedState(slide.id) : unrecorded,
      }
    })
})
const sum = computed(() => props.landing ?? timelineBlocks.value.reduce((total, slab) => total + slab.length, 0))
const home = computed(() => (talk.talk?.call == null || !talk.isGuests ? null : { to: talk.talk.call.page, name: 'What is asked' }))
/** @param stamp when its slab was pressed, on the page's clock */
function go(id: string, stamp: number): void {
  const slide = talk.slides.find((one) => one.id === id)
  if (slide !== undefined) talk.select(slide.id, stamp)
}
</script>

<template>
  <div class="frame" :class="{ 'dark-shell': dark, deep: $slots['under'] }">
    <ShellBar open :themeless="dark" :home="home"><TalkBar :talk-id="id" /></ShellBar>
    <AisleLane
      :timeline-blocks="timelineBlocks"
      :limit="talk.talk?.limit ?? null"
      :landing="sum"
      :current="byVisit ? null : talk.slide?.id"
      :playhead="playhead ?? null"
      :seekable="byVisit === true"
      :coming="coming ?? null"
      :rates="rates"
      @go="go"
      @seek="emit('seek', $event)"
    >
      <template v-if="$slots['under']" #under="{ scale }"><slot name="under" :scale="scale" /></template>
    </AisleLane>
    <div v-if="talk.missing" class="gone">
      <h1>There is no such talk here</h1>
      <p>It was deleted, or it belongs to somebody else. A talk for a call is found by the link that is yours.</p>
      <NuxtLink v-if="session.person" class="press main" to="/">To your talks</NuxtLink>
    </div>
    <template v-else>
      <div v-if="talk.trouble" class="notice bad said trouble" role="alert">
        <p>{{ talk.trouble }}</p>
        <button class="press quiet small" @click="talk.trouble = null">Close</button>
      </div>
      <div v-if="talk.talk && !underWay" class="said broken">
        <BrokenTakes @found="emit('broken')" />
        <CallNotice v-if="talk.talk.call && !dark" />
      </div>
      <main v-if="talk.talk" class="station"><slot /></main>
    </template>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-rows: var(--bar) var(--lane) auto auto minmax(0, 1fr);
  height: 100vh;
  background: var(--ground);
  color: var(--text);
}
/* The aisle with a second lane below it. */
.deep {
  --lane: 126px;
}
.station {
  grid-row: 5;
  min-height: 0;
}
.said {
  margin: 8px 16px 0;
}
.trouble {
  grid-row: 3;
}
/* At the Lectern nothing may move the slide from under the pen. */
.dark-shell .trouble {
  position: absolute;
  z-index: 21;
  top: var(--bar);
  left: 0;
  right: 0;
}
.broken {
  grid-row: 4;
}
.said:empty {
  display: none;
}
.gone {
  grid-row: 5;
  max-width: 46ch;
  margin: 12vh auto 0;
  display: grid;
  gap: 16px;
  justify-items: start;
  align-content: start;
}
/* At twice the size, or on a small screen, one thing stands under the other and the page scrolls. */
@media (max-width: 900px) {
  .frame {
    grid-template-rows: repeat(5, auto);
    height: auto;
    min-height: 100vh;
  }
}
</style>
