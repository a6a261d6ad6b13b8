<script setup lang="ts">
import { emptyComposition, stepsOf } from '@core/compose'
import { outlineAsMarkdown } from '@core/formats'
import { clearOf } from '@core/layout'
import { LAYOUTS } from '@core/model'
import type { Composition, Layout } from '@core/model'
import { bringIn } from '~/client'
import { useNewSlide } from '~/composables/useNewSlide'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { LAYOUT_WORDS } from '~/words'

/** How an empty deck begins: a first slide by its layout, or slides from an outline. */
const talk = useTalk()
const sheet = useSheet()
const { theme, make } = useNewSlide()
const outline = ref('')
const sending = ref(false)

/** What a layout's small picture shows. */
const EXAMPLES: Readonly<Record<Layout, Partial<Composition>>> = {
  opening: { heading: 'A title', body: 'and what stands under it' },
  claim: { heading: 'One sentence, large' },
  points: { heading: 'A heading', body: '- first\n- second\n- third' },
  plate: { heading: 'A picture with its line' },
  pair: { heading: 'Two halves', body: '- on the left\n- more', second: '- on the right\n- more' },
  'plate-points': { heading: 'A picture', body: '- beside\n- text' },
  voice: { heading: 'Few words', body: 'beside a large face' },
  bare: {},
}
const layouts = computed(() =>
  LAYOUTS.flatMap((layout) => {
    const composition = { ...emptyComposition(layout, theme.value), ...EXAMPLES[layout] }
    const picture = stepsOf(composition, sheet.shape, clearOf(layout, null, sheet.shape)).at(-1)?.picture
    return picture === undefined ? [] : [{ layout, picture, ...LAYOUT_WORDS[layout] }]
  }),
)

async function read(): Promise<void> {
  if (talk.talk === null) return
  sending.value = true
  try {
    await bringIn(talk.talk.id, [new File([outlineAsMarkdown(outline.value)], 'outline.md', { type: 'text/markdown' })])
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <section class="begin" aria-label="Begin">
    <div>
      <h2>Begin with a slide</h2>
      <div class="layouts">
        <button v-for="{ layout, picture, name, hint } in layouts" :key="layout" :title="hint" @click="make(layout)">
          <SlidePicture :talk-id="talk.talk!.id" :picture="picture" alt="" />
          <span>{{ name }}</span>
        </button>
      </div>
    </div>
    <form @submit.prevent="read">
      <h2>Or paste an outline</h2>
      <el-input
        v-model="outline"
        type="textarea"
        :rows="6"
        maxlength="100000"
        aria-label="Outline"
        placeholder="A line for each slide&#10;  indented lines become its points&#10;Another slide&#10;  and what is said on it"
      />
      <button class="press main" type="submit" :disabled="sending || outline.trim() === ''">
        {{ sending ? 'Making them …' : 'Make slides of it' }}
      </button>
    </form>
    <p class="soft">Then write notes beside each slide, set where your face sits, and go on to the Lectern to rehearse and record.</p>
  </section>
</template>

<style scoped>
.begin {
  display: grid;
  gap: 20px;
  align-content: start;
  overflow-y: auto;
  padding-top: 4px;
}
h2 {
  font-size: 17px;
  margin-bottom: 8px;
}
.layouts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
  gap: 10px;
}
.layouts button {
  display: grid;
  gap: 4px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--text);
  font-size: 13.5px;
  text-align: left;
  cursor: pointer;
}
.layouts button > :first-child {
  border: 1px solid var(--line);
}
.layouts button:hover > :first-child {
  border-color: var(--brand);
}
form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
</style>
