<script setup lang="ts">
import type { SlideId } from '@core/model'
import type { ImportView } from '@contracts'
import { useReplacement } from '~/composables/useReplacement'
import { useTalk } from '~/stores/talk'

/** Two decks side by side: which slide of the new one is which of the old. Nothing changes before it is taken over. */
const props = defineProps<{ imported: ImportView }>()
const talk = useTalk()
const talkId = computed(() => talk.talk?.id ?? '')
const { deck, rows, gone, count, say, sayAll, take, leave, busy, trouble } = useReplacement(computed(() => props.imported))
const chosen = ref<SlideId | null>(null)
const row = computed(() => rows.value.find(({ brought }) => brought.id === chosen.value) ?? firstToAsk.value ?? rows.value[0] ?? null)
const firstToAsk = computed(() => rows.value.find(({ kind }) => kind === 'asked') ?? rows.value.find(({ kind }) => kind === 'changed'))
const asked = computed(() => count('asked'))

/** Height of a slide in both columns, and the width between them, in pixels. */
const [ROW, GAP] = [66, 96]
const high = computed(() => Math.max(talk.slides.length, rows.value.length) * ROW)
const places = computed(() => new Map(talk.slides.map(({ id }, n) => [id, n])))
const middle = (n: number): number => n * ROW + ROW / 2
const lines = computed(() =>
  rows.value.flatMap(({ brought, old, kind, number }) => {
    if (old === null) return []
    const [from, to] = [middle(places.value.get(old.id) ?? 0), middle(number - 1)]
    const d = `M0 ${String(from)}C${String(GAP / 2)} ${String(from)} ${String(GAP / 2)} ${String(to)} ${String(GAP)} ${String(to)}`
    return [{ id: brought.id, kind, d }]
  }),
)

const recorded = computed(() => new Set(talk.visits.map(({ slide }) => slide)))
const goneIds = computed(() => new Set(gone.value.map(({ id }) => id)))
const KIND_WORDS = { same: null, changed: 'changed', asked: 'the same slide?', new: 'new' } as const
function goneWords(id: SlideId): string | null {
  if (!goneIds.value.has(id)) return null
  return recorded.value.has(id) ? 'gone; its recording stays in the talk' : 'gone'
}
const free = computed(() => talk.slides.filter(({ id }) => goneIds.value.has(id) || id === row.value?.old?.id))
const summary = computed(() =>
  [
    `${String(count('same'))} as they were`,
    `${String(count('changed'))} changed`,
    `${String(count('new'))} new`,
    ...(gone.value.length > 0 ? [`${String(gone.value.length)} gone`] : []),
  ].join(', '),
)
/** Whether the new slides have another shape than the talk: they get edges beside them, or above and below. */
const otherShape = computed(() => {
  const [size, shape] = [rows.value[0]?.brought.steps[0]?.picture.size, talk.talk?.shape]
  return size !== undefined && shape !== undefined && Math.abs(size.width / size.height - shape.width / shape.height) > 0.02
})
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
      <span v-if="asked > 0" class="acts"
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
            <li
              v-for="(slide, n) in talk.slides"
              :key="slide.id"
              class="line"
              :class="{ gone: goneIds.has(slide.id) }"
              :style="{ height: `${ROW}px` }"
            >
              <DeckLine :talk-id="talkId" :slide="slide" :number="n + 1" :mark="goneWords(slide.id)" />
            </li>
          </ol>
          <svg :width="GAP" :height="high" aria-hidden="true">
            <path v-for="{ id, kind, d } in lines" :key="id" :d="d" :class="[kind, { on: row?.brought.id === id }]" />
          </svg>
          <ol aria-label="The new deck">
            <li v-for="{ brought, number, kind } in rows" :key="brought.id" :style="{ height: `${ROW}px` }">
              <button
                class="line"
                :class="[kind, { on: row?.brought.id === brought.id }]"
                :aria-pressed="row?.brought.id === brought.id"
                @click="chosen = brought.id"
              >
                <DeckLine :talk-id="talkId" :slide="brought" :number="number" :mark="KIND_WORDS[kind]" />
              </button>
            </li>
          </ol>
        </div>
      </div>
      <ReplacedChoice v-if="row" :row="row" :free="free" @say="say(row.brought.id, $event)" />
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
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
.line {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  height: 100%;
  min-width: 0;
  padding: 4px 10px;
  border: 0;
  background: transparent;
  color: inherit;
  text-align: left;
}
button.line {
  cursor: pointer;
}
.line.on {
  background: var(--brand-wash);
}
.line.asked {
  --mark: var(--accent-text);
  --mark-weight: 600;
}
.line.new,
.line.changed {
  --mark: var(--brand);
}
.gone :deep(.shown) {
  opacity: 0.5;
}
path {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.5;
}
path.changed {
  stroke: var(--brand);
  stroke-width: 2;
  stroke-dasharray: 1 4;
  stroke-linecap: round;
}
path.asked {
  stroke: var(--accent);
  stroke-width: 2;
  stroke-dasharray: 7 4;
}
path.on {
  stroke-width: 3;
}
</style>
