<script setup lang="ts">
import type { PlaceSignedIn } from '@contracts'
import { api } from '~/client'
import { moment } from '~/words'

/** The browsers in which somebody is signed in; each can be ended from here. */
const places = ref<readonly PlaceSignedIn[]>([])
const { busy, trouble, attempt } = useAttempt()
async function load(): Promise<void> {
  places.value = await api.get<readonly PlaceSignedIn[]>('/session/places')
}
onMounted(() => attempt(load))
const end = (place: PlaceSignedIn): Promise<void> =>
  attempt(async () => {
    await api.delete(`/session/places/${place.id}`)
    await load()
  })
const endOthers = (): Promise<void> =>
  attempt(async () => {
    await api.delete('/session/places')
    await load()
  })
defineExpose({ load: () => attempt(load) })
</script>

<template>
  <section class="page-sheet" aria-labelledby="places-title">
    <header>
      <h2 id="places-title">Where you are signed in</h2>
      <button v-if="places.length > 1" class="press small" :disabled="busy" @click="endOthers">End all others</button>
    </header>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <ul class="listed">
      <li v-for="place in places" :key="place.id">
        <span class="what"
          ><b>{{ place.agent === '' ? 'A browser that does not say what it is' : place.agent }}</b>
          <span class="soft">{{ place.here ? 'this one' : `seen ${moment(place.seen)}` }}, since {{ moment(place.since) }}</span></span
        >
        <button v-if="!place.here" class="press quiet small" :disabled="busy" :aria-label="`End ${place.agent}`" @click="end(place)">
          End
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
header,
li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  min-height: 32px;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
</style>
