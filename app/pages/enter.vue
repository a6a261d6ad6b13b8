<script setup lang="ts">
import type { PersonLinkView } from '@contracts'
import { api } from '~/client'
import { useSession } from '~/stores/session'

/** Where the link of a letter leads: an account is made, an address shown, or a password set. */
const session = useSession()
const link = shallowRef<PersonLinkView | null>(null)
const key = ref('')
const name = ref('')
const password = ref('')
const shown = ref(false)
const { busy, trouble, attempt } = useAttempt()
useHead({ title: 'Come in · Aisle Talk' })

onMounted(() =>
  attempt(async () => {
    key.value = window.location.hash.slice(1)
    link.value = await api.post<PersonLinkView>('/person-links/look', { key: key.value })
  }),
)

/** In: as who has just shown who they are. */
async function enter(): Promise<void> {
  await session.load()
  await navigateTo('/')
}
const join = (): Promise<void> =>
  attempt(async () => {
    await api.post('/person-links/join', { key: key.value, name: name.value, password: password.value })
    await enter()
  })
const reset = (): Promise<void> =>
  attempt(async () => {
    await api.post('/person-links/reset', { key: key.value, password: password.value })
    await enter()
  })
const show = (): Promise<void> =>
  attempt(async () => {
    await api.post('/person-links/show', { key: key.value })
    shown.value = true
  })
const HEADINGS = { invite: 'Come in', verify: 'Is this your address?', reset: 'Another password' } as const
</script>

<template>
  <main class="way-in">
    <img src="/mark.svg" alt="" width="52" height="52" />
    <h1>{{ link === null ? 'Aisle Talk' : HEADINGS[link.kind] }}</h1>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <template v-if="link?.kind === 'verify'">
      <template v-if="shown">
        <p>{{ link.address }} is yours. Sign in with the password that you chose.</p>
        <NuxtLink class="press main" to="/sign-in">Sign in</NuxtLink>
      </template>
      <template v-else>
        <p>Somebody made an account here with the address {{ link.address }}. If it was you, say so.</p>
        <button class="press main" :disabled="busy" @click="show">It is mine</button>
      </template>
    </template>
    <form v-else-if="link" @submit.prevent="link.kind === 'invite' ? join() : reset()">
      <p>{{ link.address }}</p>
      <label v-if="link.kind === 'invite'" class="asked"
        >Your name, as others will read it <el-input v-model="name" autocomplete="name" required maxlength="100" autofocus
      /></label>
      <label class="asked"
        >A password <el-input v-model="password" type="password" show-password autocomplete="new-password" minlength="12" required
      /></label>
      <p class="soft">Twelve characters or more; a few words that do not belong together are good.</p>
      <button class="press main" type="submit" :disabled="busy">{{ link.kind === 'invite' ? 'Make the account' : 'Set it' }}</button>
    </form>
    <NuxtLink v-if="link === null && trouble" class="press quiet" to="/sign-in">To the sign-in</NuxtLink>
  </main>
</template>
