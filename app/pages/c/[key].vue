<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Refusal } from '@core/model'
import type { BegunView, CallSheet } from '@contracts'
import { api } from '~/client'
import { useAttempt } from '~/composables/useAttempt'
import { lastMoment } from '~/words'

/** What is asked, for those who are asked: one sheet, one button. */
definePageMeta({ open: true })
const route = useRoute()
const key = String(route.params['key'])
const sheet = shallowRef<CallSheet | null>(null)
const begun = shallowRef<BegunView | null>(null)
const name = ref('')
const address = ref('')
/** Somebody looks for the talk that they have begun already. */
const lost = ref(false)
const written = ref(false)
const { busy, trouble, attempt } = useAttempt()
useHead({ title: () => sheet.value?.title ?? 'A call for talks', meta: [{ name: 'robots', content: 'noindex, nofollow' }] })

const tokenHere = (): string | null => /^#own=([\w-]{20,120})$/.exec(window.location.hash)?.[1] ?? null

async function look(): Promise<void> {
  const token = tokenHere()
  let unknown: Refusal | null = null
  if (token !== null) {
    try {
      await api.post(`/entrances/${key}/own`, { token })
      // It is this browser's now, and stands in no history.
      window.history.replaceState(window.history.state, '', window.location.pathname)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      unknown = error
      lost.value = true
    }
  }
  sheet.value = await api.get<CallSheet>(`/entrances/${key}`)
  if (unknown !== null) throw unknown
}
onMounted(() => attempt(look))
useEventListener('hashchange', () => attempt(look))

const begin = (): Promise<void> =>
  attempt(async () => {
    try {
      begun.value = await api.post<BegunView>(`/entrances/${key}/begin`, {
        name: sheet.value?.own?.name || name.value.trim(),
        address: address.value.trim() === '' ? null : address.value.trim(),
      })
    } catch (error) {
      if (error instanceof Refusal && error.detail['begun'] === true) lost.value = true
      throw error
    }
  })
const write = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/entrances/${key}/link`, { address: address.value.trim() })
    written.value = true
  })
const needsName = computed(() => (sheet.value?.own?.name ?? '') === '')
const mayBegin = computed(() => sheet.value !== null && (!sheet.value.over || sheet.value.late === 'marked') && !sheet.value.withdrawn)
</script>

<template>
  <main class="sheet">
    <p v-if="sheet === null && trouble === null" class="soft">One moment …</p>
    <template v-else-if="sheet === null">
      <h1>Nothing is asked for here</h1>
      <p>{{ trouble }}</p>
    </template>
    <template v-else>
      <p v-if="sheet.organiser" class="soft by">{{ sheet.organiser }} asks for a talk</p>
      <h1>{{ sheet.title }}</h1>
      <p v-if="sheet.asks" class="asks">{{ sheet.asks }}</p>
      <p class="until">
        <b>{{ sheet.over ? 'Was over on' : 'Until' }} {{ lastMoment(sheet.until) }}</b>
      </p>
      <RulesAsked :rules="sheet.rules" />
      <p v-if="sheet.withdrawn" class="notice">This call was taken back, so nothing is handed in any more.</p>
      <p v-else-if="sheet.over" class="notice">
        The last day is over. {{ sheet.late === 'marked' ? 'What comes now is taken, and marked as late.' : 'Nothing is taken any more.' }}
      </p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <section v-if="begun" class="begun" aria-label="Your link">
        <h2>Your talk is begun</h2>
        <template v-if="!sheet.accounts">
          <p>With this link you find it again, also on another computer. It is yours alone: keep it.</p>
          <CopyLink :address="begun.link" label="The link to your talk" />
        </template>
        <NuxtLink class="press main large" :to="`/talks/${begun.talk}/prepare`" external>To your talk</NuxtLink>
      </section>
      <section v-else-if="sheet.own?.talk" aria-label="Your talk">
        <p>You have begun as {{ sheet.own.name }}.</p>
        <NuxtLink class="press main large" :to="`/talks/${sheet.own.talk}/prepare`" external>Go on with your talk</NuxtLink>
      </section>
      <template v-else-if="mayBegin">
        <NuxtLink v-if="sheet.accounts && !sheet.signedIn" class="press main large" :to="`/sign-in?to=/c/${key}`" external>
          Sign in to begin
        </NuxtLink>
        <form v-else-if="(sheet.listed && sheet.own === null) || lost" @submit.prevent="write">
          <p v-if="written" role="status">
            If {{ address }} takes part, its link is on the way there. It opens your talk in the browser in which you click it.
          </p>
          <template v-else>
            <p>
              {{
                sheet.listed
                  ? 'This call is for people who were named. Each has a link of their own.'
                  : 'Your link is sent to you once more.'
              }}
            </p>
            <label class="asked"
              >Your e-mail address <input v-model="address" type="email" autocomplete="email" maxlength="254" required
            /></label>
            <div class="wrapped">
              <button class="press main large" :disabled="busy">Send me my link</button>
              <button v-if="!sheet.listed" type="button" class="press quiet" @click="lost = false">Begin a new talk</button>
            </div>
          </template>
        </form>
        <form v-else @submit.prevent="begin">
          <label v-if="needsName" class="asked">Your name <input v-model="name" autocomplete="name" maxlength="100" required /></label>
          <p v-else>You begin as {{ sheet.own?.name }}.</p>
          <label v-if="!sheet.listed && sheet.address !== 'no' && !sheet.accounts" class="asked"
            >Your e-mail address{{ sheet.address === 'optional' ? ', if you like' : '' }}
            <input v-model="address" type="email" autocomplete="email" maxlength="254" :required="sheet.address === 'required'" />
            <span class="soft">For your link, the receipt and what is said of your talk.</span>
          </label>
          <button class="press main large" :disabled="busy || (needsName && name.trim() === '')">
            {{ sheet.deck ? 'Begin with the deck that is given' : 'Begin your talk' }}
          </button>
          <p class="soft">
            {{ sheet.accounts ? 'It stands among your talks.' : 'No account is needed.' }} What you record is yours: only what you hand in
            is seen by others.
          </p>
          <button v-if="!sheet.accounts && sheet.address !== 'no'" type="button" class="press quiet small" @click="lost = true">
            I have begun already, and lost my link
          </button>
        </form>
      </template>
    </template>
  </main>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 18px;
  max-width: 640px;
  margin: 6vh auto 60px;
  padding: 34px 40px;
  border: 1px solid var(--line);
  border-top: 6px solid var(--brand);
  background: var(--card);
  font-size: 16px;
}
h1 {
  font-size: 30px;
  overflow-wrap: anywhere;
}
h2 {
  font-size: 21px;
}
.by {
  margin-bottom: -10px;
}
.asks {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
form,
section {
  display: grid;
  gap: 14px;
  justify-items: start;
}
.asked {
  width: 100%;
}
.asked .soft {
  font-weight: 400;
  font-size: 14px;
}
input {
  min-height: 42px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font-size: 16px;
  font-weight: 400;
}
.begun {
  padding: 18px 20px;
  border: 1px solid var(--brand);
  background: var(--brand-wash);
}
@media (max-width: 700px) {
  .sheet {
    margin: 0;
    padding: 22px 18px;
    border-width: 6px 0 0;
  }
}
</style>
