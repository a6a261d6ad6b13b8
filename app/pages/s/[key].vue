<script setup lang="ts">
import { screeningRefused } from '@contracts'
import type { ScreeningAnswer, ScreeningView } from '@contracts'
import { api, sentenceOf } from '~/client'

/** Where others watch a talk: there without a script, and without an account. */
definePageMeta({ open: true })

const route = useRoute()
const key = String(route.params['key'])
const event = useRequestEvent()

/** On the server it was looked up before the page is drawn. */
async function answerFor(): Promise<ScreeningAnswer> {
  const found = event?.context['screening'] as ScreeningAnswer | undefined
  if (found !== undefined) return found
  try {
    return { kind: 'view', view: await api.get<ScreeningView>(`/screenings/${key}`) }
  } catch (error) {
    return screeningRefused(error) ?? { kind: 'refused', sentence: sentenceOf(error) }
  }
}
const { data: answer } = await useAsyncData(`screening-${key}`, answerFor)
const view = computed(() => (answer.value?.kind === 'view' ? answer.value.view : null))

const seriesKey = typeof route.query['in'] === 'string' ? route.query['in'] : undefined
/** What a page elsewhere says of a link to it. */
const preview = computed(() => {
  const abroad = view.value?.abroad
  if (view.value === null || abroad == null) return []
  return [
    { property: 'og:type', content: 'video.other' },
    { property: 'og:title', content: view.value.title },
    { property: 'og:description', content: view.value.description.slice(0, 300) },
    { property: 'og:url', content: abroad.address },
    { property: 'og:image', content: `${abroad.address}/slide.jpg` },
    { name: 'twitter:card', content: 'summary_large_image' },
  ]
})
const asEmbed = computed(() => {
  const abroad = view.value?.abroad
  if (abroad?.embeds !== true) return []
  const { origin } = new URL(abroad.address)
  const href = `${origin}/api/oembed?url=${encodeURIComponent(abroad.address)}`
  return [{ rel: 'alternate', type: 'application/json+oembed', href, title: view.value?.title ?? '' }]
})
useHead({
  title: () => view.value?.title ?? (answer.value?.kind === 'asks' ? 'Who is there?' : 'Nothing is shown here'),
  htmlAttrs: { lang: () => view.value?.language ?? 'en' },
  meta: () => [...(view.value?.abroad?.found === true ? [] : [{ name: 'robots', content: 'noindex, nofollow' }]), ...preview.value],
  link: () => asEmbed.value,
})
</script>

<template>
  <ScreeningPage v-if="view" :view="view" :page-key="key" :embedded="route.query['embed'] !== undefined" :series-key="seriesKey" />
  <ScreeningDoor v-else-if="answer?.kind === 'asks'" :page-key="key" :asks="answer.asks" />
  <main v-else class="closed">
    <h1>Nothing is shown here</h1>
    <p>{{ answer?.kind === 'refused' ? answer.sentence : 'Load this page again in a minute.' }}</p>
  </main>
</template>

<style scoped>
.closed {
  max-width: 52ch;
  margin: 0 auto;
  padding: 18vh 20px 0;
  display: grid;
  gap: 14px;
}
.closed h1 {
  font-size: 30px;
}
.closed p {
  font-size: 18px;
}
</style>
