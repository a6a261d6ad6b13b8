<script setup lang="ts">
import { useDropZone } from '@vueuse/core'
import { useWithTheTalk } from '~/composables/useWithTheTalk'
import { useTalk } from '~/stores/talk'
import { fileSize } from '~/words'

/** Files and links that those who watch find with the talk. */
const props = defineProps<{ talkId: string }>()
const { files, links, trouble, coming, load, add, remove, change } = useWithTheTalk(() => props.talkId)
const talk = useTalk()
// Another page may have changed them.
watch([() => props.talkId, () => talk.asked], load, { immediate: true })

const place = ref<HTMLElement | null>(null)
const chooser = ref<{ readonly open: () => void } | null>(null)
const { isOverDropZone } = useDropZone(place, (dropped) => void add(dropped ?? []))
</script>

<template>
  <section ref="place" class="with" :class="{ over: isOverDropZone }" aria-labelledby="with-title">
    <h2 id="with-title">With the talk</h2>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <div class="part">
      <h3>Files</h3>
      <ul v-if="files.length > 0">
        <li v-for="file in files" :key="file.id">
          <span class="name">{{ file.name }}</span><span class="soft clock">{{ fileSize(file.bytes) }}</span>
          <button class="press quiet small" :aria-label="`Take ${file.name} away`" @click="remove(file)">Take away</button>
        </li>
      </ul>
      <p v-else class="soft">Worksheets, data, a paper: whoever watches can take them along. Drop them here.</p>
      <div class="row">
        <button class="press small" @click="chooser?.open()">Add files</button>
        <span v-if="coming > 0" class="soft" role="status">{{ coming === 1 ? 'A file is' : `${coming} files are` }} on the way …</span>
        <FileChooser ref="chooser" multiple @files="add" />
      </div>
    </div>
    <div class="part">
      <h3>Links</h3>
      <p v-if="links.length === 0" class="soft">
        What you point to while you speak. With times, a link stands beside the film for as long; all are listed below it.
      </p>
      <LinkRows :links="links" @change="change" />
    </div>
  </section>
</template>

<style scoped>
.with {
  display: grid;
  gap: 14px;
  padding: 22px 26px;
  border: 1px solid var(--line);
  background: var(--card);
}
.over {
  outline: 2px dashed var(--brand);
  outline-offset: -8px;
}
h2 {
  font-size: 19px;
}
h3 {
  font-size: 16px;
}
.part {
  display: grid;
  gap: 8px;
}
ul {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 14px;
  align-items: center;
  min-height: 32px;
}
.name {
  overflow-wrap: anywhere;
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
