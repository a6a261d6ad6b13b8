<script setup lang="ts">
/** What there is beside the talks. */
const PLACES = [
  { to: '/', name: 'Talks' },
  { to: '/series', name: 'Series' },
  { to: '/groups', name: 'Groups' },
  { to: '/calls', name: 'Calls' },
  { to: '/outbox', name: 'Outbox' },
  { to: '/shelf', name: 'Shelf' },
] as const
</script>

<template>
  <nav class="places" aria-label="Places">
    <NuxtLink v-for="{ to, name } in PLACES" :key="to" :to="to">{{ name }}</NuxtLink>
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
