<script setup lang="ts">
import type { TakeReport } from '@core/programme'
import { api } from '~/client'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** What you have after a take, and what can be done with it. */
const emit = defineEmits<{ goOn: []; retake: [visit: string] }>()
const lectern = useLectern()
const talk = useTalk()
const report = shallowRef<TakeReport | null>(null)
const discarded = ref(false)
const { trouble, attempt } = useAttempt()
const take = computed(() => talk.talk?.takes.find((one) => one.id === lectern.lastTake?.id))
const ready = computed(() => take.value?.state === 'closed')
const whole = computed(() => talk.index?.length ?? 0)
const limit = computed(() => talk.talk?.limit ?? null)
watch(
  ready,
  (now) => {
    const id = lectern.lastTake?.id
    if (now && id !== undefined)
      void attempt(async () => {
        report.value = await api.get<TakeReport>(`/takes/${id}/report`)
      })
  },
  { immediate: true },
)

const unseen = computed(() => {
  const seen = new Set(talk.visits.map((visit) => visit.slide))
  return talk.slides.map((slide, n) => ({ ...slide, number: n + 1 })).filter((slide) => !slide.skip && !seen.has(slide.id))
})
const places = (parts: readonly { readonly at: number; readonly length: number }[]): string =>
  `${parts
    .slice(0, 3)
    .map((part) => `${duration(part.length)} at ${duration(part.at)}`)
    .join(', ')}${parts.length > 3 ? ` and ${String(parts.length - 3)} more` : ''}`
const loudness = computed(() => {
  const { loudness: level } = report.value ?? { loudness: null }
  if (level === null) return { say: 'No voice was heard.', bad: take.value?.kind !== 'dub' && lectern.plan.mode !== 'silent' }
  return level < -34
    ? { say: `Very quiet, ${String(level)} LUFS: noise will be raised with the voice.`, bad: true }
    : { say: `${String(level)} LUFS; the file is brought to -16.`, bad: false }
})
/** What a presenter would want to know, the worrying first. */
const facts = computed(() => {
  const it = report.value
  if (it === null) return []
  return [
    { name: 'Loudness', ...loudness.value },
    ...(it.clipped > 0 ? [{ name: 'Too loud', say: `It clips for ${String(it.clipped / 1000)} s.`, bad: true }] : []),
    ...(it.silences.length > 0 ? [{ name: 'Silent', say: places(it.silences), bad: true }] : []),
    ...(it.muted.length > 0 ? [{ name: 'Muted', say: places(it.muted), bad: false }] : []),
    ...(it.cameraLost > 0 ? [{ name: 'Camera', say: `gave no picture for ${duration(it.cameraLost)}`, bad: true }] : []),
    ...(unseen.value.length > 0
      ? [
          {
            name: 'Not shown',
            say: `${unseen.value.length === 1 ? 'slide' : 'slides'} ${unseen.value
              .slice(0, 8)
              .map((slide) => String(slide.number))
              .join(', ')}${unseen.value.length > 8 ? ' …' : ''}`,
            bad: true,
          },
        ]
      : []),
    ...(it.timing === 'approximate' ? [{ name: 'Timing', say: 'approximate: too little was said to measure it by', bad: false }] : []),
    ...(it.stumbles > 0 ? [{ name: 'Stumbles', say: `${String(it.stumbles)} marked; Review lists them`, bad: false }] : []),
  ].sort((a, b) => Number(b.bad) - Number(a.bad))
})
const slideName = (id: string): string => {
  const n = talk.slides.findIndex((slide) => slide.id === id)
  return n < 0 ? 'a slide that is gone' : `${String(n + 1)} ${talk.slides[n]?.title ?? ''}`
}

const discard = (undo: boolean): Promise<void> =>
  attempt(async () => {
    if (lectern.lastTake === null) return
    if (undo) await api.post(`/takes/${lectern.lastTake.id}/restore`)
    else await api.delete(`/takes/${lectern.lastTake.id}`)
    discarded.value = !undo
    await talk.refresh()
  })
</script>

<template>
  <section v-if="lectern.lastTake" class="after" aria-label="After the take">
    <template v-if="discarded">
      <h2>Discarded</h2>
      <p>The take of {{ duration(lectern.lastTake.length) }} is out of the talk.</p>
      <div class="row">
        <button class="press main" @click="discard(true)">Undo</button><button class="press" @click="lectern.rest()">Record again</button>
      </div>
    </template>
    <template v-else>
      <h2>
        <span class="clock">{{ duration(lectern.lastTake.length) }}</span> recorded
      </h2>
      <p v-if="lectern.phase === 'stopping'">
        {{
          lectern.unsent
            ? 'The server does not answer. The take is kept on this computer and is sent when it does; leave this page open.'
            : 'Sending the last of it …'
        }}
      </p>
      <p v-else-if="take?.state === 'failed'" class="bad">{{ take.sentence }}</p>
      <p v-else-if="!ready">It is safe on the server and is being made ready …</p>
      <p v-else-if="limit !== null && whole > limit" class="bad">
        The talk is {{ duration(whole) }} long, {{ duration(whole - limit) }} over the limit of {{ duration(limit) }}.
      </p>
      <p v-else>
        It is safe and ready. The talk is {{ duration(whole) }} long<template v-if="limit !== null"
          >, {{ duration(limit - whole) }} in hand</template
        >.
      </p>
      <dl v-if="facts.length > 0">
        <template v-for="fact in facts" :key="fact.name"
          ><dt>{{ fact.name }}</dt>
          <dd :class="{ worry: fact.bad }">{{ fact.say }}</dd></template
        >
      </dl>
      <div class="row">
        <button v-if="ready && talk.changedVisits[0]" class="press main" @click="emit('retake', talk.changedVisits[0])">
          Retake the next that changed, {{ talk.changedVisits.length }} left
        </button>
        <NuxtLink
          v-if="ready && talk.talk"
          class="press"
          :class="{ main: talk.changedVisits.length === 0 }"
          :to="`/talks/${talk.talk.id}/review`"
          >Listen in Review</NuxtLink
        >
        <el-dropdown trigger="click" :disabled="!ready || talk.visits.length === 0" max-height="320" @command="emit('retake', $event)">
          <button class="press" :disabled="!ready || talk.visits.length === 0">Retake a slide</button>
          <template #dropdown
            ><el-dropdown-menu
              ><el-dropdown-item v-for="visit in talk.visits" :key="visit.id" :command="visit.id"
                >{{ slideName(visit.slide) }} <span class="clock soft">{{ duration(visit.length) }}</span></el-dropdown-item
              ></el-dropdown-menu
            ></template
          >
        </el-dropdown>
        <button class="press" :disabled="!ready" @click="emit('goOn')">Go on at the end</button>
        <button class="press" :disabled="!ready" @click="lectern.rest()">Back to the Lectern</button>
        <button class="press quiet danger" :disabled="!ready" @click="discard(false)">Discard this take</button>
      </div>
    </template>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.after {
  display: grid;
  gap: 14px;
  width: min(600px, 100%);
  max-height: 100%;
  overflow-y: auto;
  padding: 24px 28px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
h2 {
  font-size: 28px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
  margin: 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
dd.worry {
  color: var(--accent);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.bad {
  color: var(--alarm);
}
</style>
