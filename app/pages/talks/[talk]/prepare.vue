<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { bringIn } from '~/client'
import { useTalk } from '~/stores/talk'

const talk = useTalk()
const sending = ref(false)
const route = useRoute()
// A slide that something leads to.
watch(
  () => [route.query['slide'], talk.slides.length > 0] as const,
  ([named]) => {
    const slide = talk.slides.find(({ id }) => id === named)
    if (slide !== undefined) talk.select(slide.id)
  },
  { immediate: true },
)

useHead({ title: () => `Prepare · ${talk.talk?.name ?? 'Aisle Talk'}` })

/** A deck that waits to take the place of this one. */
const replacing = computed(() => talk.talk?.imports.find(({ state, replaces }) => state === 'done' && replaces === 'waiting') ?? null)
const number = computed(() => (talk.slide === null ? 0 : talk.slides.indexOf(talk.slide) + 1))
const hint = computed(() =>
  sending.value ? 'Sending …' : 'An office deck, PDF, pictures, films, a Markdown text, or a zip of these. Or click to choose.',
)

async function bring(files: readonly File[]): Promise<void> {
  if (talk.talk === null) return
  sending.value = true
  try {
    await bringIn(talk.talk.id, files)
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  } finally {
    sending.value = false
  }
}

function keys(event: KeyboardEvent): void {
  const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || typing) return
  event.preventDefault()
  if (event.shiftKey) talk.redo()
  else talk.undo()
}
useEventListener(window, 'keydown', keys)
</script>

<template>
  <StationFrame>
    <ReplaceDeck v-if="replacing" :key="replacing.id" :imported="replacing" />
    <div v-else class="prepare">
      <RunSheet :hint="hint" @files="bring" />
      <aside>
        <template v-if="talk.slide && talk.talk">
          <SlideBench :slide="talk.slide" :number="number" :talk-id="talk.talk.id" />
          <NuxtLink class="press main on" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
        </template>
        <EmptyDeck v-else-if="talk.talk && talk.slides.length === 0" />
      </aside>
    </div>
  </StationFrame>
</template>

<style scoped>
.prepare {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  height: 100%;
}
aside {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 12px;
  padding: 10px 16px 14px;
  min-height: 0;
}
.on {
  justify-self: start;
}
@media (max-width: 900px) {
  .prepare {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
  aside {
    grid-template-rows: auto auto;
  }
}
</style>
