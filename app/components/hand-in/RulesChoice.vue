<script setup lang="ts">
import { RULE_SETS } from '@core/rules'
import type { Rules } from '@core/rules'
import type { RuleSetView, StandIns } from '@contracts'
import { api } from '~/client'

/** Where the rules of a talk come from: a desk, a file, some that are there, or a form. */
defineProps<{
  standIns: StandIns | null
  busy: boolean
  /** For what is asked of others there is no desk. */
  withoutDesk?: boolean
}>()
const emit = defineEmits<{ take: [wish: { readonly rules: Rules } | { readonly desk: string }] }>()
const own = ref<readonly RuleSetView[]>([])
const desk = ref('')
const writing = ref(false)
const changed = shallowRef<Rules | null>(null)
function write(rules: Rules | null): void {
  changed.value = rules
  writing.value = true
}
const chooser = ref<{ open: () => void } | null>(null)
const unreadable = ref<string | null>(null)
const { trouble, attempt } = useAttempt()

const load = (): Promise<void> =>
  attempt(async () => {
    own.value = await api.get<readonly RuleSetView[]>('/rules')
  })
const drop = (id: string): Promise<void> =>
  attempt(async () => {
    await api.delete(`/rules/${id}`)
    await load()
  })
onMounted(load)

async function read([file]: readonly File[]): Promise<void> {
  unreadable.value = null
  try {
    // The server looks at it: it may be anything.
    emit('take', { rules: JSON.parse((await file?.text()) ?? '') as Rules })
  } catch {
    unreadable.value = `“${file?.name ?? ''}” is no document of rules: it is no JSON.`
  }
}
async function written(rules: Rules): Promise<void> {
  await attempt(async () => {
    await api.post('/rules', { rules })
    writing.value = false
    emit('take', { rules })
    await load()
  })
}
</script>

<template>
  <div class="choice">
    <form v-if="!withoutDesk" class="desk" @submit.prevent="emit('take', { desk: desk.trim() })">
      <label
        ><b>The desk has its rules at an address</b>
        <span class="line"
          ><el-input v-model="desk" placeholder="https://meeting.example/talks" maxlength="500" aria-label="Address of the desk" />
          <button class="press main" :disabled="busy || desk.trim() === ''">Ask the desk</button></span
        ></label
      >
      <p v-if="standIns" class="soft">
        To practise: a desk of a made-up meeting runs beside this program, and looks into what it gets.
        <button type="button" class="press small" :disabled="busy" @click="emit('take', { desk: standIns.desk })">
          Take the practice desk
        </button>
      </p>
    </form>
    <div>
      <b>{{ withoutDesk ? 'Take some that are here' : 'Or take some that are here' }}</b>
      <ul class="listed">
        <li v-for="rules in RULE_SETS" :key="rules.name">
          <button class="set" :disabled="busy" @click="emit('take', { rules })">
            <span class="name">{{ rules.name }}</span><span class="soft">{{ rules.about }}</span>
          </button>
        </li>
        <li v-for="{ id, rules } in own" :key="id" class="own">
          <button class="set" :disabled="busy" @click="emit('take', { rules })">
            <span class="name">{{ rules.name }}</span><span class="soft">{{ rules.about ?? 'yours' }}</span></button
          ><button class="press quiet small" :aria-label="`Change the rules ${rules.name}`" @click="write(rules)">Change</button
          ><button class="press quiet small danger" :aria-label="`Delete the rules ${rules.name}`" @click="drop(id)">Delete</button>
        </li>
      </ul>
    </div>
    <div class="wrapped">
      <button class="press" @click="write(null)">Write rules</button>
      <button class="press" @click="chooser?.open()">Read them from a file</button>
      <FileChooser ref="chooser" accept=".json,application/json" aria-label="A file of rules" @files="read" />
    </div>
    <p v-if="unreadable ?? trouble" class="notice bad" role="alert">{{ unreadable ?? trouble }}</p>
    <RulesForm v-model="writing" :rules="changed" @written="written" />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  gap: 22px;
  width: 100%;
}
.desk,
label {
  display: grid;
  gap: 8px;
}
.line {
  display: flex;
  gap: 10px;
}
.listed {
  margin-top: 8px;
}
.set {
  display: grid;
  grid-template-columns: 210px 1fr;
  gap: 16px;
  align-items: baseline;
  width: 100%;
  padding: 9px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: transparent;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.set:hover:not(:disabled) {
  background: var(--brand-wash);
}
.name {
  font-weight: 640;
  overflow-wrap: anywhere;
}
.own {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
