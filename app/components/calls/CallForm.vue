<script setup lang="ts">
import type { Rules } from '@core/rules'
import type { AddressWish, CallAudience, CallFields, TalkCard } from '@contracts'
import { api } from '~/client'
import { useGroups } from '~/composables/useGroups'
import { useSession } from '~/stores/session'

/** What is asked, of whom, and until when. */
const props = defineProps<{ first: CallFields; busy: boolean; action: string; /** How many have begun already. */ begun?: number }>()
const emit = defineEmits<{ keep: [fields: CallFields] }>()
const session = useSession()
const draft = ref<CallFields>(props.first)
const { groups, trouble, load } = useGroups()
const talks = shallowRef<readonly TalkCard[]>([])
const choosing = ref(false)
onMounted(async () => {
  await load()
  talks.value = (await api.get<readonly TalkCard[]>('/talks')).filter(({ picture }) => picture !== null)
})

const AUDIENCES: Readonly<Record<CallAudience, string>> = {
  link: 'Whoever has the link',
  group: 'A group',
  people: 'People by their addresses',
}
const ADDRESSES: Readonly<Record<AddressWish, string>> = {
  no: 'Nobody says an address',
  optional: 'An address if they like',
  required: 'Everybody says an address',
}
const until = computed({
  get: () => new Date(draft.value.until),
  set: (at: Date | null) => {
    if (at !== null) draft.value = { ...draft.value, until: at.toISOString() }
  },
})
const set = (change: Partial<CallFields>): void => {
  draft.value = { ...draft.value, ...change }
}
function takeRules(wish: { readonly rules: Rules } | { readonly desk: string }): void {
  if ('rules' in wish) set({ rules: wish.rules })
  choosing.value = false
}
const title = computed({
  get: () => draft.value.title,
  set: (text: string) => {
    set({ title: text })
  },
})
const asks = computed({
  get: () => draft.value.asks,
  set: (text: string) => {
    set({ asks: text })
  },
})
const missing = computed(() => {
  if (draft.value.title.trim() === '') return 'It needs a title.'
  if (draft.value.audience === 'group' && draft.value.group === null) return 'Choose the group that is asked.'
  if (draft.value.audience === 'people' && draft.value.people.length === 0) return 'Nobody is named yet.'
  return null
})
const rulesChanged = computed(() => (props.begun ?? 0) > 0 && JSON.stringify(draft.value.rules) !== JSON.stringify(props.first.rules))
</script>

<template>
  <form class="form" @submit.prevent="emit('keep', { ...draft, title: draft.title.trim() })">
    <label class="asked">Title <el-input v-model="title" maxlength="160" placeholder="Knots of the harbour, class 9b" /></label>
    <label class="asked"
      >What is asked
      <el-input
        v-model="asks"
        type="textarea"
        maxlength="4000"
        :autosize="{ minRows: 3, maxRows: 10 }"
        placeholder="Show one knot, and say what it holds and what it does not."
      />
    </label>
    <section aria-label="Rules">
      <div class="over">
        <b>Rules: {{ draft.rules.name }}</b>
        <button type="button" class="press small" @click="choosing = true">Other rules</button>
      </div>
      <RulesAsked :rules="draft.rules" />
      <p v-if="rulesChanged" class="notice" role="status">
        {{ begun === 1 ? 'One has' : `${begun} have` }} begun by the rules as they were, and will be held to those. They are told, and may
        take the new ones.
      </p>
      <el-radio-group
        :model-value="draft.faulty"
        aria-label="What does not keep the rules"
        @update:model-value="set({ faulty: $event as CallFields['faulty'] })"
      >
        <el-radio value="refused">What does not keep them is not taken</el-radio>
        <el-radio value="marked">It is taken, and marked</el-radio>
      </el-radio-group>
    </section>
    <section aria-label="Last day">
      <label class="asked"
        >The last moment
        <el-date-picker v-model="until" type="datetime" :clearable="false" format="ddd D MMM YYYY, HH:mm" aria-label="Last moment" />
      </label>
      <el-radio-group
        :model-value="draft.late"
        aria-label="What comes later"
        @update:model-value="set({ late: $event as CallFields['late'] })"
      >
        <el-radio value="marked">What comes later is taken, and marked</el-radio>
        <el-radio value="refused">Nothing is taken later</el-radio>
      </el-radio-group>
    </section>
    <section aria-label="Who is asked">
      <b>Who is asked</b>
      <el-radio-group
        :model-value="draft.audience"
        aria-label="Who is asked"
        @update:model-value="set({ audience: $event as CallAudience })"
      >
        <el-radio v-for="(words, one) in AUDIENCES" :key="one" :value="one">{{ words }}</el-radio>
      </el-radio-group>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <el-radio-group
        v-if="draft.audience === 'group' && (groups?.length ?? 0) > 0"
        :model-value="draft.group ?? ''"
        aria-label="Which group"
        class="inner"
        @update:model-value="set({ group: groups?.find(({ id }) => id === $event)?.id ?? null })"
      >
        <el-radio v-for="group in groups ?? []" :key="group.id" :value="group.id">{{ group.name }} ({{ group.members.length }})</el-radio>
      </el-radio-group>
      <p v-else-if="draft.audience === 'group'" class="soft">There are no groups yet. <NuxtLink to="/groups">Make one</NuxtLink></p>
      <PeopleList
        v-else-if="draft.audience === 'people'"
        :people="draft.people"
        label="People who are asked"
        @change="set({ people: $event })"
      />
      <el-radio-group
        v-else
        :model-value="draft.address"
        aria-label="Their addresses"
        class="inner"
        @update:model-value="set({ address: $event as AddressWish })"
      >
        <el-radio v-for="(words, one) in ADDRESSES" :key="one" :value="one">{{ words }}</el-radio>
      </el-radio-group>
      <el-checkbox v-if="session.accounts" :model-value="draft.accounts" @change="set({ accounts: $event === true })"
        >They sign in with an account here; otherwise each gets a link of their own</el-checkbox
      >
    </section>
    <section v-if="talks.length > 0" aria-label="A deck to begin with">
      <label class="asked"
        >A deck to begin with
        <el-select
          :model-value="draft.deck ?? 'none'"
          aria-label="A deck to begin with"
          @update:model-value="set({ deck: $event === 'none' ? null : String($event) })"
        >
          <el-option value="none" label="none: they bring their own" />
          <el-option v-for="talk in talks" :key="talk.id" :value="talk.id" :label="talk.name" />
        </el-select>
      </label>
    </section>
    <div class="wrapped end">
      <button class="press main large" :disabled="busy || missing !== null">{{ action }}</button>
      <span v-if="missing" class="soft">{{ missing }}</span><slot />
    </div>
    <el-dialog v-model="choosing" title="Rules" width="680" append-to-body>
      <RulesChoice :stand-ins="null" :busy="busy" without-desk @take="takeRules" />
    </el-dialog>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 22px;
}
section {
  display: grid;
  gap: 10px;
  justify-items: start;
}
section > * {
  max-width: 100%;
}
.over {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  width: 100%;
}
.end {
  position: sticky;
  bottom: 0;
  z-index: 1;
  padding: 12px 0;
  border-top: 1px solid var(--line);
  background: var(--ground);
}
.inner {
  padding-left: 22px;
}
.asked {
  width: 100%;
}
.asked-list {
  width: 100%;
}
</style>
