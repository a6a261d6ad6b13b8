<script setup lang="ts">
import type { GroupId } from '@core/model'
import type { ShareChange, ShareLevel, ShareView } from '@contracts'
import { useGroups, useSharedWith } from '~/composables/useGroups'

/** Who may see a talk: one of five kinds of people, until a day, and by a phrase besides if that is wanted. */
const props = defineProps<{ share: ShareView; talkId: string }>()
const emit = defineEmits<{ change: [fields: Partial<ShareChange>] }>()
const LEVEL_WORDS: Readonly<Record<ShareLevel, string>> = {
  closed: 'nobody but me',
  link: 'whoever has the link',
  people: 'people I name',
  group: 'a group',
  shelf: 'everybody, on the shelf',
}
const { groups, trouble: groupTrouble, load: loadGroups } = useGroups()
const { people, trouble: peopleTrouble, load: loadPeople, change: changePeople } = useSharedWith(() => props.talkId)
const trouble = computed(() => groupTrouble.value ?? peopleTrouble.value)
watch(
  () => props.share.level,
  (level) => {
    if (level === 'people') void loadPeople()
    if (level === 'group') void loadGroups()
  },
  { immediate: true },
)
const phrase = ref('')
const until = computed({
  get: () => props.share.until,
  set: (day: string | null) => {
    emit('change', { until: day === null ? null : new Date(day).toISOString() })
  },
})
function setPhrase(): void {
  if (phrase.value.trim() !== '') emit('change', { phrase: phrase.value.trim() })
  phrase.value = ''
}
const over = computed(() => props.share.until !== null && new Date(props.share.until).getTime() <= Date.now())
const chosen = computed(() => groups.value?.find(({ id }) => id === props.share.group))
</script>

<template>
  <div class="audience">
    <p class="sentence">
      Show this talk to
      <el-select
        :model-value="share.level"
        class="level"
        aria-label="Who may see it"
        @update:model-value="emit('change', { level: $event as ShareLevel })"
      >
        <el-option v-for="(words, level) in LEVEL_WORDS" :key="level" :value="level" :label="words" />
      </el-select>
      <el-select
        v-if="share.level === 'group'"
        :model-value="share.group ?? ''"
        class="level"
        aria-label="Which group"
        placeholder="choose a group"
        @update:model-value="emit('change', { group: $event as GroupId })"
      >
        <el-option v-for="group in groups ?? []" :key="group.id" :value="group.id" :label="`${group.name} (${group.members.length})`" />
      </el-select>
    </p>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="share.level === 'group'" class="soft">
      <template v-if="groups?.length === 0">There are no groups yet. </template
      ><template v-else-if="groups !== null && chosen === undefined">Nobody sees it until a group is chosen. </template
      ><NuxtLink to="/groups">{{ groups?.length === 0 ? 'Make one' : 'Change your groups' }}</NuxtLink>
    </p>
    <PeopleList v-if="share.level === 'people'" :people="people" label="People who may see it" @change="changePeople" />
    <el-checkbox
      v-if="share.level === 'people' || share.level === 'group'"
      :model-value="share.reports"
      @change="emit('change', { reports: $event === true })"
      >I want to see who has watched to the end; they are told so</el-checkbox
    >
    <div v-if="share.level !== 'closed'" class="bounds">
      <label
        >Until
        <el-date-picker v-model="until" type="datetime" value-format="YYYY-MM-DDTHH:mm:ssZ" placeholder="no last day" aria-label="Until" />
      </label>
      <form class="phrase" @submit.prevent="setPhrase">
        <label
          >Pass phrase
          <el-input
            v-model="phrase"
            :placeholder="share.phrased ? 'there is one; write another' : 'none'"
            maxlength="200"
            autocomplete="off"
          />
        </label>
        <button class="press small" :disabled="phrase.trim().length < 4">Set it</button>
        <button v-if="share.phrased" type="button" class="press quiet small" @click="emit('change', { phrase: null })">Ask for none</button>
      </form>
    </div>
    <p v-if="over" class="notice" role="status">That time is over: nobody sees it any more.</p>
  </div>
</template>

<style scoped>
.audience {
  display: grid;
  gap: 14px;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  font-size: 19px;
}
.level {
  width: 240px;
}
.bounds {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 24px;
  align-items: end;
}
label {
  display: grid;
  gap: 4px;
}
.phrase {
  display: flex;
  gap: 8px;
  align-items: end;
}
</style>
