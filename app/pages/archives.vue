<script setup lang="ts">
import type { AccountArchive } from '@contracts'
import { api } from '~/client'
import { fileSize } from '~/words'

/** All talks of a person as archives: to keep, or to take to another server. */
const archives = ref<readonly AccountArchive[] | null>(null)
const { busy, trouble, attempt } = useAttempt()
/** How often it is looked how far they are, in ms. */
const LOOK = 1500
let timer: ReturnType<typeof setTimeout> | undefined

useHead({ title: 'All talks along · Aisle Talk' })

const isComing = ({ made }: AccountArchive): boolean => made?.state === 'queued' || made?.state === 'making'
const coming = computed(() => (archives.value ?? []).filter(isComing).length)
const ready = computed(() => (archives.value ?? []).filter(({ made }) => made?.bytes != null))
const whole = computed(() => ready.value.filter(({ made }) => made?.current === true))
const saves = computed(() => {
  if (ready.value.length === archives.value?.length) return 'Save all in one file'
  return ready.value.length === 1 ? 'Save the one that is there' : `Save these ${String(ready.value.length)} in one file`
})
const bytes = computed(() => ready.value.reduce((sum, { made }) => sum + (made?.bytes ?? 0), 0))

function show(next: readonly AccountArchive[]): void {
  archives.value = next
  clearTimeout(timer)
  if (coming.value > 0) timer = setTimeout(() => void load(), LOOK)
}
const load = (): Promise<void> =>
  attempt(async () => {
    show(await api.get<readonly AccountArchive[]>('/archives'))
  })
const make = (): Promise<void> =>
  attempt(async () => {
    show(await api.post<readonly AccountArchive[]>('/archives'))
  })
onMounted(load)
onBeforeUnmount(() => {
  clearTimeout(timer)
})

function stateOf({ made }: AccountArchive): string {
  if (made === null) return 'no archive yet'
  if (made.state === 'queued') return 'waits its turn'
  if (made.state === 'making') return `being made, ${String(Math.round(made.share * 100))} %`
  if (made.state === 'failed') return made.sentence ?? 'could not be made'
  return made.current ? fileSize(made.bytes ?? 0) : `${fileSize(made.bytes ?? 0)}, as the talk was before`
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="column">
      <h1>All talks along</h1>
      <p>
        Everything you have here, in open formats: decks, recordings as they came, edits, ink, words and finished files. Each talk is an
        archive of its own, which comes back whole on any server and opens in other programs.
      </p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <div class="wrapped">
        <button class="press" :class="{ main: whole.length < (archives?.length ?? 0) }" :disabled="busy || coming > 0" @click="make">
          {{ ready.length === 0 ? 'Make an archive of each' : 'Make those that are missing' }}
        </button>
        <a v-if="ready.length > 0" class="press" :class="{ main: whole.length === archives?.length }" href="/api/archives/all" download>
          {{ saves }}
          <span class="clock">{{ fileSize(bytes) }}</span>
        </a>
        <span v-if="coming > 0" class="soft" role="status">{{ coming }} to come; it goes on when you leave this page.</span>
      </div>
      <ul v-if="archives && archives.length > 0" class="listed">
        <li v-for="one in archives" :key="one.talk">
          <NuxtLink :to="`/talks/${one.talk}/hand-over?leaf=along`">{{ one.name }}</NuxtLink>
          <span class="soft">{{ stateOf(one) }}</span>
        </li>
      </ul>
      <p v-else-if="archives" class="soft">Talks stand here once they have slides.</p>
    </main>
  </div>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  justify-content: space-between;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
li a {
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
