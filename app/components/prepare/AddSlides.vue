<script setup lang="ts">
import { Plus } from '@element-plus/icons-vue'
import { LAYOUTS } from '@core/model'
import { ACCEPTED, bringIn, bringReplacement } from '~/client'
import { useNewSlide } from '~/composables/useNewSlide'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'
import { LAYOUT_WORDS } from '~/words'

/** Slides that are put in after the one that is open: made here, out of files, or copied from another talk. */
const talk = useTalk()
const copying = ref(false)
const chooser = ref<{ readonly open: () => void } | null>(null)
const replacer = ref<{ readonly open: () => void } | null>(null)

const { after, make } = useNewSlide()
const sheet = useSheet()
const reported = computed(() => (talk.talk?.imports ?? []).filter((one) => one.reports.length > 0))

async function bring(files: readonly File[], how: (talk: string, files: readonly File[]) => Promise<void>): Promise<void> {
  if (talk.talk === null) return
  try {
    await how(talk.talk.id, files)
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  }
}

async function putIn(id: string, files: readonly File[]): Promise<void> {
  await bringIn(id, files, after.value)
}

function choose(command: string): void {
  if (command === 'files') chooser.value?.open()
  else if (command === 'replace') replacer.value?.open()
  else if (command === 'copy') copying.value = true
  else if (reported.value.some(({ id }) => id === command)) sheet.report = command
  else {
    const layout = LAYOUTS.find((one) => one === command)
    if (layout !== undefined) make(layout)
  }
}
</script>

<template>
  <el-dropdown trigger="click" @command="choose">
    <button class="press small" :title="after === 0 ? 'At the beginning' : `After slide ${String(after)}`"><Plus />Add a slide</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="layout in LAYOUTS" :key="layout" :command="layout">
          <span class="option"
            ><b>{{ LAYOUT_WORDS[layout].name }}</b
            ><span class="soft">{{ LAYOUT_WORDS[layout].hint }}</span></span
          >
        </el-dropdown-item>
        <el-dropdown-item command="files" divided
          ><span class="option"
            ><b>From files …</b
            ><span class="soft">{{ after === 0 ? 'at the beginning' : `put in after slide ${String(after)}` }}</span></span
          ></el-dropdown-item
        >
        <el-dropdown-item v-if="!talk.isGuests" command="copy"
          ><span class="option"><b>From another talk …</b><span class="soft">with notes and times</span></span></el-dropdown-item
        >
        <el-dropdown-item v-if="talk.slides.length > 0" command="replace" divided
          ><span class="option"
            ><b>Replace the deck …</b><span class="soft">by a newer one; recordings follow their slides</span></span
          ></el-dropdown-item
        >
        <el-dropdown-item v-for="one in reported" :key="one.id" :command="one.id" divided
          ><span class="option"
            ><b>What came in</b><span class="soft file">of {{ one.name }}</span></span
          ></el-dropdown-item
        >
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <FileChooser ref="chooser" multiple :accept="ACCEPTED" aria-label="Files to put in" @files="bring($event, putIn)" />
  <FileChooser ref="replacer" multiple :accept="ACCEPTED" aria-label="The newer deck" @files="bring($event, bringReplacement)" />
  <CopySlides v-if="copying" :at="after" @close="copying = false" />
</template>

<style scoped>
.option {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.option b {
  min-width: 112px;
}
/* Long names are cut, with the whole in the report itself. */
.file {
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.option .soft {
  font-size: 13px;
}
</style>
