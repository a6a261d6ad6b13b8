<script setup lang="ts">
import { pauseMark } from '@core/markup'

/** A slide's words, written where they stand: grows with them, and offers bold, italic and a pause while it is written in. */
const text = defineModel<string>({ required: true })
defineProps<{ label: string; hint: string; language: string; pause?: boolean }>()

const place = ref<HTMLElement | null>(null)
const field = (): HTMLTextAreaElement | null => place.value?.querySelector('textarea') ?? null

/** Puts something round what is selected, or in where the cursor is, and leaves the cursor behind it. */
function put(before: string, after: string): void {
  const area = field()
  if (area === null) return
  const { selectionStart: from, selectionEnd: to, value } = area
  text.value = value.slice(0, from) + before + value.slice(from, to) + after + value.slice(to)
  void nextTick(() => {
    area.focus()
    area.setSelectionRange(from + before.length, to + before.length)
  })
}
const bold = (): void => {
  put('**', '**')
}
const italic = (): void => {
  put('*', '*')
}
const addPause = (): void => {
  const area = field()
  const spaced = area !== null && area.selectionStart > 0 && !/\s$/.test(area.value.slice(0, area.selectionStart)) ? ' ' : ''
  put(`${spaced}${pauseMark()} `, '')
}
</script>

<template>
  <div ref="place" class="field">
    <el-input
      v-model="text"
      class="notes"
      type="textarea"
      :autosize="{ minRows: 1 }"
      resize="none"
      :maxlength="20000"
      :placeholder="hint"
      :aria-label="label"
      :lang="language"
      spellcheck="true"
      @keydown.ctrl.b.prevent="bold"
      @keydown.meta.b.prevent="bold"
      @keydown.ctrl.i.prevent="italic"
      @keydown.meta.i.prevent="italic"
    />
    <div class="tools">
      <button type="button" class="press quiet small" title="Bold (Ctrl+B)" aria-label="Bold" @mousedown.prevent @click="bold">
        <b>B</b>
      </button>
      <button type="button" class="press quiet small" title="Italic (Ctrl+I)" aria-label="Italic" @mousedown.prevent @click="italic">
        <i>I</i>
      </button>
      <button
        v-if="pause"
        type="button"
        class="press quiet small"
        title="A pause of two seconds; [pause 5] makes five"
        @mousedown.prevent
        @click="addPause"
      >
        Pause
      </button>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.field {
  position: relative;
}
.notes :deep(textarea) {
  box-shadow: none;
  background: transparent;
  padding: 2px 8px;
  line-height: 1.5;
  border-radius: 4px;
}
.notes :deep(textarea:hover) {
  box-shadow: 0 0 0 1px var(--line);
}
.notes :deep(textarea:focus-visible) {
  outline: 2px solid var(--focus);
}
.tools {
  position: absolute;
  z-index: 3;
  left: 8px;
  right: 0;
  top: 100%;
  display: none;
  align-items: center;
  gap: 2px;
  padding: 2px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.field:focus-within .tools {
  display: flex;
}
.tools .press {
  min-height: 24px;
}
</style>
