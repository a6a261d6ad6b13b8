<script setup lang="ts">
import { useTheme } from '~/composables/useTheme'
import { useSession } from '~/stores/session'

const session = useSession()
const route = useRoute()
/** Those who watch are not asked who they are, and the page they see is none of the workshop's. */
const open = computed(() => route.meta['open'] === true)
if (!open.value) useTheme()
const trouble = ref(false)
/** Where people come in. */
const COMING_IN: readonly string[] = ['/sign-in', '/enter']

async function load(): Promise<void> {
  try {
    await session.load()
    trouble.value = false
    // Who has a talk for a call and no account comes to that alone.
    const isGuests = session.guest && route.params['talk'] !== undefined
    if (session.person === null && !isGuests && !COMING_IN.includes(route.path))
      await navigateTo({ path: '/sign-in', query: { to: route.fullPath } })
  } catch {
    trouble.value = true
  }
}

onMounted(() => {
  if (!open.value) void load()
})
</script>

<template>
  <NuxtPage v-if="open" />
  <div v-else-if="trouble" class="away">
    <h1>The server does not answer</h1>
    <p>Nothing is lost. Start it again if it runs on this computer, then try once more.</p>
    <button class="press main" @click="load">Try again</button>
  </div>
  <NuxtPage v-else-if="session.known" />
</template>

<style scoped>
.away {
  max-width: 46ch;
  margin: 20vh auto 0;
  display: grid;
  gap: 16px;
  justify-items: start;
}
</style>
