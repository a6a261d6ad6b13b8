<script setup lang="ts">
import { useSession } from '~/stores/session'
import { useTalk } from '~/stores/talk'
import { moment } from '~/words'

const props = defineProps<{ talkId?: string }>()
const session = useSession()
const talk = useTalk()
const route = useRoute()

const stations = [
  { path: 'prepare', name: 'Prepare' },
  { path: 'lectern', name: 'Lectern' },
  { path: 'review', name: 'Review' },
  { path: 'hand-over', name: 'Hand over' },
]
const here = computed(() => route.path.split('/').at(-1))

const saveState = computed(() => {
  if (talk.waiting.length > 0) return talk.trouble === null ? 'Saving …' : 'Not saved yet'
  return talk.saved === null ? '' : `Saved ${moment(talk.saved.toISOString())}`
})

function rename(event: Event): void {
  const field = event.target as HTMLInputElement
  const name = field.value.trim()
  if (name === '') field.value = talk.talk?.name ?? ''
  else if (name !== talk.talk?.name) void talk.change({ name })
}

async function leave(): Promise<void> {
  await session.signOut()
  talk.close()
  // A new page, so that nothing of this person's stays in this one.
  window.location.assign('/sign-in')
}
</script>

<template>
  <header class="bar">
    <NuxtLink to="/" class="mark" aria-label="All talks">
      <img src="/mark.svg" alt="" width="24" height="24" />
      <span v-if="!props.talkId">Aisle Talk</span>
    </NuxtLink>
    <template v-if="props.talkId">
      <input
        class="title"
        :value="talk.talk?.name ?? ''"
        aria-label="Name of this talk"
        maxlength="160"
        @change="rename"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
      />
      <nav aria-label="Stations">
        <NuxtLink
          v-for="station in stations"
          :key="station.path"
          :to="`/talks/${props.talkId}/${station.path}`"
          :aria-current="here === station.path ? 'page' : undefined"
          >{{ station.name }}</NuxtLink
        >
      </nav>
      <span class="saved soft" role="status">{{ saveState }}</span>
    </template>
    <span v-else class="gap" />
    <ThemeMenu v-if="here !== 'lectern'" />
    <span v-if="session.accounts && session.person" class="who">
      <span class="soft">{{ session.person.name }}</span>
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
.title {
  flex: 1 1 200px;
  min-width: 120px;
  height: 32px;
  padding: 0 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: transparent;
  font: 640 17px var(--display);
  text-overflow: ellipsis;
}
.title:hover {
  border-color: var(--line);
}
nav {
  display: flex;
  height: 100%;
  gap: 4px;
}
nav a {
  display: flex;
  align-items: center;
  padding: 0 14px;
  color: var(--soft);
  font-weight: 600;
  text-decoration: none;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
nav a:hover {
  color: var(--text);
}
nav a[aria-current] {
  color: var(--text);
  border-bottom-color: var(--accent);
}
.saved {
  flex: 1 1 120px;
  text-align: right;
  font-size: 14px;
  white-space: nowrap;
}
.gap {
  flex: 1;
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
  nav {
    order: 3;
    flex-basis: 100%;
    height: 36px;
  }
  nav a {
    padding: 0 10px;
    white-space: nowrap;
  }
}
</style>
