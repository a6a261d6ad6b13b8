<script setup lang="ts">
import { useTalk } from '~/stores/talk'
import { moment } from '~/words'

/** The open talk in the bar: its name, its stations, and whether it is saved. */
const props = defineProps<{ talkId: string }>()
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
</script>

<template>
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

<style scoped>
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
@media (max-width: 900px) {
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
