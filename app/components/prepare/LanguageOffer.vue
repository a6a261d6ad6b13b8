<script setup lang="ts">
import { useLocalStorage, watchDebounced } from '@vueuse/core'
import { useTalk } from '~/stores/talk'
import { languageName } from '~/words'

/** The language that the notes are written in, where another one is set. */
const talk = useTalk()
/** What was recognised and left, by talk. */
const left = useLocalStorage<Record<string, string>>('aisle-language-left', {})
const recognised = ref<string | null>(null)
const notes = computed(() => talk.slides.map((slide) => slide.notes).join('\n'))
/** What an office file said of itself that was brought last. */
const said = computed(() => talk.talk?.imports.find((one) => one.state === 'done')?.reports.at(-1)?.language ?? '')

watchDebounced(
  [notes, said] as const,
  async ([text, tag]) => {
    // Its tables are loaded when there is something to read.
    const { languageOf, primaryOf } = await import('@core/language')
    const found = languageOf(text) ?? (tag === '' ? null : primaryOf(tag))
    recognised.value = found !== null && talk.talk !== null && found !== primaryOf(talk.talk.language) ? found : null
  },
  { debounce: 800, immediate: true },
)
watch(
  () => talk.talk?.language,
  () => {
    recognised.value = null
  },
)

const offered = computed(() =>
  talk.talk !== null && recognised.value !== null && left.value[talk.talk.id] !== recognised.value ? recognised.value : null,
)
function leave(): void {
  if (talk.talk !== null && recognised.value !== null) left.value = { ...left.value, [talk.talk.id]: recognised.value }
}
</script>

<template>
  <div v-if="offered && talk.talk" class="notice offer" role="status">
    <p>
      This deck seems to be in <b>{{ languageName(offered) }}</b>; the talk is set to {{ languageName(talk.talk.language) }}.
    </p>
    <button class="press main small" @click="talk.change({ language: offered })">Set {{ languageName(offered) }}</button>
    <button class="press small" @click="leave">Leave it</button>
  </div>
</template>

<style scoped>
.offer {
  margin: 12px;
}
</style>
