<script setup lang="ts">
import { MoreFilled } from '@element-plus/icons-vue'
import { AS_RECORDED, sameRatio } from '@core/model'
import { piecesOfVisit } from '@core/programme'
import type { ProgrammeEdit, Visit } from '@core/programme'
import { ACCEPTED_SOUNDS, bringVoice } from '~/client'
import { thisBrowser } from '~/capture'
import { retakePath } from '~/composables/useRetakeWish'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'

/** What can be done with a whole visit. */
const props = defineProps<{ visit: Visit; title: string }>()
const comparing = ref(false)
const chooser = ref<{ readonly open: () => void } | null>(null)
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const place = computed(() => talk.visits.findIndex((one) => one.id === props.visit.id))
const pieces = computed(() => piecesOfVisit(talk.programme, props.visit))
const voiced = computed(() => pieces.value.some((piece) => piece.kind === 'recorded' && piece.voice !== null))
const changed = computed(() => pieces.value.some((piece) => piece.kind === 'recorded' && !sameRatio(piece.show.rate, AS_RECORDED)))
const FASTER = { num: 21, den: 20 }

interface Choice {
  readonly name: string
  readonly edit: ProgrammeEdit
  readonly off: boolean
}
const choices = computed<readonly Choice[]>(() => {
  const { id } = props.visit
  const at = (n: number) => talk.visits[n]?.id ?? null
  return [
    { name: 'Move up', edit: { kind: 'move', visit: id, before: at(place.value - 1) }, off: place.value === 0 },
    { name: 'Move down', edit: { kind: 'move', visit: id, before: at(place.value + 2) }, off: place.value >= talk.visits.length - 1 },
    {
      name: 'Show it once more after this',
      edit: { kind: 'repeat', visit: id, before: at(place.value + 1), name: Date.now().toString(36) },
      off: false,
    },
    { name: 'Take its voice off', edit: { kind: 'hush', visits: [id] }, off: !voiced.value },
    { name: 'Play it 5% faster', edit: { kind: 'tempo', visits: [id], rate: FASTER }, off: changed.value },
    { name: 'Play it as recorded', edit: { kind: 'tempo', visits: [id], rate: AS_RECORDED }, off: !changed.value },
    { name: 'Cut all of it', edit: { kind: 'drop', visits: [id] }, off: talk.visits.length < 2 },
  ]
})
function done(command: ProgrammeEdit | 'compare' | 'voice' | 'rest'): void {
  if (command === 'compare') comparing.value = true
  else if (command === 'voice') chooser.value?.open()
  else if (command === 'rest') void navigateTo(retakePath(talk.talk?.id ?? '', props.visit.id, 'rest'))
  else void programmeEdits.edit(command)
}
/** A voice from a file takes the place of the one that is there. */
async function brought([file]: readonly File[]): Promise<void> {
  if (file === undefined || talk.talk === null) return
  await programmeEdits.attempt(() => bringVoice(talk.talk?.id ?? '', props.visit.id, file, thisBrowser()))
}
</script>

<template>
  <el-dropdown trigger="click" :disabled="programmeEdits.busy" @command="done">
    <button class="press quiet small" :aria-label="`More for visit ${place + 1}`" title="More"><MoreFilled /></button>
    <template #dropdown>
      <el-dropdown-menu
        ><el-dropdown-item command="compare">Recordings side by side …</el-dropdown-item
        ><el-dropdown-item command="rest">Say everything again from here …</el-dropdown-item
        ><el-dropdown-item command="voice">Bring in a voice from a file …</el-dropdown-item
        ><el-dropdown-item v-for="choice in choices" :key="choice.name" :command="choice.edit" :disabled="choice.off">{{
          choice.name
        }}</el-dropdown-item></el-dropdown-menu
      >
    </template>
  </el-dropdown>
  <FileChooser ref="chooser" :accept="ACCEPTED_SOUNDS" :aria-label="`A voice for ${title}`" @files="brought" />
  <SlideRecordings v-model="comparing" :visit="visit" :title="title" />
</template>
