<script setup lang="ts">
import { useSession } from '~/stores/session'

const session = useSession()
/** What there is beside the talks. */
const PLACES = [
  { to: '/', name: 'Talks' },
  { to: '/series', name: 'Series' },
  { to: '/groups', name: 'Groups' },
  { to: '/calls', name: 'Calls' },
  { to: '/outbox', name: 'Outbox' },
  { to: '/shelf', name: 'Shelf' },
] as const
/** What there is besides for who runs the server. */
const OPERATORS = [
  { to: '/people', name: 'People', accounts: true },
  { to: '/server', name: 'Server', accounts: false },
] as const
const shown = computed(() => [
  ...PLACES,
  ...(session.person?.operator === true ? OPERATORS.filter(({ accounts }) => session.accounts || !accounts) : []),
])
</script>

<template>
  <nav class="places" aria-label="Places">
    <NuxtLink v-for="{ to, name } in shown" :key="to" :to="to">{{ name }}</NuxtLink>
  </nav>
</template>

<style scoped>
.places {
  display: flex;
  flex: 1;
  gap: 20px;
  padding-left: 12px;
}
a {
  color: var(--soft);
  text-decoration: none;
}
a:hover {
  text-decoration: underline;
}
a.router-link-exact-active {
  color: var(--text);
  font-weight: 600;
}
</style>
