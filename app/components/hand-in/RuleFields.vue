<script setup lang="ts">
import { faultyFields, fieldInWords } from '@core/rules'
import type { Rules } from '@core/rules'
import type { HandInView } from '@contracts'
import { useTalk } from '~/stores/talk'

/** What is asked besides the file: fields, and a slide for the cover. */
const props = defineProps<{ rules: Rules; view: HandInView }>()
const emit = defineEmits<{ fill: [filled: { readonly fields?: Record<string, string>; readonly cover?: string | null }] }>()
const talk = useTalk()
const root = ref<HTMLElement | null>(null)
const faulty = computed(() => new Set(faultyFields(props.rules, props.view.fields).map(({ key }) => key)))
const cover = computed({
  get: () => talk.slides.find(({ id }) => id === props.view.cover)?.id ?? talk.slides[0]?.id ?? '',
  set: (slide: string) => {
    emit('fill', { cover: slide })
  },
})
const chosen = computed(() => talk.slides.find(({ id }) => id === cover.value)?.steps.at(-1)?.picture ?? null)
function set(key: string, text: string): void {
  emit('fill', { fields: { ...props.view.fields, [key]: text.trim() } })
}
defineExpose({
  /** Goes to the first field that is still to be filled in. */
  focus: (what: 'fields' | 'cover'): void => {
    const wanted = what === 'cover' ? '.cover input' : 'input[aria-invalid="true"]'
    root.value?.querySelector<HTMLElement>(wanted)?.focus()
  },
})
</script>

<template>
  <div v-if="(rules.fields ?? []).length > 0 || rules.cover" ref="root" class="fields">
    <label v-for="field in rules.fields ?? []" :key="field.key">
      <span>{{ field.label }}<span v-if="field.optional" class="soft"> (if you like)</span></span>
      <DraftInput
        :model-value="view.fields[field.key] ?? ''"
        maxlength="80"
        :placeholder="fieldInWords(field)"
        :aria-invalid="faulty.has(field.key)"
        @update:model-value="set(field.key, $event)"
      />
    </label>
    <label v-if="rules.cover && talk.slides.length > 0" class="cover">
      <span>Cover</span>
      <span class="pair">
        <SlidePicture v-if="chosen && talk.talk" :talk-id="talk.talk.id" :picture="chosen" alt="" class="small-picture" />
        <el-select v-model="cover" aria-label="Slide for the cover">
          <el-option v-for="(slide, n) in talk.slides" :key="slide.id" :value="slide.id" :label="`${n + 1}  ${slide.title}`" />
        </el-select>
      </span>
    </label>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 14px 20px;
  width: 100%;
}
label {
  display: grid;
  gap: 4px;
  align-content: start;
  font-weight: 600;
}
input {
  width: 100%;
  min-height: 34px;
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: inherit;
  font-weight: 400;
}
input[aria-invalid='true'] {
  border-color: var(--accent);
}
.cover :deep(.el-select) {
  font-weight: 400;
}
.pair {
  display: flex;
  gap: 10px;
  align-items: center;
}
.small-picture {
  width: 62px;
  flex: none;
}
</style>
