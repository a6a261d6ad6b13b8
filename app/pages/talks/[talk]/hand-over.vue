<script setup lang="ts">
import type { Recipe } from '@core/model'
import { api, sentenceOf } from '~/client'
import { useHandIn } from '~/composables/useHandIn'
import { useTalk } from '~/stores/talk'
import { fileSize } from '~/words'

const talk = useTalk()
const { recipe, estimate, trouble, change } = useRecipe()
const busy = ref(false)

const route = useRoute()
const LEAVES = ['file', 'show', 'hand-in', 'along'] as const
/** What is made for a call is handed in there. */
const leaf = computed(() => LEAVES.find((one) => one === route.query['leaf']) ?? (talk.talk?.call == null ? 'file' : 'hand-in'))
const hand = useHandIn(
  () => recipe.value,
  () => estimate.value,
)
const sendingsOf = (delivery: string) => (hand.view.value?.sendings ?? []).filter((one) => one.delivery === delivery)
const starts = ref<Date | null>(null)
const notice = useMadeNotice()

useHead({ title: () => `${notice.before.value}Hand over · ${talk.talk?.name ?? 'Aisle Talk'}` })

/** What a file begins with, to be seen before there is anything of it. */
const opening = computed(() => talk.talk?.slides[0]?.steps[0]?.picture ?? null)
const limit = computed(() => (recipe.value === null || recipe.value.limit.kind === 'none' ? null : recipe.value.limit.limit))
const over = computed(() => (limit.value === null ? 0 : Math.max(0, (estimate.value?.length ?? talk.index?.length ?? 0) - limit.value)))
const refused = computed(() => recipe.value?.limit.kind === 'hold' && over.value > 0)

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
const make = (): Promise<void> =>
  attempt(() => api.post(`/talks/${talk.talk?.id ?? ''}/deliveries`, { ...recipe.value, starts: starts.value?.toISOString() ?? null }))
/** Makes a file by another recipe, which becomes the talk's. */
async function makeBy(next: Recipe): Promise<void> {
  starts.value = null
  await change(next)
  if (trouble.value === null) await make()
}
const cancel = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/cancel`))
const pause = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/pause`))
const first = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/first`))
const retry = (id: string): Promise<void> => attempt(() => api.post(`/deliveries/${id}/retry`))

const rename = (id: string, name: string): Promise<void> => attempt(() => api.patch(`/deliveries/${id}`, { name }))
const remove = (id: string): Promise<void> => attempt(() => api.delete(`/deliveries/${id}`))
const waiting = computed(() => talk.ledger.filter(({ state }) => state === 'queued').length)
const space = computed(() => talk.ledger.reduce((sum, delivery) => sum + (delivery.facts?.bytes ?? 0), 0))
/** Files that are laid side by side; a third takes the place of the first. */
const laid = ref<readonly string[]>([])
function lay(id: string): void {
  laid.value = laid.value.includes(id) ? laid.value.filter((one) => one !== id) : [...laid.value, id].slice(-2)
}
const pair = computed(() => {
  const [first, second] = laid.value.flatMap((id) => talk.ledger.find((delivery) => delivery.id === id && delivery.state === 'done') ?? [])
  return first === undefined || second === undefined ? null : ([first, second] as const)
})
</script>

<template>
  <StationFrame by-visit :landing="talk.index?.length ?? 0">
    <div v-if="leaf === 'show' && talk.talk && talk.slides.length > 0 && !talk.isGuests" class="scroll">
      <div class="docket"><ShowLeaf /><HandOverLeaves :talk-id="talk.talk.id" :leaf="leaf" /></div>
    </div>
    <div v-else-if="leaf === 'along' && talk.talk && talk.slides.length > 0" class="scroll">
      <div class="docket"><AlongLeaf /><HandOverLeaves :talk-id="talk.talk.id" :leaf="leaf" /></div>
    </div>
    <div v-else-if="leaf === 'hand-in' && talk.talk && recipe" class="scroll">
      <div class="docket">
        <div class="stack">
          <EntryLeaf v-if="talk.talk.call" :recipe="recipe" :hand="hand" @change="change" @make="makeBy" />
          <HandInLeaf v-else :recipe="recipe" :hand="hand" @change="change" @make="makeBy" />
          <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
        </div>
        <HandOverLeaves :talk-id="talk.talk.id" :leaf="leaf" />
      </div>
    </div>
    <div v-else-if="talk.index === null && recipe?.timing !== 'planned'" class="empty">
      <h1>Nothing to hand over yet</h1>
      <p class="soft">The file is made from what is recorded at the Lectern.</p>
      <NuxtLink v-if="talk.talk" class="press main" :to="`/talks/${talk.talk.id}/lectern`">To the Lectern</NuxtLink>
      <button v-if="recipe && talk.slides.length > 0" class="press" @click="change({ ...recipe, timing: 'planned' })">
        Make a slide show of the planned times instead
      </button>
      <NuxtLink
        v-if="talk.talk && talk.slides.length > 0 && !talk.isGuests"
        class="press quiet"
        :to="`/talks/${talk.talk.id}/hand-over?leaf=show`"
      >
        Show the slides on a page
      </NuxtLink>
      <NuxtLink v-if="talk.talk" class="press quiet" :to="`/talks/${talk.talk.id}/hand-over?leaf=hand-in`">
        Read what somebody's rules ask for
      </NuxtLink>
    </div>
    <div v-else class="scroll">
      <div class="docket">
        <section class="recipe" aria-label="Recipe">
          <RecipePresets v-if="recipe" :model-value="recipe" @update:model-value="change" />
          <RecipeSentence v-if="recipe" :model-value="recipe" :estimate="estimate" @update:model-value="change" />
          <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
          <div class="row">
            <button class="press main large" :disabled="busy || refused" @click="make">
              {{ recipe?.each === 'slide' ? 'Make these files' : 'Make this file' }}</button><StartTime v-model="starts" />
          </div>
        </section>
        <div class="margin">
          <HandOverLeaves v-if="talk.talk" :talk-id="talk.talk.id" :leaf="leaf" />
          <DocketChecks :recipe="recipe" :estimate="estimate" @change="change" />
        </div>
        <section class="ledger" aria-label="Ledger">
          <div class="top">
            <h2>Ledger</h2>
            <button v-if="notice.canAsk.value" class="press quiet small" @click="notice.ask()">Tell me when it is ready</button
            ><span v-if="space > 0" class="soft clock">{{ fileSize(space) }} on the disk</span>
          </div>
          <CompareFiles v-if="pair" :files="pair" @close="laid = []" />
          <p v-if="talk.ledger.length === 0" class="soft">Files you make stand here, newest first, with what was measured in them.</p>
          <LedgerLine
            v-for="delivery in talk.ledger"
            :key="delivery.id"
            :delivery="delivery"
            :talk-id="talk.talk?.id ?? ''"
            :opening="opening"
            :limit="talk.talk?.limit ?? null"
            :laid="laid.includes(delivery.id)"
            @rename="rename(delivery.id, $event)"
            @remove="remove(delivery.id)"
            @lay="lay(delivery.id)"
            :waiting="waiting"
            @pause="pause(delivery.id)"
            @first="first(delivery.id)"
            @cancel="cancel(delivery.id)"
            @retry="retry(delivery.id)"
            @send="hand.send(delivery.id, $event)"
          >
            <SendingLine
              v-for="one in sendingsOf(delivery.id)"
              :key="one.id"
              :sending="one"
              @stop="hand.stop(one.id)"
              @again="hand.again(one.id)"
            />
          </LedgerLine>
          <p v-if="hand.trouble.value" class="notice bad" role="alert">{{ hand.trouble.value }}</p>
        </section>
      </div>
    </div>
  </StationFrame>
</template>

<style scoped>
.scroll {
  height: 100%;
  overflow-y: auto;
}
.docket {
  display: grid;
  grid-template-columns: minmax(0, 760px) 250px;
  justify-content: center;
  gap: 20px 28px;
  padding: 26px 20px 60px;
}
.recipe {
  display: grid;
  gap: 18px;
  justify-items: start;
  padding: 22px 26px;
  border: 1px solid var(--line);
  border-top: 5px solid var(--brand);
  background: var(--card);
}
.stack {
  display: grid;
  gap: 14px;
  align-content: start;
}
.margin {
  display: grid;
  gap: 20px;
  align-content: start;
}
.row {
  display: flex;
  gap: 22px;
  align-items: center;
}
.ledger {
  display: grid;
  gap: 12px;
  grid-column: 1;
}
h2 {
  font-size: 19px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.empty {
  display: grid;
  gap: 14px;
  justify-items: center;
  align-content: center;
  height: 100%;
}
</style>
