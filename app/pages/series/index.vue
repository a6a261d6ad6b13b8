<script setup lang="ts">
import type { SeriesView, TalkCard } from '@contracts'
import { api } from '~/client'
import { useGroups } from '~/composables/useGroups'
import { useSeries } from '~/composables/useSeries'

/** Talks in order, each series with a page of its own. */
const { series, transcript, trouble, load, make, remove, change, tell } = useSeries()
const { groups, load: loadGroups } = useGroups()
const talks = shallowRef<readonly TalkCard[]>([])
const { trouble: talkTrouble, attempt } = useAttempt()
const name = ref('')
const going = ref<SeriesView | null>(null)
onMounted(() =>
  Promise.all([
    load(),
    loadGroups(),
    attempt(async () => {
      talks.value = await api.get<readonly TalkCard[]>('/talks')
    }),
  ]),
)
useHead({ title: 'Series · Aisle Talk' })
async function add(wanted: string): Promise<void> {
  await make(wanted)
  if (trouble.value === null) name.value = ''
}
async function removeIt(): Promise<void> {
  if (going.value !== null) await remove(going.value)
  going.value = null
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="column wide">
      <h1>Series</h1>
      <p class="soft">A course, a season of meetings: talks in order behind one link, with a feed for whoever follows it.</p>
      <p v-if="trouble ?? talkTrouble" class="notice bad" role="alert">{{ trouble ?? talkTrouble }}</p>
      <MakeByName v-model="name" label="Name of a new series" placeholder="Tides in six evenings" action="Make a series" @make="add" />
      <SeriesSheet
        v-for="one in series ?? []"
        :key="one.id"
        :series="one"
        :talks="talks"
        :groups="groups ?? []"
        :tell="(talk: string) => tell(one, talk)"
        @change="change(one, $event)"
        @remove="going = one"
        @transcript="transcript(one)"
      />
      <p v-if="series?.length === 0" class="empty soft">No series yet. Name one above, then put talks in.</p>
    </main>
    <el-dialog :model-value="going !== null" title="Delete this series?" width="440" append-to-body @close="going = null">
      <p>Its page and feed go; the talks in it stay as they are.</p>
      <template #footer>
        <button class="press" @click="going = null">Keep it</button><button class="press main" @click="removeIt">Delete it</button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.empty {
  padding: 30px 0;
}
</style>
