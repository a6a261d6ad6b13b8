<script setup lang="ts">
import { useSession } from '~/stores/session'

/** The bar at the top of every page of the workshop: what is open stands in its middle. It knows nothing of talks. */
defineProps<{
  open?: boolean
  themeless?: boolean
  /** Where the mark leads; left out: to all talks. */
  home?: { readonly to: string; readonly name: string } | null
}>()
const session = useSession()

async function leave(): Promise<void> {
  await session.signOut()
  // A new page, so that nothing of this person's stays in this one.
  window.location.assign('/sign-in')
}
</script>

<template>
  <header class="bar">
    <NuxtLink :to="home?.to ?? '/'" class="mark" :aria-label="home?.name ?? 'All talks'">
      <img src="/mark.svg" alt="" width="24" height="24" />
      <span v-if="!open">Aisle Talk</span>
    </NuxtLink>
    <slot><ShellPlaces /></slot>
    <ThemeMenu v-if="!themeless" />
    <span v-if="session.accounts && session.person" class="who">
      <NuxtLink class="soft" to="/account">{{ session.person.name }}</NuxtLink>
      <button class="press quiet small" @click="leave">Sign out</button>
    </span>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 16px;
  height: var(--bar);
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
  background: var(--card);
}
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  font: 640 17px var(--display);
  color: var(--text);
  text-decoration: none;
}
.who {
  display: flex;
  align-items: center;
  gap: 8px;
}
/* At twice the size, or on a small screen, one thing stands under the other and the page scrolls. */
@media (max-width: 900px) {
  .bar {
    flex-wrap: wrap;
    height: auto;
    padding: 6px 12px;
    gap: 4px 10px;
  }
}
</style>
