<script setup lang="ts">
import type { AccountView } from '@contracts'
import { api } from '~/client'
import { useSession } from '~/stores/session'

/** Somebody's own account: what it may hold, how it is opened and where, and how it ends. */
const session = useSession()
const account = shallowRef<AccountView | null>(null)
const places = ref<{ readonly load: () => Promise<void> } | null>(null)
const { trouble, attempt } = useAttempt()
const load = (): Promise<void> =>
  attempt(async () => {
    account.value = await api.get<AccountView>('/account')
  })
onMounted(load)
useHead({ title: 'Your account · Aisle Talk' })
</script>

<template>
  <div>
    <ShellBar />
    <main class="column">
      <h1>Your account</h1>
      <p v-if="session.person" class="soft">{{ session.person.name }}, {{ session.person.email }}</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <template v-if="account">
        <AccountRoom :account="account" />
        <template v-if="session.accounts">
          <PasswordChange v-if="account.password" @changed="places?.load()" />
          <SignedInPlaces ref="places" />
          <LeaveAccount :account="account" @changed="load" />
        </template>
      </template>
    </main>
  </div>
</template>
