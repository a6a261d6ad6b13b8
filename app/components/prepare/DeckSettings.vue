<script setup lang="ts">
import { SHAPES } from '@core/model'
import type { Size } from '@core/model'
import { useTalk } from '~/stores/talk'
import { languageName } from '~/words'

/** The deck's shape and the talk's language. */
const talk = useTalk()
const USUAL = [
  'en',
  'de',
  'fr',
  'es',
  'it',
  'nl',
  'pt',
  'pl',
  'sv',
  'da',
  'nb',
  'fi',
  'cs',
  'tr',
  'el',
  'uk',
  'ar',
  'he',
  'hi',
  'ja',
  'zh',
  'ko',
  'th',
]
/** Those that are usual, and the one that is set. */
const languages = computed(() => [...new Set([...USUAL, talk.talk?.language ?? 'en'])])
const say = (shape: Size): string => `${String(shape.width)}:${String(shape.height)}`
const shapes = computed(() => {
  const now = talk.talk?.shape ?? { width: 16, height: 9 }
  return SHAPES.some((shape) => say(shape) === say(now)) ? SHAPES : [now, ...SHAPES]
})
const trouble = ref<string | null>(null)

function setShape(text: string): void {
  const match = /^\s*(\d{1,5})\s*[:x×/]\s*(\d{1,5})\s*$/.exec(text)
  const shape = { width: Number(match?.[1] ?? 0), height: Number(match?.[2] ?? 0) }
  const ratio = shape.width / shape.height
  trouble.value = ratio > 0.2 && ratio < 5 ? null : 'Two numbers, such as 16:10, neither five times the other.'
  if (trouble.value === null && say(shape) !== say(talk.talk?.shape ?? shape)) talk.edit({ kind: 'shape', shape })
}
function setLanguage(tag: string): void {
  if (/^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/.test(tag)) void talk.change({ language: tag })
}
</script>

<template>
  <template v-if="talk.talk">
    <el-tooltip :visible="trouble !== null" :content="trouble ?? ''" placement="bottom">
      <el-select
        :model-value="say(talk.talk.shape)"
        filterable
        allow-create
        size="small"
        class="shape"
        aria-label="Shape of the slides"
        title="Shape of the slides"
        @update:model-value="setShape"
      >
        <template #prefix>Shape</template>
        <el-option v-for="shape in shapes" :key="say(shape)" :value="say(shape)" :label="say(shape)" />
      </el-select>
    </el-tooltip>
    <el-select
      :model-value="talk.talk.language"
      filterable
      allow-create
      size="small"
      class="language"
      aria-label="Language of the talk"
      title="Language of the talk"
      @update:model-value="setLanguage"
    >
      <template #prefix>In</template>
      <el-option v-for="tag in languages" :key="tag" :value="tag" :label="languageName(tag)" />
    </el-select>
  </template>
</template>

<style scoped>
.shape {
  width: 116px;
}
.language {
  width: 124px;
}
</style>
