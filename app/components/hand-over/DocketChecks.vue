<script setup lang="ts">
import { CircleCheck, Warning } from '@element-plus/icons-vue'
import { codesOn, endWithin, preflight } from '@core/plan'
import type { Finding, FoundPlace } from '@core/plan'
import type { Recipe } from '@core/model'
import type { EstimateView, ShareView } from '@contracts'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'
import { duration, fileSize } from '~/words'

/** What is worth a look before the file is made: each says where it is, and leads there. */
const props = defineProps<{ recipe: Recipe | null; estimate: EstimateView | null }>()
const emit = defineEmits<{ change: [recipe: Recipe] }>()
const talk = useTalk()

const limit = computed(() => (props.recipe === null || props.recipe.limit.kind === 'none' ? null : props.recipe.limit.limit))
/** Of the file: it may be of a part. */
const length = computed(() => props.estimate?.length ?? talk.index?.length ?? 0)
const over = computed(() => (limit.value === null ? 0 : Math.max(0, length.value - limit.value)))
/** Address of the talk's page, once a code in the film may lead to it. */
const page = ref<string | null>(null)
watch(
  () => talk.talk !== null && !talk.isGuests && [...(talk.film?.slides.values() ?? [])].some((slide) => codesOn(slide).length > 0),
  async (coded) => {
    if (coded && talk.talk !== null) page.value = (await api.get<ShareView>(`/talks/${talk.talk.id}/share`)).address
  },
  { immediate: true },
)
const findings = computed(() =>
  talk.index === null || props.recipe?.timing === 'planned' ? [] : preflight(talk.index, talk.film?.peaks ?? {}, talk.slides, page.value),
)

const SAYINGS: Readonly<Record<Finding['kind'], (count: number, first: FoundPlace) => string>> = {
  unseen: (count) => (count === 1 ? 'A slide is not in it' : `${String(count)} slides are not in it`),
  gone: (count) =>
    count === 1
      ? 'A slide is in it that the run sheet has no more'
      : `${String(count)} showings are of slides that the run sheet has no more`,
  changed: (count) =>
    count === 1
      ? 'A slide was changed since it was recorded and is in it as it was'
      : `${String(count)} showings are of slides as they were before they were changed`,
  silence: (count, { amount }) => (count === 1 ? `${duration(amount)} of silence` : `${String(count)} silences of over five seconds`),
  clipped: () => 'The voice is louder than can be recorded',
  quiet: () => 'The voice is very soft; bringing it up brings the room along',
  muted: (count, { amount }) => (count === 1 ? `Muted for ${duration(amount)}` : `Muted ${String(count)} times`),
  covered: (count, { amount }) =>
    count === 1
      ? `The face covers ${String(Math.round(amount * 100))}% of a slide`
      : `The face covers something on ${String(count)} slides`,
  code: (count) =>
    count === 1
      ? 'A code to scan leads to a page that is not this talk’s, or no longer'
      : `${String(count)} codes to scan lead to pages that are not this talk’s, or no longer`,
  'camera-lost': (_, { amount }) => `The camera gave nothing for ${duration(amount)}`,
}
const numbers = computed(() => new Map(talk.slides.map((slide, n) => [slide.id, n + 1])))
const nameOf = ({ at, slide }: FoundPlace): string => (at === null ? `slide ${String(numbers.value.get(slide) ?? '')}` : duration(at))
/** Where Review has what a finding is about. */
const PANELS: Partial<Record<Finding['kind'], string>> = { covered: '&panel=face', silence: '&panel=pauses' }
const linkTo = ({ at, slide }: FoundPlace, kind: Finding['kind']): string =>
  at === null
    ? `/talks/${talk.talk?.id ?? ''}/lectern?slide=${slide}`
    : `/talks/${talk.talk?.id ?? ''}/review?at=${String(Math.max(0, at - 1000))}` + (PANELS[kind] ?? '')
/** Where a part of the talk would keep to the limit. */
const sooner = computed(() => {
  const part = props.recipe?.part
  if (over.value === 0 || limit.value === null || talk.index === null || props.recipe?.timing !== 'recorded' || part?.kind !== 'range')
    return null
  return { ...part, to: endWithin(talk.index, part.from, limit.value, talk.film?.peaks ?? {}) }
})
const refused = computed(() => props.recipe?.limit.kind === 'hold' && over.value > 0)
</script>

<template>
  <ul class="checks" aria-label="Checks">
    <li :class="{ good: over === 0 }">
      <CircleCheck v-if="over === 0" aria-label="In order" /><Warning v-else aria-label="Look at this" />
      <span v-if="over > 0"
        ><b>{{ duration(over) }} over the limit</b
        ><span class="soft">{{ refused ? 'It is refused as it is.' : 'It is made all the same.' }}</span
        ><FitOffer v-if="limit !== null && recipe?.timing === 'recorded' && recipe.part.kind === 'all'" :limit="limit" />
        <button
          v-if="sooner !== null && recipe !== null"
          class="press small sooner"
          title="In a pause, when there is one just before"
          @click="emit('change', { ...recipe, part: sooner })"
        >
          End it at {{ duration(sooner.to) }}
        </button>
        <span v-else-if="recipe?.part.kind === 'slides'" class="soft">Leave out a slide, or allow more.</span></span
      >
      <b v-else>{{ limit === null ? 'No limit is set' : `${duration(limit - length)} in hand` }}</b>
    </li>
    <CheckRow
      v-for="{ kind, places } in findings"
      :key="kind"
      :say="SAYINGS[kind](places.length, places[0]!)"
      :places="places.map((place) => ({ name: nameOf(place), to: linkTo(place, kind) }))"
    />
    <NeverSaidCheck v-if="recipe?.timing !== 'planned'" />
    <SpellingCheck />
    <li v-if="findings.length === 0" class="good">
      <CircleCheck aria-label="In order" /><b>{{
        recipe?.timing === 'planned' ? 'Every slide is in it for its planned time' : 'Every slide is in it; voice and face are in order'
      }}</b>
    </li>
    <li v-if="estimate" :class="{ good: estimate.free > estimate.bytes * 3 }">
      <CircleCheck v-if="estimate.free > estimate.bytes * 3" aria-label="In order" /><Warning v-else aria-label="Look at this" />
      <b v-if="estimate.free > estimate.bytes * 3">Room on the disk</b>
      <span v-else
        ><b>The disk is nearly full</b><span class="soft">{{ fileSize(estimate.free) }} left.</span></span
      >
    </li>
  </ul>
</template>

<style scoped>
.checks {
  display: grid;
  gap: 12px;
  align-content: start;
  margin: 0;
  padding: 24px 0 0;
  list-style: none;
}
.checks :deep(li) {
  display: flex;
  gap: 10px;
}
.checks :deep(li > span) {
  display: grid;
}
.sooner {
  justify-self: start;
  margin-top: 6px;
}
.checks :deep(svg) {
  width: 20px;
  height: 20px;
  flex: none;
  color: var(--alarm);
}
.checks .good :deep(svg) {
  color: var(--brand);
}
.checks :deep(.soft) {
  font-size: 14px;
}
</style>
