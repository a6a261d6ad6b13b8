<script setup lang="ts">
import { countsInWords, missingOf } from '~/calls'
import { useRegister } from '~/composables/useRegister'
import { useSession } from '~/stores/session'
import { lastMoment } from '~/words'

/** The register of a call. */
const route = useRoute()
const session = useSession()
const id = computed(() => String(route.params['call']))
const { register, busy, trouble, told, chosen, opened, row, load, say, open, choose, remind, sendLink } = useRegister(() => id.value)
onMounted(load)
const call = computed(() => register.value?.call ?? null)
const path = computed(() => (call.value === null ? '' : new URL(call.value.link).pathname))
const rows = computed(() => register.value?.rows ?? [])
const missing = computed(() => missingOf(rows.value))
const handedIn = computed(() => rows.value.filter(({ entry }) => entry !== null).length)
const taking = ref(false)
useHead({ title: () => `${call.value?.title ?? 'Register'} · Aisle Talk` })
const isOver = computed(() => call.value !== null && new Date(call.value.until).getTime() < Date.now())
</script>

<template>
  <div class="page">
    <ShellBar />
    <main>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <template v-if="call">
        <header>
          <div class="what">
            <h1>{{ call.title }}</h1>
            <p class="soft">{{ isOver ? 'Was over on' : 'Until' }} {{ lastMoment(call.until) }} · {{ countsInWords(call) }}</p>
          </div>
          <div class="ways">
            <button class="press" :disabled="handedIn === 0" @click="taking = true">
              {{ chosen.size === 0 ? 'Take all along' : `Take ${chosen.size} along` }}
            </button>
            <button v-if="missing.length > 0" class="press" :disabled="busy" @click="remind()">
              {{ missing.some(({ reminded }) => reminded === null) ? 'Write to' : 'Remind' }} {{ missing.length }} who
              {{ missing.length === 1 ? 'is' : 'are' }} missing
            </button>
            <NuxtLink class="press" :to="`/calls/${call.id}/asked`">What is asked</NuxtLink>
          </div>
        </header>
        <p v-if="call.earlierRules > 0" class="notice" role="note">
          The rules were changed. {{ call.earlierRules === 1 ? 'One who' : `${call.earlierRules} who` }} had begun
          {{ call.earlierRules === 1 ? 'is' : 'are' }} held to the rules as they were, unless they take the new ones.
        </p>
        <p v-if="told" class="soft" role="status">{{ told }}</p>
        <div class="body">
          <div class="list">
            <RegisterTable
              v-if="rows.length > 0"
              :rows="rows"
              :opened="opened"
              :chosen="chosen"
              @open="open"
              @choose="choose"
              @link="sendLink($event.entrant, $event.name)"
            />
            <p v-else class="soft empty">
              Nobody has begun yet. Give them the link beside this; who begins stands here, with what they hand in.
            </p>
          </div>
          <EntryPanel
            v-if="row"
            :row="row"
            :call="call.id"
            :busy="busy"
            @say="(review, remark) => row?.entry && say(row.entry.id, review, remark)"
            @close="opened = null"
          />
          <aside v-else class="about">
            <h2>The link</h2>
            <CopyLink :address="call.link" label="Link of the call" />
            <p v-if="call.audience !== 'link'" class="soft">
              It is for those who are listed. Each is sent a link of their own by “Write to”; who comes by this one is sent theirs by mail.
            </p>
            <p v-else class="soft">Whoever has it can begin{{ call.accounts ? ', signed in' : ', without an account' }}.</p>
            <p v-if="!session.accounts" class="notice" role="note">
              This server works without accounts and answers this computer alone, so the link opens only here. For others to come, it is
              started with accounts.
            </p>
            <NuxtLink :to="path" target="_blank">See it as they do</NuxtLink>
            <p class="soft">Choose a talk in the register to play it here.</p>
          </aside>
        </div>
        <TakeAllAlong
          v-model="taking"
          :call="call.id"
          :rows="rows"
          :chosen="chosen"
          :fields="(call.rules.fields ?? []).map(({ key }) => key)"
        />
      </template>
      <NuxtLink v-else-if="trouble" class="press" to="/calls">To your calls</NuxtLink>
    </main>
  </div>
</template>

<style scoped>
main {
  display: grid;
  gap: 16px;
  max-width: 1420px;
  margin: 0 auto;
  padding: 22px 20px 40px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 24px;
  justify-content: space-between;
  align-items: flex-start;
}
.what {
  display: grid;
  flex: 1 1 420px;
  gap: 4px;
  min-width: 0;
}
h1 {
  font-size: 26px;
  overflow-wrap: anywhere;
}
h2 {
  font-size: 19px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 390px;
  gap: 20px;
  align-items: start;
}
.list {
  min-width: 0;
}
/* What is played stays while the register is scrolled. */
.body > aside {
  position: sticky;
  top: 12px;
  max-height: calc(100vh - 24px);
  overflow-y: auto;
}
.about {
  display: grid;
  gap: 12px;
  padding: 16px 18px;
  border: 1px solid var(--line);
  background: var(--card);
}
.empty {
  padding: 60px 40px;
  border: 1px dashed var(--line);
  text-align: center;
}
@media (max-width: 1020px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
  .body > aside {
    position: static;
    max-height: none;
  }
}
</style>
