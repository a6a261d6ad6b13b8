<script setup lang="ts">
import { api, sentenceOf } from '~/client'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'
import { duration } from '~/words'

/** What you have after a take, and what can be done with it. */
const lectern = useLectern()
const talk = useTalk()
const trouble = ref<string | null>(null)
const discarded = ref(false)
const take = computed(() => talk.talk?.takes.find((one) => one.id === lectern.lastTake?.id))
const ready = computed(() => take.value?.state === 'closed')
const over = computed(() => (talk.talk?.limit == null ? 0 : (lectern.lastTake?.length ?? 0) - talk.talk.limit))

async function discard(undo: boolean): Promise<void> {
  try {
    if (lectern.lastTake === null) return
    if (undo) await api.post(`/takes/${lectern.lastTake.id}/restore`)
    else await api.delete(`/takes/${lectern.lastTake.id}`)
    discarded.value = !undo
    await talk.refresh()
  } catch (error) {
    trouble.value = sentenceOf(error)
  }
}
</script>

<template>
  <section v-if="lectern.lastTake" class="after" aria-label="After the take">
    <template v-if="discarded">
      <h2>Discarded</h2>
      <p>The take of {{ duration(lectern.lastTake.length) }} is out of the talk.</p>
      <div class="row"><button class="press main" @click="discard(true)">Undo</button><button class="press" @click="lectern.rest()">Record again</button></div>
    </template>
    <template v-else>
      <h2><span class="clock">{{ duration(lectern.lastTake.length) }}</span> recorded</h2>
      <p v-if="lectern.phase === 'stopping'">{{ lectern.unsent ? 'The server does not answer. The take is kept on this computer and is sent when it does; leave this page open.' : 'Sending the last of it …' }}</p>
      <p v-else-if="take?.state === 'failed'" class="bad">{{ take.sentence }}</p>
      <p v-else-if="!ready">It is safe on the server and is being made ready …</p>
      <p v-else-if="over > 0" class="bad">{{ duration(over) }} over the limit.</p>
      <p v-else>It is safe and ready<template v-if="talk.talk?.limit != null">, {{ duration(-over) }} in hand</template>.</p>
      <div class="row">
        <NuxtLink v-if="ready && talk.talk" class="press main" :to="`/talks/${talk.talk.id}/review`">Listen in Review</NuxtLink>
        <button class="press" :disabled="!ready" @click="lectern.rest()">Record again</button>
        <button class="press quiet danger" :disabled="!ready" @click="discard(false)">Discard this take</button>
      </div>
    </template>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.after { display: grid; gap: 14px; max-width: 520px; padding: 24px 28px; border: 1px solid var(--line); border-radius: 6px; background: var(--card); }
h2 { font-size: 28px; }
.row { display: flex; flex-wrap: wrap; gap: 10px; }
.bad { color: var(--alarm); }
</style>
