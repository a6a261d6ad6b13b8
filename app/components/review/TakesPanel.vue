<script setup lang="ts">
import { api } from '~/client'
import { useTalk } from '~/stores/talk'
import { duration, moment } from '~/words'

/** The recordings that this talk has, and how to let one go. */
const talk = useTalk()
const discarded = ref<string | null>(null)
const { trouble, busy, attempt } = useAttempt()
const failed = computed(() => (talk.talk?.takes ?? []).filter((take) => take.state === 'failed'))
const coming = computed(() => (talk.talk?.takes ?? []).filter((take) => take.state === 'closing').length)
const takes = computed(() => (talk.talk?.takes ?? []).filter((take) => take.state === 'closed' && take.length > 0))
const discard = (take: string, undo: boolean): Promise<void> =>
  attempt(async () => {
    if (undo) await api.post(`/takes/${take}/restore`)
    else await api.delete(`/takes/${take}`)
    discarded.value = undo ? null : take
    await talk.refresh()
  })
</script>

<template>
  <section class="panel" aria-label="Takes">
    <div v-if="discarded" class="notice" role="status">
      <p>The take was discarded.</p>
      <button class="press small" :disabled="busy" @click="discard(discarded, true)">Undo</button>
    </div>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="coming > 0" class="notice" role="status">
      {{ coming === 1 ? 'A recording is' : `${coming} recordings are` }} being made ready.
    </p>
    <div v-for="take in failed" :key="take.id" class="notice bad" role="alert">
      <p>{{ take.sentence }}</p>
      <button class="press small" :disabled="busy" @click="discard(take.id, false)">Put away</button>
    </div>
    <div v-for="take in takes" :key="take.id" class="take">
      <span
        >Recorded {{ moment(take.started) }}, <span class="clock">{{ duration(take.length) }}</span></span
      >
      <button class="press quiet small danger" :disabled="busy" @click="discard(take.id, false)">Discard</button>
    </div>
    <p v-if="takes.length === 0 && !discarded" class="soft">No take is kept.</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 8px;
}
.take {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
</style>
