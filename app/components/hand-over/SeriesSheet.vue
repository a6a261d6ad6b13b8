<script setup lang="ts">
import { ArrowDown, ArrowUp } from '@element-plus/icons-vue'
import { useClipboard } from '@vueuse/core'
import type { GroupId, TalkId } from '@core/model'
import type { GroupView, SeriesFields, SeriesView, TalkCard } from '@contracts'

/** One series: its talks in order, where it stands, and who is written to. */
const props = defineProps<{
  series: SeriesView
  talks: readonly TalkCard[]
  groups: readonly GroupView[]
  tell: (talk: string) => Promise<number | null>
}>()
const emit = defineEmits<{ change: [fields: Partial<SeriesFields>]; remove: []; transcript: [] }>()
const { copy, copied } = useClipboard({ legacy: true })
const told = ref<{ readonly talk: string; readonly count: number } | null>(null)
const NO_GROUP = 'none'
const path = computed(() => new URL(props.series.address).pathname)

const ids = computed<readonly string[]>(() => props.series.talks.map(({ id }) => id))
const others = computed(() => props.talks.filter(({ id }) => !ids.value.includes(id)))
function move(at: number, by: -1 | 1): void {
  const next = props.series.talks.map(({ id }) => id)
  const [moved] = next.splice(at, 1)
  if (moved !== undefined) next.splice(at + by, 0, moved)
  emit('change', { talks: next })
}
const put = (id: string): void => {
  emit('change', { talks: [...props.series.talks.map((talk) => talk.id), id as TalkId] })
}
const takeOut = (id: TalkId): void => {
  emit('change', { talks: props.series.talks.map((talk) => talk.id).filter((one) => one !== id) })
}
async function write(talk: string): Promise<void> {
  const count = await props.tell(talk)
  told.value = count === null ? null : { talk, count }
}
</script>

<template>
  <NamedSheet :name="series.name" label="Name of the series" @rename="emit('change', { name: $event })">
    <template #actions>
      <button class="press small" @click="copy(series.address)">{{ copied ? 'Copied' : 'Copy its link' }}</button>
      <NuxtLink class="press small" :to="path">Look at it</NuxtLink>
      <button v-if="series.talks.length > 0" class="press small" @click="emit('transcript')">Keep all that is said</button>
      <button class="press quiet small" @click="emit('remove')">Delete</button>
    </template>
    <el-input
      type="textarea"
      :autosize="{ minRows: 1, maxRows: 6 }"
      :model-value="series.description"
      aria-label="What it is about"
      placeholder="What it is about, for those who come by its link"
      maxlength="4000"
      @change="emit('change', { description: String($event) })"
    />
    <ol v-if="series.talks.length > 0" :aria-label="`Talks in ${series.name}`">
      <li v-for="(talk, n) in series.talks" :key="talk.id">
        <span class="clock soft">{{ n + 1 }}</span>
        <NuxtLink :to="`/talks/${talk.id}/hand-over?leaf=show`">{{ talk.name }}</NuxtLink>
        <span class="soft state">
          <template v-if="told?.talk === talk.id">{{
            told.count === 1 ? 'One letter was written' : `${told.count} letters were written`
          }}</template>
          <template v-else-if="talk.level === 'closed'">shown to nobody yet</template>
        </span>
        <button v-if="series.group !== null && talk.level !== 'closed'" class="press quiet small" @click="write(talk.id)">
          Write to the group
        </button>
        <button class="press quiet small" :disabled="n === 0" :aria-label="`Move ${talk.name} up`" @click="move(n, -1)"><ArrowUp /></button>
        <button
          class="press quiet small"
          :disabled="n === series.talks.length - 1"
          :aria-label="`Move ${talk.name} down`"
          @click="move(n, 1)"
        >
          <ArrowDown />
        </button>
        <button class="press quiet small" :aria-label="`Take ${talk.name} out`" @click="takeOut(talk.id)">Take out</button>
      </li>
    </ol>
    <p v-else class="soft">No talk is in it yet.</p>
    <div class="row">
      <el-select
        v-if="others.length > 0"
        model-value=""
        class="pick"
        aria-label="Put a talk in"
        placeholder="Put a talk in"
        filterable
        @update:model-value="put($event)"
      >
        <el-option v-for="talk in others" :key="talk.id" :value="talk.id" :label="talk.name" />
      </el-select>
      <label
        >New talks are told to
        <el-select
          :model-value="series.group ?? NO_GROUP"
          class="pick"
          aria-label="Who is written to"
          @update:model-value="emit('change', { group: $event === NO_GROUP ? null : ($event as GroupId) })"
        >
          <el-option :value="NO_GROUP" label="nobody" />
          <el-option v-for="group in groups" :key="group.id" :value="group.id" :label="group.name" />
        </el-select>
      </label>
      <el-checkbox :model-value="series.shelved" @change="emit('change', { shelved: $event === true })">on the shelf</el-checkbox>
    </div>
  </NamedSheet>
</template>

<style scoped>
.row,
label {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
ol {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  min-height: 36px;
  overflow-wrap: anywhere;
}
.state {
  flex: 1;
  text-align: right;
}
.pick {
  width: 220px;
}
li svg {
  width: 16px;
}
</style>
