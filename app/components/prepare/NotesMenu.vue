<script setup lang="ts">
import type { DeckEdit } from '@core/deck'
import { readNotesFile } from '@core/formats'
import { useTalk } from '~/stores/talk'

/** Notes in and out: from a text file onto the slides, as Markdown, as a handout. */
const talk = useTalk()
const chooser = ref<{ readonly open: () => void } | null>(null)
const said = ref<string | null>(null)
const out = (path: string): string => `/api/talks/${talk.talk?.id ?? ''}/${path}`

/** Longest file of notes that is read, in bytes. */
const MOST = 2_000_000

async function read([file]: readonly File[]): Promise<void> {
  if (file === undefined) return
  const blocks = file.size > MOST ? [] : readNotesFile(await file.text())
  if (blocks.length === 0) {
    said.value =
      file.size > MOST
        ? `“${file.name}” is too long for notes. Nothing was changed.`
        : `“${file.name}” holds no notes. Nothing was changed.`
    return
  }
  const edits = blocks.slice(0, talk.slides.length).flatMap((notes, n): DeckEdit[] => {
    const slide = talk.slides[n]
    return slide === undefined || notes === '' ? [] : [{ kind: 'set', slides: [slide.id], fields: { notes } }]
  })
  talk.edit({ kind: 'all', edits })
  const rest = blocks.length - talk.slides.length
  said.value =
    rest > 0
      ? `Notes were put on all ${String(talk.slides.length)} slides; the last ${String(rest)} blocks of “${file.name}” had no ` +
        `slide and were left out.`
      : `Notes were put on the first ${String(blocks.length)} slides. Undo takes it back.`
}

function choose(command: string): void {
  if (command === 'read') chooser.value?.open()
  else window.location.assign(out(command))
}
</script>

<template>
  <el-dropdown trigger="click" @command="choose">
    <button class="press quiet small">Notes</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item command="read">Put notes on the slides from a text file …</el-dropdown-item>
        <el-dropdown-item command="notes.md?kind=notes" divided>Your notes as Markdown</el-dropdown-item>
        <el-dropdown-item command="handout.pdf?kind=notes">Slides with your notes as PDF</el-dropdown-item>
        <el-dropdown-item command="notes.md?kind=viewerNotes" divided>Viewer notes as Markdown</el-dropdown-item>
        <el-dropdown-item command="handout.pdf?kind=viewerNotes">Handout for viewers as PDF</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <FileChooser ref="chooser" accept=".txt,.md,text/plain,text/markdown" aria-label="File of notes" @files="read" />
  <el-dialog :model-value="said !== null" title="Notes from a file" width="460" append-to-body @close="said = null">
    <p>{{ said }}</p>
    <template #footer><button class="press main" @click="said = null">Good</button></template>
  </el-dialog>
</template>
