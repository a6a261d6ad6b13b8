<script setup lang="ts">
import { List } from '@element-plus/icons-vue'
import Document from '@tiptap/extension-document'
import { Markdown } from '@tiptap/markdown'
import StarterKit from '@tiptap/starter-kit'
import { EditorContent, useEditor } from '@tiptap/vue-3'
import { plainPasted } from '~/client'

/** Words of a slide, written where they stand: in their own type and size, marked as they will be seen. They are CommonMark. */
const props = defineProps<{
  modelValue: string
  label: string
  placeholder: string
  /** One line, which Enter ends. */
  single?: boolean
  lang?: string | undefined
}>()
const emit = defineEmits<{ 'update:modelValue': [text: string]; done: [] }>()

function key(event: KeyboardEvent): boolean {
  const ends = event.key === 'Escape' || (event.key === 'Enter' && props.single === true)
  if (ends) emit('done')
  event.stopPropagation()
  return ends
}
const editor = useEditor({
  extensions: [
    StarterKit.configure({ document: false, link: false, underline: false, strike: false, horizontalRule: false, trailingNode: false }),
    Document.extend({ content: props.single === true ? 'paragraph' : 'block+' }),
    Markdown,
  ],
  content: props.modelValue,
  contentType: 'markdown',
  autofocus: 'end',
  editorProps: {
    attributes: {
      'aria-label': props.label,
      role: 'textbox',
      spellcheck: 'true',
      ...(props.lang === undefined ? {} : { lang: props.lang }),
    },
    transformPastedHTML: plainPasted,
    handleKeyDown: (_, event) => key(event),
  },
  onUpdate: ({ editor: now }) => {
    emit('update:modelValue', now.getMarkdown().trim())
  },
  onBlur: () => {
    emit('done')
  },
})
const empty = computed(() => editor.value?.isEmpty ?? false)
const on = (mark: string): boolean => editor.value?.isActive(mark) ?? false
</script>

<template>
  <div class="words">
    <EditorContent v-if="editor" class="typed" :editor="editor" />
    <span v-if="empty" class="hint" aria-hidden="true">{{ placeholder }}</span>
    <div v-if="editor" class="tools" @mousedown.prevent>
      <button
        type="button"
        class="press small"
        aria-label="Bold"
        title="Bold (Ctrl+B)"
        :aria-pressed="on('bold')"
        @click="editor.chain().focus().toggleBold().run()"
      >
        <b>B</b>
      </button>
      <button
        type="button"
        class="press small"
        aria-label="Italic"
        title="Italic (Ctrl+I)"
        :aria-pressed="on('italic')"
        @click="editor.chain().focus().toggleItalic().run()"
      >
        <i>I</i>
      </button>
      <button
        v-if="!single"
        type="button"
        class="press small"
        aria-label="Points"
        title="Points"
        :aria-pressed="on('bulletList')"
        @click="editor.chain().focus().toggleBulletList().run()"
      >
        <List />
      </button>
    </div>
  </div>
</template>

<style scoped>
.words {
  position: absolute;
}
.typed {
  min-height: 100%;
  cursor: text;
}
.typed :deep(.ProseMirror) {
  min-height: inherit;
  outline: 2px solid var(--focus);
  outline-offset: 3px;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.typed :deep(:is(p, ul, ol, blockquote, pre, h1, h2, h3)) {
  margin: 0 0 0.7em;
}
.typed :deep(:is(p, ul, ol, blockquote, pre, h1, h2, h3):last-child) {
  margin-bottom: 0;
}
/* Points stand as far apart as the painter sets them. */
.typed :deep(li + li) {
  margin-top: 0.38em;
}
.typed :deep(li p) {
  margin-bottom: 0;
}
.typed :deep(:is(ul, ol)) {
  padding-left: 1.1em;
}
.hint {
  position: absolute;
  left: 0;
  top: 0;
  opacity: 0.55;
  pointer-events: none;
}
.tools {
  position: absolute;
  right: 0;
  top: calc(100% + 8px);
  z-index: 2;
  display: flex;
  gap: 4px;
  font: 14px var(--read);
}
</style>
