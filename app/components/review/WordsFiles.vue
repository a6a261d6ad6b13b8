<script setup lang="ts">
import { CAPTION_KINDS, TRANSCRIPT_KINDS } from '@contracts'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'
import { CAPTION_NAMES, TRANSCRIPT_NAMES } from '~/words'

/** What is said as files: captions and transcripts to take along, and a caption file to bring in. */
const talk = useTalk()
const said = useSaid()
const chooser = ref<{ readonly open: () => void } | null>(null)
const outcome = ref<string | null>(null)
const tidied = ref(true)
const pictures = ref(false)
const base = computed(() => `/api/talks/${talk.talk?.id ?? ''}/words`)
const hasVoice = computed(() => talk.programme.pieces.some((piece) => piece.kind === 'recorded' && piece.voice !== null))

async function read([file]: readonly File[]): Promise<void> {
  if (file !== undefined) outcome.value = await said.bringIn(file)
}
async function takeBack(): Promise<void> {
  outcome.value = null
  await said.takeBroughtBack()
}
</script>

<template>
  <div class="files">
    <template v-if="said.words.length > 0">
      <p class="wrapped">
        <span>Transcript:</span>
        <a
          v-for="kind in TRANSCRIPT_KINDS"
          :key="kind"
          class="press quiet small"
          :href="`${base}/transcript?kind=${kind}&tidied=${tidied}&pictures=${pictures}`"
          >{{ TRANSCRIPT_NAMES[kind] }}</a
        >
        <el-checkbox v-model="tidied">without fillers</el-checkbox>
        <el-checkbox v-model="pictures">with slides</el-checkbox>
      </p>
    </template>
    <p v-if="hasVoice" class="wrapped">
      <span>Captions:</span>
      <template v-if="said.words.length > 0">
        <a v-for="kind in CAPTION_KINDS" :key="kind" class="press quiet small" :href="`${base}/captions?kind=${kind}`">{{
          CAPTION_NAMES[kind]
        }}</a>
      </template>
      <button class="press quiet small" :disabled="said.busy" @click="chooser?.open()">Bring in a caption file …</button>
      <FileChooser ref="chooser" accept=".vtt,.srt,text/vtt,application/x-subrip" aria-label="Caption file" @files="read" />
    </p>
    <p v-if="outcome" class="soft" role="status">{{ outcome }}</p>
    <p v-if="said.brought > 0" class="wrapped">
      <span>{{ said.brought === 1 ? 'One place is' : `${said.brought} places are` }} as a caption file says.</span>
      <button class="press quiet small" :disabled="said.busy" @click="takeBack">Take that back</button>
    </p>
  </div>
</template>

<style scoped>
.files {
  display: grid;
  gap: 10px;
}
</style>
