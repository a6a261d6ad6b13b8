<script setup lang="ts">
import { ACCEPTED, api, bringArchive, bringFilm, bringIn } from '~/client'

/** Begins a talk with what there is of it already: an archive, or a finished film and perhaps its deck. */
const emit = defineEmits<{ trouble: [sentence: string | null] }>()
const archive = ref<{ readonly open: () => void } | null>(null)
const film = ref<{ readonly open: () => void } | null>(null)
const { busy, trouble, attempt } = useAttempt()
watch(trouble, (sentence) => {
  emit('trouble', sentence)
})
const isFilm = ({ type, name }: File): boolean => type.startsWith('video/') || /\.(mp4|mov|m4v|webm|mkv|avi|mpe?g|wmv)$/i.test(name)

const bring = (files: readonly File[]): Promise<void> =>
  attempt(async () => {
    const [file] = files
    if (file === undefined) return
    const { id } = await bringArchive(file)
    await navigateTo(`/talks/${id}/prepare`)
  })

const bringTalk = (files: readonly File[]): Promise<void> =>
  attempt(async () => {
    const [shown, ...more] = files.filter(isFilm)
    if (shown === undefined || more.length > 0) {
      trouble.value = 'Choose one film, and with it the deck that it was made from, if you have that. Nothing was begun.'
      return
    }
    const name = shown.name.replace(/\.[^.]+$/, '').replace(/[-_]+/g, ' ') || 'A film'
    const { id } = await api.post<{ id: string }>('/talks', { name: name.slice(0, 160), limit: null })
    try {
      const deck = files.filter((file) => !isFilm(file))
      if (deck.length > 0) await bringIn(id, deck)
      await bringFilm(id, shown)
    } catch (error) {
      await api.delete(`/talks/${id}`)
      throw error
    }
    await navigateTo(`/talks/${id}/prepare`)
  })
</script>

<template>
  <button class="press small" :disabled="busy" @click="film?.open()">
    A finished film<span class="soft">and its deck</span>
    <FileChooser ref="film" multiple :accept="ACCEPTED" @click.stop @files="bringTalk" />
  </button>
  <button class="press small" :disabled="busy" @click="archive?.open()">
    {{ busy ? 'Sending …' : 'An archive of a talk' }}<span class="soft">zip</span>
    <FileChooser ref="archive" accept=".zip,application/zip" @click.stop @files="bring" />
  </button>
</template>
