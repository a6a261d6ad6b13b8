<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { LAYOUTS, REVEALS, THEMES, TRANSITIONS, asId } from '@core/model'
import type { Composition, Slide, Transition } from '@core/model'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { usePageCode } from '~/composables/usePageCode'
import { LAYOUT_WORDS, REVEAL_WORDS, THEME_WORDS, TRANSITION_WORDS } from '~/words'

/** What a slide is made of and how it comes. */
const props = defineProps<{ slide: Slide; step: number }>()
const talk = useTalk()
const sheet = useSheet()
const compose = (fields: Partial<Composition>): void => {
  if (props.slide.composition !== null)
    talk.edit({ kind: 'set', slides: [props.slide.id], fields: { composition: { ...props.slide.composition, ...fields } } })
}
const setOptional = (optional: boolean): void => {
  talk.edit({ kind: 'set', slides: sheet.concerned.map((slide) => slide.id), fields: { optional } })
}
const setTransition = (transition: Transition): void => {
  talk.edit({ kind: 'set', slides: sheet.concerned.map((slide) => slide.id), fields: { transition } })
}
/** A theme is the deck's: changing it changes every slide that was made here. */
function setTheme(theme: Composition['theme']): void {
  talk.edit({
    kind: 'all',
    edits: talk.slides.flatMap((slide) =>
      slide.composition === null
        ? []
        : [{ kind: 'set' as const, slides: [slide.id], fields: { composition: { ...slide.composition, theme } } }],
    ),
  })
}
function setAlt(at: number, alt: string): void {
  compose({ pictures: props.slide.composition?.pictures.map((picture, n) => (n === at ? { ...picture, alt } : picture)) ?? [] })
}
const removePicture = (at: number): void => {
  compose({ pictures: props.slide.composition?.pictures.filter((_, n) => n !== at) ?? [] })
}
const describe = (description: string): void => {
  talk.edit({ kind: 'set', slides: [props.slide.id], fields: { description } })
}
const { ready: codeReady, there: coded, making, put: putCode } = usePageCode(() => props.slide)
const codeWords = computed(() => {
  if (making.value) return 'One moment …'
  return coded.value ? 'Have the code lead to the page as it is now' : 'Put a code to scan on it, for the page'
})
const setSection = (section: string): void => {
  talk.edit({ kind: 'set', slides: [props.slide.id], fields: { section: section.trim() } })
}
const split = (): void => {
  talk.edit({ kind: 'split', slide: props.slide.id, keep: props.step, as: asId<'slide'>(crypto.randomUUID()) })
}
</script>

<template>
  <div class="settings">
    <template v-if="slide.composition">
      <label
        >Layout
        <el-select
          :model-value="slide.composition.layout"
          aria-label="Layout"
          size="small"
          @update:model-value="compose({ layout: $event })"
        >
          <el-option v-for="one in LAYOUTS" :key="one" :value="one" :label="LAYOUT_WORDS[one].name" />
        </el-select>
      </label>
      <label
        >Theme, of all slides made here
        <el-select :model-value="slide.composition.theme" aria-label="Theme" size="small" @update:model-value="setTheme">
          <el-option v-for="one in THEMES" :key="one" :value="one" :label="THEME_WORDS[one]" />
        </el-select>
      </label>
      <label
        >Points and pictures come
        <el-select
          :model-value="slide.composition.reveal"
          aria-label="How points come"
          size="small"
          @update:model-value="compose({ reveal: $event })"
        >
          <el-option v-for="one in REVEALS" :key="one" :value="one" :label="REVEAL_WORDS[one]" />
        </el-select>
      </label>
    </template>
    <label
      >This slide comes
      <el-select :model-value="slide.transition" aria-label="How this slide comes" size="small" @update:model-value="setTransition">
        <el-option v-for="one in TRANSITIONS" :key="one" :value="one" :label="TRANSITION_WORDS[one]" />
      </el-select>
    </label>
    <label
      >A part begins here, called
      <DraftInput
        class="heading"
        :model-value="slide.section"
        placeholder="No heading above it"
        aria-label="Heading of the part that begins here"
        maxlength="120"
        @update:model-value="setSection"
      />
    </label>
    <el-checkbox class="optional" :model-value="slide.optional" size="small" @update:model-value="setOptional($event === true)"
      >May go when the talk is too long</el-checkbox
    >
  </div>
  <button v-if="codeReady" class="press small split" :disabled="making" @click="putCode">
    {{ codeWords }}
  </button>
  <ul v-if="slide.composition && slide.composition.pictures.length > 0" class="pictures" aria-label="Pictures on this slide">
    <li v-for="(picture, n) in slide.composition.pictures" :key="`${n}-${picture.asset}`">
      <span class="soft clock">{{ picture.size.width }}×{{ picture.size.height }}</span>
      <DraftInput
        :model-value="picture.alt"
        placeholder="What it shows, for those who do not see it"
        :aria-label="`What picture ${n + 1} shows`"
        maxlength="300"
        @update:model-value="setAlt(n, $event)"
      />
      <button class="press quiet small" :aria-label="`Take picture ${n + 1} off`" @click="removePicture(n)"><Delete /></button>
    </li>
  </ul>
  <label class="shows"
    >What it shows, for those who do not see it
    <el-input
      type="textarea"
      :autosize="{ minRows: 2, maxRows: 6 }"
      :model-value="slide.description"
      :lang="talk.talk?.language"
      maxlength="4000"
      :placeholder="
        slide.composition
          ? 'What its pictures say of themselves, or your own words'
          : 'The graph, the map, the photograph, in a sentence or two'
      "
      @change="describe(String($event))"
    />
  </label>
  <button v-if="slide.composition === null && step > 0" class="press small split" @click="split">
    {{
      step + 1 === slide.steps.length
        ? `Make step ${step + 1} a slide of its own`
        : `Make steps ${step + 1} to ${slide.steps.length} a slide of their own`
    }}
  </button>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
}
label {
  display: grid;
  gap: 3px;
  font-size: 14px;
  color: var(--soft);
}
.optional {
  display: inline-flex;
  align-self: end;
}
.pictures {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.pictures li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 8px;
  align-items: center;
  font-size: 13.5px;
}
.heading,
.pictures input {
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.split {
  align-self: start;
}
</style>
