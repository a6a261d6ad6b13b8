<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { ShelfView } from '@contracts'
import { api } from '~/client'
import { duration } from '~/words'

/** Talks that everybody on this server may see. */
definePageMeta({ open: true })
const shelf = shallowRef<ShelfView | null>(null)
const find = ref('')
const { busy, trouble, attempt } = useAttempt()

const part = (from: number): Promise<ShelfView> =>
  api.get<ShelfView>(`/shelf?${new URLSearchParams({ find: find.value, from: String(from) }).toString()}`)
const load = (): Promise<void> =>
  attempt(async () => {
    shelf.value = await part(0)
  })
const more = (): Promise<void> =>
  attempt(async () => {
    const { talks, count } = await part(shelf.value?.talks.length ?? 0)
    shelf.value = { series: shelf.value?.series ?? [], talks: [...(shelf.value?.talks ?? []), ...talks], count }
  })
/** Typing is waited for, in ms. */
const look = useDebounceFn(load, 250)
onMounted(load)
useHead({ title: 'Shelf · Aisle Talk' })
</script>

<template>
  <div class="shelf">
    <header>
      <h1>On the shelf</h1>
      <label class="find"
        ><span class="unseen">Find a talk</span
        ><input v-model="find" type="search" placeholder="Find a talk" maxlength="100" autocomplete="off" @input="look"
      /></label>
    </header>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="shelf" class="soft" role="status">
      <template v-if="shelf.count > 0">{{ shelf.count === 1 ? 'One talk' : `${shelf.count} talks` }} for everybody.</template>
      <template v-else-if="find.trim() !== '' && shelf.series.length === 0">Nothing here is called that.</template>
      <template v-else-if="shelf.series.length === 0"
        >Nothing stands here yet. Whoever presents puts a talk here from its leaf “Show”.</template
      >
    </p>
    <ul v-if="shelf && shelf.series.length > 0" class="series" aria-label="Series">
      <li v-for="one in shelf.series" :key="one.path">
        <a :href="one.path"
          ><b>{{ one.name }}</b
          ><span class="soft">{{ one.talks === 1 ? 'one talk' : `${one.talks} talks` }}</span
          ><span v-if="one.description" class="about">{{ one.description }}</span></a
        >
      </li>
    </ul>
    <ul>
      <li v-for="talk in shelf?.talks ?? []" :key="talk.path">
        <a :href="talk.path">
          <img :src="talk.picture" alt="" loading="lazy" width="320" height="180" />
          <b>{{ talk.title }}</b>
          <span class="soft">{{ [talk.presenter, talk.length === null ? '' : duration(talk.length)].filter(Boolean).join(', ') }}</span>
          <span v-if="talk.description" class="about">{{ talk.description }}</span>
        </a>
      </li>
    </ul>
    <button v-if="shelf && shelf.talks.length < shelf.count" class="press" :disabled="busy" @click="more">Show more</button>
  </div>
</template>

<style scoped>
.shelf {
  display: grid;
  gap: 16px;
  align-content: start;
  max-width: 1180px;
  min-height: 100vh;
  margin: 0 auto;
  padding: 26px 20px 60px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 24px;
  align-items: center;
  justify-content: space-between;
}
h1 {
  font-size: 28px;
}
.find input {
  width: min(320px, 80vw);
  min-height: 40px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font-size: 16px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  gap: 22px;
  margin: 0;
  padding: 0;
  list-style: none;
}
a {
  display: grid;
  gap: 4px;
  color: inherit;
  text-decoration: none;
}
a:hover b {
  text-decoration: underline;
}
img {
  width: 100%;
  height: auto;
  aspect-ratio: 16 / 9;
  object-fit: contain;
  border: 1px solid var(--line);
  background: var(--card);
}
b {
  font: 600 17px/1.3 var(--display);
  overflow-wrap: anywhere;
}
.series a {
  height: 100%;
  padding: 14px 16px;
  border-left: 4px solid var(--brand);
  background: var(--card);
}
.about {
  display: -webkit-box;
  overflow: hidden;
  font-size: 15px;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
}
.press {
  justify-self: start;
}
</style>
