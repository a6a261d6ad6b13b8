<script setup lang="ts">
import { CircleCheck, Warning } from '@element-plus/icons-vue'
import type { Recipe } from '@core/model'
import type { EstimateView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { useTalk } from '~/stores/talk'
import { duration, fileSize } from '~/words'

const talk = useTalk()
const recipe = ref<Recipe | null>(null)
const estimate = ref<EstimateView | null>(null)
const trouble = ref<string | null>(null)
const busy = ref(false)

useHead({ title: () => `Hand over · ${talk.talk?.name ?? 'Aisle Talk'}` })

const limit = computed(() => (recipe.value === null || recipe.value.limit.kind === 'none' ? null : recipe.value.limit.limit))
const over = computed(() => (limit.value === null ? 0 : Math.max(0, (talk.index?.length ?? 0) - limit.value)))
const refused = computed(() => recipe.value?.limit.kind === 'hold' && over.value > 0)
const unseen = computed(() => talk.slides.filter((slide) => !slide.skip && !talk.recorded.has(slide.id)).length)

const checks = computed(() => [
  over.value > 0
    ? { good: false, say: `${duration(over.value)} over the limit`, more: refused.value ? 'It is refused as it is. Record it shorter, or choose “as long as it is”.' : 'It is made all the same.' }
    : { good: true, say: limit.value === null ? 'No limit is set' : `${duration(limit.value - (talk.index?.length ?? 0))} in hand`, more: '' },
  unseen.value > 0
    ? { good: false, say: `${String(unseen.value)} ${unseen.value === 1 ? 'slide is' : 'slides are'} not in it`, more: 'They were not shown in the recording.' }
    : { good: true, say: 'Every slide is in it', more: '' },
  ...(estimate.value === null ? [] : [estimate.value.free > estimate.value.bytes * 3
    ? { good: true, say: 'Room on the disk', more: '' }
    : { good: false, say: 'The disk is nearly full', more: `${fileSize(estimate.value.free)} left.` }]),
])

async function guess(): Promise<void> {
  if (talk.talk === null || recipe.value === null || talk.index === null) return
  try {
    estimate.value = await api.post<EstimateView>(`/talks/${talk.talk.id}/estimate`, recipe.value)
  } catch (error) {
    trouble.value = sentenceOf(error)
  }
}

async function change(next: Recipe): Promise<void> {
  if (talk.talk === null) return
  const before = recipe.value
  recipe.value = next
  trouble.value = null
  try {
    await api.put(`/talks/${talk.talk.id}/recipe`, next)
    await guess()
  } catch (error) {
    recipe.value = before
    trouble.value = sentenceOf(error)
  }
}

async function attempt(work: () => Promise<unknown>): Promise<void> {
  busy.value = true
  trouble.value = null
  try {
    await work()
    await talk.refresh()
  } catch (error) {
    trouble.value = sentenceOf(error)
  } finally {
    busy.value = false
  }
}
const make = (): Promise<void> => attempt(() => api.post(`/talks/${talk.talk?.id ?? ''}/deliveries`, recipe.value))
const cancel = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/cancel`))
const retry = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/retry`))

watch(() => talk.talk?.id, () => { recipe.value = talk.talk?.recipe ?? null }, { immediate: true })
watch([() => talk.programme.revision, () => recipe.value === null], () => { void guess() }, { immediate: true })
</script>

<template>
  <StationFrame by-visit :landing="talk.index?.length ?? 0">
    <div v-if="talk.index === null" class="empty">
      <h1>Nothing to hand over yet</h1>
      <p class="soft">The file is made from what is recorded at the Lectern.</p>
      <NuxtLink v-if="talk.talk" class="press main" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
    </div>
    <div v-else class="scroll">
      <div class="docket">
        <section class="recipe" aria-label="Recipe">
          <RecipeSentence v-if="recipe" :model-value="recipe" :estimate="estimate" @update:model-value="change" />
          <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
          <button class="press main go" :disabled="busy || refused" @click="make">Make this file</button>
        </section>
        <ul class="checks" aria-label="Checks">
          <li v-for="check in checks" :key="check.say" :class="{ good: check.good }">
            <CircleCheck v-if="check.good" aria-label="In order" /><Warning v-else aria-label="Look at this" />
            <span><b>{{ check.say }}</b><span v-if="check.more" class="soft">{{ check.more }}</span></span>
          </li>
        </ul>
        <section class="ledger" aria-label="Ledger">
          <h2>Ledger</h2>
          <p v-if="talk.ledger.length === 0" class="soft">Files you make stand here, newest first, with what was measured in them.</p>
          <LedgerLine v-for="delivery in talk.ledger" :key="delivery.id" :delivery="delivery" :limit="talk.talk?.limit ?? null" @cancel="cancel(delivery.id)" @retry="retry(delivery.id)" />
        </section>
      </div>
    </div>
  </StationFrame>
</template>

<style scoped>
.scroll { height: 100%; overflow-y: auto; }
.docket { display: grid; grid-template-columns: minmax(0, 760px) 250px; justify-content: center; gap: 20px 28px; padding: 26px 20px 60px; }
.recipe { display: grid; gap: 18px; justify-items: start; padding: 22px 26px; border: 1px solid var(--line); border-top: 5px solid var(--brand); background: var(--card); }
.go { min-height: 44px; padding: 0 22px; font-size: 17px; }
.checks { display: grid; gap: 12px; align-content: start; margin: 0; padding: 24px 0 0; list-style: none; }
.checks li { display: flex; gap: 10px; }
.checks li > span { display: grid; }
.checks svg { width: 20px; height: 20px; flex: none; color: var(--alarm); }
.checks .good svg { color: var(--brand); }
.checks .soft { font-size: 14px; }
.ledger { display: grid; gap: 12px; grid-column: 1; }
h2 { font-size: 19px; }
.empty { display: grid; gap: 14px; justify-items: center; align-content: center; height: 100%; }
</style>
