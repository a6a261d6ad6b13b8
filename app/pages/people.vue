<script setup lang="ts">
import { Search } from '@element-plus/icons-vue'
import { watchDebounced } from '@vueuse/core'
import type { PersonRow } from '@contracts'
import { usePeople } from '~/composables/usePeople'
import { useSession } from '~/stores/session'
import { moment } from '~/words'

/** Who has an account here, for who runs the server. Nothing of what people wrote or recorded is seen. */
const session = useSession()
const { page, words, from, trouble, load, change, handOver, takeBack, resetLink } = usePeople()
/** Who is asked about, and what. */
const asked = shallowRef<{
  readonly person: PersonRow
  readonly what: 'quota' | 'hand-over' | 'goes' | 'reset'
  readonly link?: string
} | null>(null)
onMounted(load)
watchDebounced(
  words,
  () => {
    from.value = 0
    void load()
  },
  { debounce: 250 },
)
useHead({ title: 'People · Aisle Talk' })

async function deed(person: PersonRow, what: string): Promise<void> {
  switch (what) {
    case 'quota':
    case 'hand-over':
      asked.value = { person, what }
      break
    case 'reset': {
      const link = await resetLink(person)
      if (link !== null) asked.value = { person, what, link }
      break
    }
    case 'operator':
      await change(person, { operator: !person.operator })
      break
    case 'blocked':
      await change(person, { blocked: !person.blocked })
      break
    case 'verified':
      await change(person, { verified: true })
      break
    case 'goes':
      if (person.goes === null) asked.value = { person, what }
      else await change(person, { goes: false })
      break
  }
}
/** Closes what is asked when it was done. */
async function settle(work: Promise<boolean>): Promise<void> {
  if (await work) asked.value = null
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="column wide">
      <h1>People</h1>
      <p v-if="trouble && asked?.what !== 'hand-over'" class="notice bad" role="alert">{{ trouble }}</p>
      <InvitePerson @invited="load" />
      <section v-if="page && page.invited.length > 0" class="page-sheet" aria-labelledby="invited-title">
        <h2 id="invited-title">Invited, not here yet</h2>
        <ul class="listed">
          <li v-for="one in page.invited" :key="one.address" class="invited">
            <span class="grow">{{ one.address }}<span v-if="one.operator" class="soft">, as operator</span></span>
            <span class="soft">until {{ moment(one.until) }}</span>
            <button class="press quiet small" :aria-label="`Take the invitation of ${one.address} back`" @click="takeBack(one.address)">
              Take back
            </button>
          </li>
        </ul>
      </section>
      <section v-if="page" class="page-sheet" aria-labelledby="accounts-title">
        <header class="wrapped">
          <h2 id="accounts-title">{{ page.count === 1 ? 'One account' : `${page.count} accounts` }}</h2>
          <span class="gap" />
          <el-input v-model="words" class="find" placeholder="Name or e-mail" aria-label="Find somebody" clearable :prefix-icon="Search" />
        </header>
        <ul class="people">
          <PersonLine
            v-for="person in page.people"
            :key="person.id"
            :person="person"
            :own="person.id === session.person?.id"
            @deed="deed(person, $event)"
          />
        </ul>
        <p v-if="page.people.length === 0" class="soft">Nobody is called that here.</p>
        <el-pagination
          v-if="page.count > 50"
          layout="prev, pager, next"
          :total="page.count"
          :page-size="50"
          :current-page="from / 50 + 1"
          @current-change="
            (number: number) => {
              from = (number - 1) * 50
              load()
            }
          "
        />
      </section>
    </main>
    <PersonQuota
      v-if="page && asked?.what === 'quota'"
      :person="asked.person"
      :usual="page.quota"
      @close="asked = null"
      @set="settle(change(asked!.person, { own: $event }))"
    />
    <HandOverTalks
      v-if="asked?.what === 'hand-over'"
      :person="asked.person"
      :trouble="trouble"
      @close="asked = null"
      @give="settle(handOver(asked!.person, $event))"
    />
    <el-dialog
      v-if="asked?.what === 'goes'"
      :model-value="true"
      :title="`Delete the account of ${asked.person.name}?`"
      width="460"
      append-to-body
      @close="asked = null"
    >
      <p>
        With it go {{ asked.person.talks === 1 ? 'one talk' : `${asked.person.talks} talks` }} and all that is in them, once the days are
        over in which it can be kept after all. They are written to. What others go on with, hand over first.
      </p>
      <template #footer>
        <button class="press" @click="asked = null">Keep it</button>
        <button class="press danger" @click="settle(change(asked!.person, { goes: true }))">Delete it</button>
      </template>
    </el-dialog>
    <el-dialog
      v-if="asked?.what === 'reset'"
      :model-value="true"
      :title="`Another password for ${asked.person.name}`"
      width="520"
      append-to-body
      @close="asked = null"
    >
      <p class="before">Give them this link. It is good once, within the hour, and is not shown again.</p>
      <CopyLink :address="asked.link ?? ''" label="Link to another password" />
    </el-dialog>
  </div>
</template>

<style scoped>
.find {
  width: 260px;
}
.people {
  margin: 0;
  padding: 0;
  list-style: none;
}
.invited {
  display: flex;
  gap: 12px;
  align-items: center;
}
.grow {
  flex: 1;
  overflow-wrap: anywhere;
}
.before {
  margin-bottom: 12px;
}
</style>
