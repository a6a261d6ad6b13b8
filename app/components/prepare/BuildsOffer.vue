<script setup lang="ts">
import type { SlideId } from '@core/model'
import { api } from '~/client'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'

/** Pages that each only add to the one before are offered as steps of one slide. */
const talk = useTalk()
const sheet = useSheet()

/** Groups whose slides still stand next to each other, unchanged in number. */
const offer = computed(
  () =>
    (talk.talk?.imports ?? []).flatMap((one) => {
      const groups = one.builds.filter((group) => {
        const places = group.map((id) => talk.slides.findIndex((slide) => slide.id === id))
        return places.every((place, n) => place >= 0 && (n === 0 || place === (places[n - 1] ?? -2) + 1))
      })
      return groups.length === 0 ? [] : [{ id: one.id, groups }]
    })[0],
)

const named = (group: readonly SlideId[]): string => {
  const numbers = group.map((id) => sheet.numbers.get(id) ?? 0)
  return `${String(numbers[0])}–${String(numbers.at(-1))}`
}

async function settle(take: boolean): Promise<void> {
  const current = offer.value
  if (current === undefined || talk.talk === null) return
  if (take) talk.edit({ kind: 'all', edits: current.groups.map((group) => ({ kind: 'merge', slides: group })) })
  try {
    await talk.save()
    await api.post(`/talks/${talk.talk.id}/imports/${current.id}/settle`)
    await talk.refresh()
  } catch (error) {
    talk.report(error)
  }
}
</script>

<template>
  <div v-if="offer" class="notice offer" role="status">
    <p>
      Slides <b>{{ offer.groups.slice(0, 6).map(named).join(', ') }}</b>{{ offer.groups.length > 6 ? ' and others' : '' }} build up: each
      page only adds to the one before. As steps of one slide they share notes, time and the face's place.
    </p>
    <button class="press main small" @click="settle(true)">Make them steps</button>
    <button class="press small" @click="settle(false)">Leave them</button>
  </div>
</template>

<style scoped>
.offer {
  margin: 12px;
}
</style>
