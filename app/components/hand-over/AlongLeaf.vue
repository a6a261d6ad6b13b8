<script setup lang="ts">
import type { ExportKind, ExportWish } from '@contracts'
import { useTalkExports } from '~/composables/useTalkExports'
import { useTalk } from '~/stores/talk'

/** What can be taken along of a talk: for those without internet, for other programs, and for good. */
const talk = useTalk()
const { busy, trouble, ofKind, order, remove, address } = useTalkExports()
const isRecorded = computed(() => talk.index !== null)
const lines = ref<ExportWish['lines']>(720)
const deliveries = ref(false)
const make = (kind: ExportKind): Promise<void> => order({ kind, lines: lines.value, deliveries: deliveries.value })
const rowOf = (kind: ExportKind) => ({ made: ofKind(kind), busy: busy.value, address: address(kind) })
</script>

<template>
  <section class="docket-leaf">
    <h1>Take along</h1>
    <p v-if="!isRecorded" class="soft">Nothing is recorded yet: slides stand in it as long as they are planned for.</p>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <h2>For those without internet</h2>
    <AlongRow
      v-bind="rowOf('bundle')"
      name="A folder with the film"
      says="It plays from a stick in any browser: the film by its slides, captions, words to search in, viewer notes, slides as PDF."
      @make="make('bundle')"
      @remove="remove('bundle')"
    >
      <el-radio-group v-model="lines" aria-label="Lines of the film" size="small">
        <el-radio-button v-for="one in [480, 720, 1080] as const" :key="one" :value="one">{{ one }} lines</el-radio-button>
      </el-radio-group>
    </AlongRow>
    <AlongRow
      v-bind="rowOf('small-bundle')"
      name="The small form of it"
      says="Slides as pictures, ink as you drew it, and your voice, without the face: at most 4 MB for ten minutes."
      @make="make('small-bundle')"
      @remove="remove('small-bundle')"
    />
    <h2>For other programs</h2>
    <AlongRow
      v-bind="rowOf('shown')"
      name="What was shown, as PDF"
      says="Every slide with its ink and times, what was said about it, and the notes for viewers; screen readers can read it."
      @make="make('shown')"
      @remove="remove('shown')"
    />
    <AlongRow
      v-bind="rowOf('narrated-deck')"
      name="The deck with your voice in it"
      says="An office file: your voice and face on every slide, with its steps, times, ink and your notes."
      :lacks="isRecorded ? undefined : 'Record the talk first: there is no voice to put into it.'"
      @make="make('narrated-deck')"
      @remove="remove('narrated-deck')"
    />
    <h2>For good</h2>
    <AlongRow
      v-bind="rowOf('archive')"
      name="All of it, in open formats"
      says="Deck, recordings as they came, edits, ink and words. It comes back whole on any server, and opens in tools for editing films."
      @make="make('archive')"
      @remove="remove('archive')"
    >
      <el-checkbox v-if="talk.ledger.length > 0" v-model="deliveries">with the files of the ledger</el-checkbox>
    </AlongRow>
  </section>
</template>

<style scoped>
h2 {
  font-size: 18px;
  margin-top: 4px;
}
</style>
