<script setup lang="ts">
import type { SeriesPage } from '@contracts'
import { api } from '~/client'
import { progressOf } from '~/composables/useScreeningPlace'
import { duration } from '~/words'

/** A series as those see it who have its link: its talks in order, and how far they are. */
definePageMeta({ open: true })
const route = useRoute()
const key = String(route.params['key'])
const page = shallowRef<SeriesPage | null>(null)
const progress = shallowRef<ReadonlyMap<string, 'begun' | 'finished'>>(new Map())
const { trouble, attempt } = useAttempt()
const off = computed(() => {
  const { off: token, of: address } = route.query
  return typeof token === 'string' && typeof address === 'string' ? { token, address } : null
})
const silent = ref(false)
const PROGRESS_WORDS = { begun: 'begun', finished: 'watched' } as const

onMounted(() =>
  attempt(async () => {
    page.value = await api.get<SeriesPage>(`/series-pages/${key}`)
    progress.value = new Map(
      page.value.talks.flatMap((talk) => {
        const found = progressOf(talk.key)
        return found === null ? [] : [[talk.key, found] as const]
      }),
    )
  }),
)
const stop = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/series-pages/${key}/off`, off.value)
    silent.value = true
  })
useHead({
  title: () => page.value?.name ?? 'Series',
  meta: () => (page.value?.shelved === true ? [] : [{ name: 'robots', content: 'noindex, nofollow' }]),
  link: [{ rel: 'alternate', type: 'application/atom+xml', href: `/series/${key}/feed.xml` }],
})
</script>

<template>
  <main class="series">
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="off && silent" class="notice" role="status">No more letters about this series go to {{ off.address }}.</p>
    <p v-else-if="off" class="notice">
      <span>Letters about this series go to {{ off.address }}.</span><button class="press small" @click="stop">No more letters</button>
    </p>
    <template v-if="page">
      <header>
        <h1>{{ page.name }}</h1>
        <a class="soft" :href="`${page.path}/feed.xml`">Feed</a>
      </header>
      <p v-if="page.description" class="said">{{ page.description }}</p>
      <ol>
        <li v-for="(talk, n) in page.talks" :key="talk.key">
          <a :href="`/s/${talk.key}?in=${key}`">
            <span class="number">{{ n + 1 }}</span>
            <img v-if="talk.open" :src="`/s/${talk.key}/slide.jpg`" alt="" loading="lazy" width="192" height="108" />
            <span v-else class="blank" aria-hidden="true" />
            <span class="words">
              <b>{{ talk.title }}</b>
              <span class="soft">{{ [talk.presenter, talk.length === null ? '' : duration(talk.length)].filter(Boolean).join(', ') }}</span>
              <span v-if="!talk.open" class="soft">asks who you are first</span>
            </span>
            <span v-if="progress.get(talk.key)" class="mark">{{ PROGRESS_WORDS[progress.get(talk.key)!] }}</span>
          </a>
        </li>
      </ol>
      <p v-if="page.talks.length === 0" class="soft">No talk of it is shown yet.</p>
    </template>
  </main>
</template>

<style scoped>
.series {
  display: grid;
  gap: 16px;
  align-content: start;
  max-width: 860px;
  min-height: 100vh;
  margin: 0 auto;
  padding: 26px 20px 60px;
}
header {
  display: flex;
  gap: 18px;
  align-items: baseline;
  justify-content: space-between;
}
h1 {
  font-size: 28px;
  overflow-wrap: anywhere;
}
.said {
  max-width: 70ch;
  white-space: pre-line;
}
ol {
  display: grid;
  gap: 14px;
  margin: 0;
  padding: 0;
  list-style: none;
}
a {
  color: inherit;
}
li a {
  display: flex;
  gap: 16px;
  align-items: center;
  text-decoration: none;
}
li a:hover b {
  text-decoration: underline;
}
.number {
  width: 28px;
  font: 600 18px var(--display);
  text-align: right;
}
img,
.blank {
  width: 144px;
  height: 81px;
  flex: none;
  object-fit: contain;
  border: 1px solid var(--line);
  background: var(--card);
}
.words {
  display: grid;
  flex: 1;
  gap: 3px;
  min-width: 0;
  overflow-wrap: anywhere;
}
b {
  font: 600 18px/1.3 var(--display);
}
.mark {
  padding: 2px 10px;
  border: 1px solid var(--brand);
  border-radius: 999px;
  color: var(--brand);
  font-size: 14px;
}
@media (max-width: 560px) {
  img,
  .blank {
    width: 96px;
    height: 54px;
  }
}
</style>
