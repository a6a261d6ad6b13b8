<script setup lang="ts">
import type { SpellingView } from '@contracts'
import { api } from '~/client'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'

/** Words that no dictionary knows: each leads to its slide, and those that are right become the talk's own. */
const talk = useTalk()
const said = useSaid()
const found = shallowRef<SpellingView | null>(null)
const words = computed(() => found.value?.words ?? [])
const say = computed(() =>
  words.value.length === 1 ? 'A word is in no dictionary' : `${String(words.value.length)} words are in no dictionary`,
)
const places = computed(() =>
  words.value.map(({ word, slides: [slide], instead }) => ({
    name: `“${word}”`,
    to: `/talks/${talk.talk?.id ?? ''}/prepare?slide=${slide ?? ''}`,
    ...(instead.length === 0 ? {} : { title: `Perhaps ${instead.join(', ')}` }),
  })),
)

async function load(): Promise<void> {
  if (talk.talk !== null) found.value = await api.get<SpellingView>(`/talks/${talk.talk.id}/spelling`)
}
watch(
  () => [talk.talk?.id, talk.talk?.revision, talk.wordsVersion],
  () => void load().catch(reportError),
  { immediate: true },
)
const keep = (): Promise<boolean> => said.setTerms([...(said.view?.terms ?? []), ...words.value.map(({ word }) => word)])
</script>

<template>
  <CheckRow v-if="words.length > 0" :say="say" :places="places">
    <button
      class="press quiet small"
      title="They are left alone from now on, and offered where words are put right"
      :disabled="said.busy || said.view === null"
      @click="keep"
    >
      {{ words.length === 1 ? 'It is right' : 'They are right' }}
    </button>
  </CheckRow>
</template>
