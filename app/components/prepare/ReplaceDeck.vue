<script setup lang="ts">
import type { Slide, SlideId } from '@core/model'
import type { ImportView } from '@contracts'
import { useReplacement } from '~/composables/useReplacement'
import type { ReplacedSlide } from '~/composables/useReplacement'
import { useTalk } from '~/stores/talk'

/** Two decks side by side: which slide of the new one is which of the old. Nothing changes before it is taken over. */
const props = defineProps<{ imported: ImportView }>()
const talk = useTalk()
const { deck, rows, gone, count, say, sayAll, take, leave, busy, trouble } = useReplacement(computed(() => props.imported))
const chosen = ref<SlideId | null>(null)
const row = computed(() => rows.value.find(({ brought }) => brought.id === chosen.value) ?? firstToAsk.value ?? rows.value[0] ?? null)
const firstToAsk = computed(() => rows.value.find(({ kind }) => kind === 'asked') ?? rows.value.find(({ kind }) => kind === 'changed'))
const asked = computed(() => count('asked'))

/** Height of a slide in both columns, and the width between them, in pixels. */
const [ROW, GAP] = [66, 96]
const places = computed(() => new Map(talk.slides.map(({ id }, n) => [id, n])))
const middle = (n: number): number => n * ROW + ROW / 2
const lines = computed(() =>
  rows.value.flatMap(({ brought, old, kind, number }) => {
    if (old === null) return []
    const [from, to] = [middle(places.value.get(old.id) ?? 0), middle(number - 1)]
    return [
      {
        id: brought.id,
        kind,
        d: `M0 ${String(from)}C${String(GAP / 2)} ${String(from)} ${String(GAP / 2)} ${String(to)} ${String(GAP)} ${String(to)}`,
      },
    ]
  }),
)
const high = computed(() => Math.max(talk.slides.length, rows.value.length) * ROW)
const recorded = computed(() => new Set(talk.visits.map(({ slide }) => slide)))
const inked = computed(
  () => new Set((talk.film?.stretches ?? []).flatMap(({ cues }) => cues.flatMap((cue) => (cue.kind === 'ink' ? [cue.stroke.slide] : [])))),
)
const goneIds = computed(() => new Set(gone.value.map(({ id }) => id)))
const KIND_WORDS = { same: 'as it was', changed: 'changed', asked: 'the same slide?', new: 'new' } as const
const name = (slide: Slide): string => slide.title || 'without a title'
const numberOf = (slide: Slide): number => (places.value.get(slide.id) ?? 0) + 1
/** Slides that a new one can be said to be: those that no other is, and its own. */
const free = computed(() => talk.slides.filter(({ id }) => goneIds.value.has(id) || id === row.value?.old?.id))
const summary = computed(() => {
  const parts = [
    `${String(count('same'))} as they were`,
    `${String(count('changed'))} changed`,
    `${String(count('new'))} new`,
    ...(gone.value.length > 0 ? [`${String(gone.value.length)} gone`] : []),
  ]
  return parts.join(', ')
})
/** Whether the new slides have another shape than the talk: they get edges beside them, or above and below. */
const otherShape = computed(() => {
  const [size, shape] = [rows.value[0]?.brought.steps[0]?.picture.size, talk.talk?.shape]
  return size !== undefined && shape !== undefined && Math.abs(size.width / size.height - shape.width / shape.height) > 0.02
})
const last = (slide: Slide): Slide['steps'][number]['picture'] | undefined => slide.steps.at(-1)?.picture
const pick = (one: ReplacedSlide): void => {
  chosen.value = one.brought.id
}
</script>

<template>
  <section class="replace" aria-label="The deck and the one that is to take its place">
    <header>
      <h1>{{ imported.name }}</h1>
      <p class="soft">
        {{ deck === null ? 'Comparing …' : `${rows.length} slides: ${summary}. What you recorded, wrote and timed goes with its slide.` }}
      </p>
    </header>
    <div class="acts">
      <button class="press main" :disabled="busy || deck === null || asked > 0 || rows.length === 0" @click="take">Take it over</button>
      <button class="press" :disabled="busy" @click="leave">Keep the deck as it is</button>
      <span v-if="asked > 0" class="asks"
        >{{ asked === 1 ? 'One slide is' : `${asked} slides are` }} not plain: answer beside it, or
        <button class="press quiet small" @click="sayAll">say that all of them are the same</button></span
      >
      <span v-else class="soft">The deck before can be put back afterwards.</span>
    </div>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-else-if="otherShape" class="soft">
      The new slides have another shape than this talk, so there are edges beside them. Its shape can be changed in the run sheet
      afterwards.
    </p>
    <div class="columns">
      <div class="scroll">
        <div class="heads soft"><span>The deck you have</span><span>The new deck</span></div>
        <div class="decks" :style="{ gridTemplateColumns: `1fr ${GAP}px 1fr`, height: `${high}px` }">
          <ol aria-label="The deck you have">
            <li v-for="(slide, n) in talk.slides" :key="slide.id" :class="{ gone: goneIds.has(slide.id) }" :style="{ height: `${ROW}px` }">
              <SlidePicture v-if="last(slide)" class="small" :talk-id="talk.talk?.id ?? ''" :picture="last(slide)!" alt="" />
              <span class="say"
                ><span class="title"
                  ><b class="clock">{{ n + 1 }}</b> {{ name(slide) }}</span
                ><span v-if="goneIds.has(slide.id)" class="mark">{{
                  recorded.has(slide.id) ? 'gone; its recording stays in the talk' : 'gone'
                }}</span></span
              >
            </li>
          </ol>
          <svg :width="GAP" :height="high" aria-hidden="true">
            <path v-for="{ id, kind, d } in lines" :key="id" :d="d" :class="[kind, { on: row?.brought.id === id }]" />
          </svg>
          <ol aria-label="The new deck">
            <li
              v-for="one in rows"
              :key="one.brought.id"
              :class="[one.kind, { on: row?.brought.id === one.brought.id }]"
              :style="{ height: `${ROW}px` }"
            >
              <button class="slide" :aria-pressed="row?.brought.id === one.brought.id" @click="pick(one)">
                <SlidePicture v-if="last(one.brought)" class="small" :talk-id="talk.talk?.id ?? ''" :picture="last(one.brought)!" alt="" />
                <span class="say"
                  ><span class="title"
                    ><b class="clock">{{ one.number }}</b> {{ name(one.brought) }}</span
                  ><span v-if="one.kind !== 'same'" class="mark">{{ KIND_WORDS[one.kind] }}</span></span
                >
              </button>
            </li>
          </ol>
        </div>
      </div>
      <aside v-if="row" aria-label="The chosen slide">
        <template v-if="row.old && last(row.old) && last(row.brought)">
          <SlideDifference
            :talk-id="talk.talk?.id ?? ''"
            :was="last(row.old)!"
            :is="last(row.brought)!"
            :shape="talk.talk?.shape ?? { width: 16, height: 9 }"
          />
          <p v-if="inked.has(row.old.id) && row.kind !== 'same'" class="say-ink">
            You drew on this slide while you recorded it: see in Review whether that still lies where it should.
          </p>
        </template>
        <template v-else>
          <SlidePicture
            v-if="last(row.brought)"
            :talk-id="talk.talk?.id ?? ''"
            :picture="last(row.brought)!"
            :alt="name(row.brought)"
            large
          />
          <p class="soft">A new slide: nothing was recorded for it yet.</p>
        </template>
        <p v-if="row.kind === 'asked' && row.old" class="ask">
          Is this slide {{ numberOf(row.old) }}, <b>{{ name(row.old) }}</b>?
          <button class="press small main" @click="say(row.brought.id, row.old.id)">Yes, the same</button>
          <button class="press small" @click="say(row.brought.id, null)">No, it is new</button>
        </p>
        <label v-else class="soft which"
          >It is
          <el-select
            :model-value="row.old?.id ?? ''"
            size="small"
            aria-label="Which slide it is"
            @update:model-value="say(row.brought.id, $event || null)"
          >
            <el-option value="" label="a new slide" />
            <el-option v-for="slide in free" :key="slide.id" :value="slide.id" :label="`${numberOf(slide)} ${name(slide)}`" />
          </el-select>
        </label>
      </aside>
    </div>
  </section>
</template>

<style scoped>
.replace {
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr);
  gap: 8px;
  height: 100%;
  padding: 10px 16px 14px;
}
.replace > .columns {
  grid-row: 4;
}
h1 {
  margin: 0;
  overflow: hidden;
  font-size: 21px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 20px;
  min-height: 0;
}
.scroll {
  overflow-y: auto;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.heads,
.decks {
  display: grid;
}
.heads {
  position: sticky;
  top: 0;
  z-index: 1;
  grid-template-columns: 1fr 96px 1fr;
  padding: 6px 10px;
  border-bottom: 1px solid var(--line);
  background: var(--card);
  font-size: 14px;
}
.heads span:last-child {
  grid-column: 3;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li,
.slide {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  min-width: 0;
  padding: 4px 10px;
  border: 0;
  background: transparent;
  color: inherit;
  text-align: left;
}
li:has(.slide) {
  padding: 0;
}
.slide {
  height: 100%;
  cursor: pointer;
}
li.on {
  background: var(--brand-wash);
}
.small {
  flex: none;
  width: 84px;
}
.say {
  display: grid;
  min-width: 0;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mark {
  font-size: 13px;
  color: var(--soft);
}
.asked .mark {
  color: var(--accent-text, var(--accent));
  font-weight: 600;
}
.new .mark,
.changed .mark {
  color: var(--brand);
}
.gone .small {
  opacity: 0.5;
}
svg path {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.5;
}
svg .changed {
  stroke: var(--brand);
  stroke-width: 2;
  stroke-dasharray: 1 4;
  stroke-linecap: round;
}
svg .asked {
  stroke: var(--accent);
  stroke-width: 2;
  stroke-dasharray: 7 4;
}
svg .on {
  stroke-width: 3;
}
aside {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow-y: auto;
}
.ask,
.acts,
.which,
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
}
.which .el-select {
  width: 260px;
}
.say-ink {
  padding-left: 10px;
  border-left: 3px solid var(--accent);
}
</style>
