<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { ALIGNMENTS, ORDERS, aligned, reordered, spread, wordsOnObject } from '@core/objects'
import type { Alignment, Order } from '@core/objects'
import { BREADTH, COLOURS_ON_SLIDES, LETTERS, MOST_WORDS_ON, TEXT_ALIGNS } from '@core/model'
import type { MotionDeed, ObjectForm, SlideObject } from '@core/model'
import { useObjects } from '~/stores/objects'
import { ALIGNMENT_WORDS, ALIGN_WORDS, COLOUR_WORDS, DEED_WORDS, ORDER_WORDS } from '~/words'

/** What can be done with the chosen objects. */
const props = defineProps<{ step: number; steps: number }>()
const emit = defineEmits<{ step: [step: number] }>()
const objects = useObjects()
const one = computed<SlideObject | null>(() => (objects.chosenObjects.length === 1 ? (objects.chosenObjects[0] ?? null) : null))
const first = computed(() => objects.chosenObjects[0])
const many = computed(() => objects.chosenObjects.length > 1)
const words = computed(() => (one.value === null ? null : wordsOnObject(one.value.form)))
const grouped = computed(() => objects.chosenObjects.some(({ group }) => group !== null))
const locked = computed(() => objects.chosenObjects.every((object) => object.locked))

const set = (fields: Partial<SlideObject>): void => {
  objects.change((object) => ({ ...object, ...fields }))
}
/** Changes what an object is, as far as it has what is changed. */
function form(fields: object): void {
  objects.change((object) => ({ ...object, form: { ...object.form, ...fields } as ObjectForm }))
}
function say(text: string): void {
  if (one.value === null) return
  if (one.value.form.kind === 'text') form({ text: text.slice(0, MOST_WORDS_ON.text) })
  else if (one.value.form.kind === 'picture') form({ alt: text.slice(0, MOST_WORDS_ON.alt) })
  else form({ label: text.slice(0, MOST_WORDS_ON.label) })
}
type Arrangement = Alignment | Order | 'across' | 'down' | 'group' | 'ungroup' | 'lock' | 'copy'
interface Arranged {
  readonly value: Arrangement
  readonly label: string
  readonly divided: boolean
}
/** What the chosen objects can be arranged by: each of a kind after the first of it. */
const arrangements = computed<readonly Arranged[]>(() => {
  const listed = <Value extends Arrangement>(values: readonly Value[], words: Readonly<Record<Value, string>>): readonly Arranged[] =>
    values.map((value, n) => ({ value, label: words[value], divided: n === 0 }))
  const spreading = objects.chosenObjects.length > 2 ? (['across', 'down'] as const) : []
  return [
    { value: 'copy', label: 'Copy', divided: false },
    { value: 'lock', label: locked.value ? 'Unlock' : 'Lock', divided: false },
    ...(grouped.value ? [{ value: 'ungroup', label: 'Ungroup', divided: false } as const] : []),
    ...(many.value && !grouped.value ? [{ value: 'group', label: 'Group', divided: false } as const] : []),
    ...listed(ALIGNMENTS, ALIGNMENT_WORDS),
    ...listed(spreading, { across: 'Spread from side to side', down: 'Spread from top to bottom' }),
    ...listed(ORDERS, ORDER_WORDS),
  ]
})
const isOrder = (by: Arrangement): by is Order => (ORDERS as readonly string[]).includes(by)
function arrange(by: Arrangement): void {
  const { kept, chosen } = objects
  if (by === 'copy') objects.copy()
  else if (by === 'lock') set({ locked: !locked.value })
  else if (by === 'group') set({ group: objects.newGroup() })
  else if (by === 'ungroup') set({ group: null })
  else if (by === 'across' || by === 'down') objects.keep(spread(kept, chosen, by))
  else objects.keep(isOrder(by) ? reordered(kept, chosen, by) : aligned(kept, chosen, by))
}
const DEEDS: Readonly<Record<MotionDeed['kind'], MotionDeed>> = {
  comes: { kind: 'comes', how: 'fade' },
  goes: { kind: 'goes', how: 'fade' },
  path: { kind: 'path', points: [{ x: 0.3, y: 0 }], line: 'straight', turns: false },
  grows: { kind: 'grows', to: 1.5 },
  fades: { kind: 'fades', to: 0.3 },
}
/** With the step that is up, or with a click of its own where that is the slide's first. */
function animate(kind: MotionDeed['kind']): void {
  const step = props.step > 0 ? props.step : props.steps
  objects.animate(step, DEEDS[kind])
  emit('step', step)
}
const percent = (share: number): number => Math.round(share * 100)
</script>

<template>
  <div class="row" role="group" aria-label="What is chosen">
    <DraftInput
      v-if="words !== null"
      class="words"
      :model-value="words"
      placeholder="Words on it"
      aria-label="Words on it"
      maxlength="4000"
      @update:model-value="say"
    />
    <DraftInput
      v-else-if="one?.form.kind === 'picture'"
      class="words"
      :model-value="one.form.alt"
      placeholder="What it shows, for those who do not see it"
      aria-label="What the picture shows"
      maxlength="300"
      @update:model-value="say"
    />
    <el-select
      v-if="one?.form.kind !== 'picture'"
      class="narrow"
      size="small"
      :model-value="first?.colour"
      aria-label="Colour"
      @update:model-value="set({ colour: $event })"
    >
      <el-option v-for="colour in COLOURS_ON_SLIDES" :key="colour" :value="colour" :label="COLOUR_WORDS[colour]" />
    </el-select>
    <span v-if="one?.form.kind === 'text'" class="slide"
      >Letters
      <NumberSlider
        aria-label="Letters"
        :model-value="one.form.letters * 100"
        :min="LETTERS.least * 100"
        :max="20"
        :step="0.5"
        @change="form({ letters: $event / 100 })"
    /></span>
    <el-select
      v-if="one?.form.kind === 'text'"
      class="narrow"
      size="small"
      :model-value="one.form.align"
      aria-label="Lines stand"
      @update:model-value="form({ align: $event })"
    >
      <el-option v-for="align in TEXT_ALIGNS" :key="align" :value="align" :label="ALIGN_WORDS[align]" />
    </el-select>
    <el-checkbox
      v-if="one?.form.kind === 'box' || one?.form.kind === 'ellipse'"
      size="small"
      :model-value="one.form.filled"
      @update:model-value="form({ filled: $event === true })"
      >filled</el-checkbox
    >
    <template v-if="one?.form.kind === 'line' || one?.form.kind === 'arrow'">
      <button class="press small" @click="form({ slant: one.form.slant === 'falling' ? 'rising' : 'falling' })">Other slant</button>
      <button v-if="one.form.kind === 'arrow'" class="press small" @click="form({ back: !one.form.back })">Other end</button>
    </template>
    <span v-if="one !== null && 'breadth' in one.form && !('filled' in one.form && one.form.filled)" class="slide"
      >Breadth
      <NumberSlider
        aria-label="Breadth"
        :model-value="one.form.breadth * 1000"
        :min="BREADTH.least * 1000"
        :max="BREADTH.most * 1000"
        :step="1"
        @change="form({ breadth: $event / 1000 })"
    /></span>
    <span v-if="first" class="slide"
      >Covers
      <NumberSlider
        aria-label="Covers"
        :model-value="percent(first.opacity)"
        :min="0"
        :max="100"
        :step="5"
        @change="set({ opacity: $event / 100 })"
    /></span>
    <el-dropdown trigger="click" max-height="380" @command="arrange">
      <button class="press small">Arrange …</button>
      <template #dropdown
        ><el-dropdown-menu>
          <el-dropdown-item v-for="{ value, label, divided } in arrangements" :key="value" :command="value" :divided="divided">{{
            label
          }}</el-dropdown-item>
        </el-dropdown-menu></template
      >
    </el-dropdown>
    <button class="press small danger" aria-label="Take off the slide" title="Take off the slide" @click="objects.remove()">
      <Delete />
    </button>
    <el-dropdown trigger="click" @command="animate">
      <button class="press small main">It moves …</button>
      <template #dropdown
        ><el-dropdown-menu>
          <el-dropdown-item v-for="(say_, kind) in DEED_WORDS" :key="kind" :command="kind">It {{ say_ }}</el-dropdown-item>
        </el-dropdown-menu></template
      >
    </el-dropdown>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 8px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.words {
  flex: 1 1 180px;
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.narrow {
  width: 118px;
}
.slide {
  display: inline-flex;
  gap: 10px;
  align-items: center;
  padding-right: 8px;
  font-size: 13.5px;
  color: var(--soft);
}
.slide .el-slider {
  width: 70px;
}
</style>
