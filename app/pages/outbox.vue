<script setup lang="ts">
import type { LetterView } from '@contracts'
import { api } from '~/client'
import { moment } from '~/words'

/** Letters that were sent on somebody's behalf, or would have been where no mail goes out. */
const letters = shallowRef<readonly LetterView[] | null>(null)
const { trouble, attempt } = useAttempt()
const load = (): Promise<void> =>
  attempt(async () => {
    letters.value = await api.get<readonly LetterView[]>('/letters')
  })
onMounted(load)
useHead({ title: 'Outbox · Aisle Talk' })
const STATE_WORDS: Readonly<Record<LetterView['state'], string>> = {
  waiting: 'on its way',
  kept: 'not sent: no mail server is set',
  sent: 'sent',
  failed: 'did not arrive',
}
const kept = computed(() => letters.value?.some(({ state }) => state === 'kept') ?? false)
</script>

<template>
  <div>
    <ShellBar />
    <main class="column">
      <div class="head">
        <h1>Outbox</h1>
        <button class="press small" @click="load">Look again</button>
      </div>
      <p class="soft">
        What is written to people on your behalf.
        <template v-if="kept">This server sends no mail, so letters stay here; whoever runs it sets <code>AISLE_SMTP_URL</code>.</template>
      </p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <p v-if="letters?.length === 0" class="soft empty">
        Nothing was written yet. When somebody asks to watch a talk that is for people you named, their letter stands here.
      </p>
      <article v-for="letter in letters ?? []" :key="letter.id">
        <header>
          <b>{{ letter.recipient }}</b>
          <span class="state" :class="letter.state">{{ STATE_WORDS[letter.state] }}</span>
          <time class="soft" :datetime="letter.made">{{ moment(letter.made) }}</time>
        </header>
        <p>{{ letter.subject }}</p>
        <p v-if="letter.said" class="bad">{{ letter.said }}</p>
        <pre v-if="letter.body">{{ letter.body }}</pre>
        <p v-else-if="letter.private" class="soft">It holds a link that is its reader’s alone, so what is in it is not shown here.</p>
      </article>
    </main>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
}
article {
  display: grid;
  gap: 8px;
  padding: 14px 18px;
  border: 1px solid var(--line);
  background: var(--card);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
time {
  margin-left: auto;
}
.state {
  font-size: 14px;
}
.failed,
.bad {
  color: var(--alarm);
}
pre {
  margin: 0;
  padding: 10px 12px;
  background: var(--ground);
  font: 14px/1.5 var(--clock);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.empty {
  padding: 30px 0;
}
</style>
