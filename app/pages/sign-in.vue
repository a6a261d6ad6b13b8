<script setup lang="ts">
import { api, sentenceOf } from '~/client'
import { useSession } from '~/stores/session'

/** What is asked: to be let in, an account, or another password. */
type Wish = 'in' | 'account' | 'reset'

const session = useSession()
const route = useRoute()
const wish = ref<Wish>('in')
const name = ref('')
const email = ref('')
const password = ref('')
const trouble = ref<string | null>(null)
const told = ref<string | null>(null)
const busy = ref(false)
const mayJoin = computed(() => session.signUpBy === 'open' || session.signUpBy === 'domain')

useHead({ title: 'Sign in · Aisle Talk' })
const HEADINGS: Readonly<Record<Wish, string>> = {
  in: 'Sign in to Aisle Talk',
  account: 'Make an account',
  reset: 'Another password',
}
const ACTIONS: Readonly<Record<Wish, string>> = { in: 'Sign in', account: 'Make the account', reset: 'Send me a letter' }
const to = computed(() => {
  const wanted = String(route.query['to'] ?? '/')
  return wanted.startsWith('/') && !wanted.startsWith('//') ? wanted : '/'
})
/** What the provider of identities sent somebody back with. */
onMounted(() => {
  if (route.hash !== '') trouble.value = decodeURIComponent(route.hash.slice(1))
})

async function enter(): Promise<void> {
  switch (wish.value) {
    case 'in':
      await session.signIn(email.value, password.value)
      await navigateTo(to.value)
      break
    case 'account':
      if (await session.signUp(name.value, email.value, password.value)) await navigateTo(to.value)
      else turnTo('in', 'A letter is on its way to you. Open its link, then sign in here.')
      break
    case 'reset':
      await api.post('/password-resets', { email: email.value })
      turnTo('in', 'If there is such an account, a letter is on its way. Its link is good for an hour.')
      break
  }
}

async function go(): Promise<void> {
  busy.value = true
  trouble.value = null
  told.value = null
  try {
    await enter()
  } catch (error) {
    // Whether an address has an account is not told; who has one knows.
    trouble.value =
      wish.value === 'account'
        ? `${sentenceOf(error)} If you have had an account under this address before, sign in with its password.`
        : sentenceOf(error)
  } finally {
    busy.value = false
  }
}

function turnTo(next: Wish, sentence: string | null = null): void {
  wish.value = next
  trouble.value = null
  told.value = sentence
  password.value = ''
}
</script>

<template>
  <main class="way-in">
    <img src="/mark.svg" alt="" width="52" height="52" />
    <h1>{{ HEADINGS[wish] }}</h1>
    <p v-if="told" class="notice" role="status">{{ told }}</p>
    <a v-if="session.provider !== null && wish === 'in'" class="press" :href="`/api/identity/begin?to=${encodeURIComponent(to)}`"
      >By {{ session.provider }}</a
    >
    <form @submit.prevent="go">
      <label v-if="wish === 'account'">Your name <el-input v-model="name" autocomplete="name" required maxlength="100" /></label>
      <label>E-mail <el-input v-model="email" type="email" autocomplete="username" required /></label>
      <label v-if="wish !== 'reset'"
        >Password
        <el-input
          v-model="password"
          type="password"
          show-password
          :autocomplete="wish === 'account' ? 'new-password' : 'current-password'"
          :minlength="wish === 'account' ? 12 : 1"
          required
      /></label>
      <p v-if="wish === 'account'" class="soft">Twelve characters or more; a few words that do not belong together are good.</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <button class="press main" type="submit" :disabled="busy">{{ ACTIONS[wish] }}</button>
    </form>
    <p v-if="wish === 'in'" class="ways">
      <button v-if="mayJoin" class="press quiet small" type="button" @click="turnTo('account')">I have no account yet</button>
      <button class="press quiet small" type="button" @click="turnTo('reset')">I do not know my password</button>
    </p>
    <button v-else class="press quiet" type="button" @click="turnTo('in')">Back to signing in</button>
    <p v-if="!mayJoin && wish === 'in'" class="soft">Accounts are by invitation: ask whoever runs this server.</p>
  </main>
</template>

<style scoped>
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  justify-content: center;
}
</style>
