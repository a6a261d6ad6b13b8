<script setup lang="ts">
import { Search } from '@element-plus/icons-vue'
import { useLocalStorage } from '@vueuse/core'
import type { Ms } from '@core/model'
import { STARTER_NAMES, STARTERS } from '@core/starters'
import type { StarterName } from '@core/starters'
import { TALK_ORDERS } from '@contracts'
import type { TalkCard, TalkOrder } from '@contracts'
import { api, bringIn } from '~/client'
import { useTalks } from '~/composables/useTalks'
import { duration } from '~/words'

const { busy, trouble, attempt } = useAttempt()
const { talks, count, wanted, order, load, more } = useTalks(attempt)
const dropped = shallowRef<readonly File[]>([])
const name = ref('')
const limit = ref<Ms | null>(10 * 60_000)
const gone = ref<TalkCard | null>(null)

/** From so many talks on they can be looked for and put in order, and from so many on each has a line. */
const MANY = 5
const LINES = 12
const ORDER_WORDS: Readonly<Record<TalkOrder, string>> = { waiting: 'what waits for me', changed: 'changed last', name: 'by name' }
const all = computed(() => count.value?.all ?? 0)
/** Said as long as there is nothing here but what the product came with. */
const greeted = useLocalStorage('aisle-greeted', false)
const first = computed(() => !greeted.value && all.value > 0 && count.value?.examples === true)

useHead({ title: 'Talks · Aisle Talk' })

/** @param starter a deck to begin from; null: an empty one */
async function begin(starter: StarterName | null): Promise<void> {
  await attempt(async () => {
    const fresh = starter === null ? { limit: limit.value } : { limit: STARTERS[starter].limit, starter }
    const { id } = await api.post<{ id: string }>('/talks', { name: 'New talk', ...fresh })
    await navigateTo(`/talks/${id}/prepare`)
  })
}

onMounted(() => attempt(load))

function take(files: readonly File[]): void {
  dropped.value = files
  const first = files[0]?.name ?? ''
  name.value = files.length === 1 ? first.replace(/\.[^.]+$/, '').replace(/[-_]+/g, ' ') : 'New talk'
}

const make = (): Promise<void> =>
  attempt(async () => {
    const { id } = await api.post<{ id: string }>('/talks', {
      name: name.value.trim() === '' ? 'New talk' : name.value,
      limit: limit.value,
    })
    try {
      if (dropped.value.length > 0) await bringIn(id, dropped.value)
    } catch (error) {
      await api.delete(`/talks/${id}`)
      throw error
    }
    await navigateTo(`/talks/${id}/prepare`)
  })

const duplicate = (talk: TalkCard): Promise<void> =>
  attempt(async () => {
    await api.post(`/talks/${talk.id}/duplicate`)
    await load()
  })

const remove = (talk: TalkCard): Promise<void> =>
  attempt(async () => {
    await api.delete(`/talks/${talk.id}`)
    gone.value = talk
    await load()
  })

const bringBack = (): Promise<void> =>
  attempt(async () => {
    if (gone.value !== null) await api.post(`/talks/${gone.value.id}/restore`)
    gone.value = null
    await load()
  })
</script>

<template>
  <div class="home">
    <ShellBar />
    <main>
      <h1>Talks</h1>
      <div v-if="trouble" class="notice bad" role="alert">
        <p>{{ trouble }}</p>
      </div>
      <div v-if="gone" class="notice" role="status">
        <p>“{{ gone.name }}” was deleted.</p>
        <button class="press small" @click="bringBack">Undo</button>
      </div>
      <form v-if="dropped.length > 0" class="fresh" @submit.prevent="make">
        <label class="grow">Name <el-input v-model="name" maxlength="160" autofocus /></label>
        <label>Limit <LimitField v-model="limit" /></label>
        <button class="press main" type="submit" :disabled="busy">{{ busy ? 'Sending …' : 'Make this talk' }}</button>
        <button class="press quiet" type="button" :disabled="busy" @click="dropped = []">Not now</button>
        <p class="soft">{{ dropped.length === 1 ? dropped[0]?.name : `${dropped.length} files, in the order of their names` }}</p>
      </form>
      <div v-else class="begin">
        <DropPlace
          title="New talk: drop a deck here"
          hint="An office deck, a PDF, pictures, a Markdown text, or a zip of these. Or click to choose."
          @files="take"
        />
        <section class="ways" aria-label="Begin without a deck">
          <p class="soft">Or begin with</p>
          <button class="press small" :disabled="busy" @click="begin(null)">An empty deck</button>
          <button v-for="one in STARTER_NAMES" :key="one" class="press small" :disabled="busy" @click="begin(one)">
            {{ STARTERS[one].title }}<span class="clock soft">{{ duration(STARTERS[one].limit) }}</span>
          </button>
          <BeginOtherwise @trouble="trouble = $event" />
        </section>
      </div>
      <div v-if="first" class="notice" role="note">
        <p>These talks are examples: play them, record over them, delete them. To begin your own, drop a deck above.</p>
        <button class="press quiet small" @click="greeted = true">Close</button>
      </div>
      <div v-if="all >= MANY" class="order">
        <el-input v-model="wanted" class="find" placeholder="Find a talk" aria-label="Find a talk" clearable :prefix-icon="Search" />
        <el-select v-model="order" class="by" aria-label="Order of the talks">
          <template #prefix>First</template>
          <el-option v-for="one in TALK_ORDERS" :key="one" :value="one" :label="ORDER_WORDS[one]" />
        </el-select>
        <span class="soft" role="status">{{ count?.found === all ? `${all} talks` : `${count?.found} of ${all} talks` }}</span>
      </div>
      <div v-if="talks && all >= LINES && talks.length > 0" class="lines">
        <TalkLine v-for="talk in talks" :key="talk.id" :talk="talk" @duplicate="duplicate(talk)" @remove="remove(talk)" />
      </div>
      <div v-else-if="talks && talks.length > 0" class="tiles">
        <TalkTile v-for="talk in talks" :key="talk.id" :talk="talk" @duplicate="duplicate(talk)" @remove="remove(talk)" />
      </div>
      <p v-else-if="all > 0" class="soft">No talk is called that. <button class="press small" @click="wanted = ''">Show all</button></p>
      <p v-else-if="talks" class="soft">Your talks will stand here, each with what it needs next.</p>
      <button v-if="talks && count && talks.length < count.found" class="press more" :disabled="busy" @click="more">
        Show more of {{ count.found }}
      </button>
      <p v-if="all > 0"><NuxtLink to="/archives">Take all talks along, in open formats</NuxtLink></p>
    </main>
  </div>
</template>

<style scoped>
.home {
  min-height: 100vh;
}
main {
  display: grid;
  gap: 20px;
  max-width: 1240px;
  margin: 0 auto;
  padding: 28px 20px 60px;
}
h1 {
  font-size: 30px;
}
.fresh {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 16px;
  padding: 16px;
  border: 2px solid var(--brand);
  border-radius: 6px;
  background: var(--card);
}
.fresh label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.fresh .grow {
  flex: 1 1 300px;
}
.fresh p {
  flex-basis: 100%;
}
.begin {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 16px;
  align-items: stretch;
}
.ways {
  display: grid;
  gap: 4px;
  align-content: center;
}
.ways .press {
  justify-content: space-between;
}
.more {
  justify-self: center;
}
.order {
  display: flex;
  gap: 14px;
  align-items: center;
}
.find {
  width: 320px;
}
.by {
  width: 230px;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(520px, 1fr));
  gap: 16px;
}
</style>
