<script setup lang="ts">
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
    return { kind: 'refused', sentence: sentenceOf(error) }
  }
}
const { data: answer } = await useAsyncData(`screening-${key}`, answerFor)
const view = computed(() => (answer.value?.kind === 'view' ? answer.value.view : null))

useHead({
  title: () => view.value?.title ?? 'Nothing is shown here',
  htmlAttrs: { lang: () => view.value?.language ?? 'en' },
  meta: [{ name: 'robots', content: 'noindex, nofollow' }],
})
</script>

<template>
  <ScreeningPage v-if="view" :view="view" :page-key="key" />
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
