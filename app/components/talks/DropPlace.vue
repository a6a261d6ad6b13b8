<script setup lang="ts">
import { UploadFilled } from '@element-plus/icons-vue'
import { ACCEPTED } from '~/client'

/** A place for files: dropped, or chosen after a click. */
defineProps<{ title: string; hint: string; slim?: boolean }>()
const emit = defineEmits<{ files: [files: readonly File[]] }>()

const over = ref(false)
const chooser = ref<{ readonly open: () => void } | null>(null)

function dropped(event: DragEvent): void {
  over.value = false
  const files = [...(event.dataTransfer?.files ?? [])]
  if (files.length > 0) emit('files', files)
}
</script>

<template>
  <button
    type="button"
    class="drop"
    :class="{ over, slim }"
    @click="chooser?.open()"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="dropped"
  >
    <UploadFilled aria-hidden="true" />
    <span
      ><b>{{ title }}</b
      ><span class="soft">{{ hint }}</span></span
    >
    <FileChooser ref="chooser" multiple :accept="ACCEPTED" @click.stop @files="$emit('files', $event)" />
  </button>
</template>

<style scoped>
.drop {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 16px;
  width: 100%;
  min-height: 104px;
  padding: 16px;
  border: 2px dashed color-mix(in srgb, var(--brand) 45%, var(--line));
  border-radius: 6px;
  background: transparent;
  cursor: pointer;
  text-align: left;
}
.drop svg {
  width: 34px;
  height: 34px;
  color: var(--brand);
  flex: none;
}
.drop span {
  display: grid;
}
.drop b {
  font-size: 17px;
}
.drop:hover,
.drop.over {
  background: var(--brand-wash);
}
.drop.slim {
  min-height: 56px;
  padding: 8px 16px;
}
.drop.slim b {
  font-size: 15px;
}
.drop.slim svg {
  width: 24px;
  height: 24px;
}
</style>
