<script setup lang="ts">
import type { Ms } from '@core/model'
import { plainLetters } from '@core/screening'
import type { FilmWord } from '@core/words'
import { useSaid } from '~/stores/said'
import { preciseDuration } from '~/words'

/** What is said: how far it was listened to, words that are found or doubtful, names, and what can be taken along of it. */
const props = defineProps<{ at: Ms }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const said = useSaid()
const wanted = ref('')
const terms = ref('')

const failed = computed(() => said.view?.stretches.filter(({ sentence }) => sentence !== null) ?? [])
const by = computed(() => new Set(said.view?.stretches.map((one) => one.by)))
/** So many places are listed at most, each with so many words before it. */
const MOST_FOUND = 60
const BEFORE = 4
const plain = computed(() => said.words.map(({ text }) => plainLetters(text)))
const textOf = (words: readonly FilmWord[]): string => words.map(({ text }) => text).join(' ')
/** Places at which what is sought is said: in a word, or in as many words as it has. */
const found = computed(() => {
  const sought = plainLetters(wanted.value.trim())
  if (sought === '') return []
  const { length } = sought.split(' ')
  const places: number[] = []
  for (let n = 0; n < plain.value.length && places.length < MOST_FOUND; n += 1) {
    const words = plain.value.slice(n, n + length)
    if (!words.join(' ').includes(sought)) continue
    places.push(n)
    n += length - 1
  }
  return places.map((n) => ({
    n,
    at: said.words[n]?.from ?? 0,
    before: textOf(said.words.slice(Math.max(0, n - BEFORE), n)),
    words: textOf(said.words.slice(n, n + length)),
  }))
})
function nextDoubtful(): void {
  const next = said.doubtful.find(({ from }) => from > props.at + 1) ?? said.doubtful[0]
  if (next !== undefined) emit('go', next.from)
}
watch(
  () => said.view?.terms,
  (list) => {
    terms.value = list?.join('\n') ?? ''
  },
  { immediate: true },
)
const saveTerms = (): Promise<boolean> =>
  said.setTerms(
    terms.value
      .split('\n')
      .map((term) => term.trim())
      .filter((term) => term !== ''),
  )
</script>

<template>
  <section class="panel" aria-label="Words">
    <p v-if="said.trouble" class="notice bad" role="alert">{{ said.trouble }}</p>
    <p v-if="said.view && said.view.waiting > 0" class="soft" role="status">
      {{ said.view.waiting === 1 ? 'One recording waits' : `${said.view.waiting} recordings wait` }} to be listened to: that is done while
      nothing else needs this machine.
    </p>
    <p v-for="one in failed" :key="one.stretch" class="soft">{{ one.sentence }}</p>
    <p class="wrapped">
      <button class="press small" :disabled="said.busy" @click="said.listen()">
        {{ said.words.length === 0 ? 'Listen to it now' : 'Listen again' }}
      </button>
      <button v-if="said.doubtful.length > 0" class="press small" @click="nextDoubtful">
        Next doubtful word ({{ said.doubtful.length }})
      </button>
      <el-checkbox v-if="said.words.length > 0" v-model="said.captioned">Captions on the picture</el-checkbox>
    </p>
    <CaptionLook v-if="said.captioned && said.words.length > 0" />
    <template v-if="said.words.length > 0">
      <el-input v-model="wanted" clearable placeholder="Find in what is said" aria-label="Find in what is said" />
      <ul v-if="found.length > 0" class="listed short">
        <li v-for="hit in found" :key="hit.n">
          <button class="press quiet small" @click="emit('go', hit.at)">
            <span class="clock">{{ preciseDuration(hit.at) }}</span></button
          ><span class="soft">{{ hit.before }} </span><b>{{ hit.words }}</b>
        </li>
      </ul>
      <p v-else-if="wanted.trim() !== ''" class="soft">That is not said.</p>
      <p v-if="said.everywhere" class="notice">
        <span>“{{ said.everywhere.from }}” is said {{ said.everywhere.places }} more times.</span
        ><button class="press small" @click="said.correctEverywhere()">“{{ said.everywhere.to }}” there too</button
        ><button class="press quiet small" @click="said.everywhere = null">No</button>
      </p>
    </template>
    <WordsFiles />
    <p v-if="by.has('pauses')" class="soft">Nothing here understands this language: the notes are laid on the voice by its pauses.</p>
    <p v-else-if="by.has('folder')" class="soft">Heard by the model that this server’s operator chose, and laid on your notes.</p>
    <p v-else-if="by.has('model')" class="soft">Heard on this server, with your notes and terms in mind.</p>
    <label class="terms"
      >Names and terms that are said, a line each; they are listened for
      <el-input v-model="terms" type="textarea" :autosize="{ minRows: 2, maxRows: 6 }" @change="saveTerms" />
    </label>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
}
.terms {
  display: grid;
  gap: 4px;
}
</style>
