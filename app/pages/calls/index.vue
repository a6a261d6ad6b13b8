<script setup lang="ts">
import type { CallView } from '@contracts'
import { countsInWords } from '~/calls'
import { useCalls } from '~/composables/useCalls'
import { lastMoment } from '~/words'

/** Talks that are asked of others: what is asked, and how far people are. */
const { calls, gone, trouble, load, takeBack, bringBack } = useCalls()
const going = ref<CallView | null>(null)
onMounted(load)
useHead({ title: 'Calls · Aisle Talk' })
const isOver = ({ until }: CallView): boolean => new Date(until).getTime() < Date.now()

async function remove(): Promise<void> {
  const call = going.value
  going.value = null
  if (call !== null) await takeBack(call)
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="column wide">
      <div class="top">
        <h1>Calls</h1>
        <NuxtLink class="press main" to="/calls/new">Ask for talks</NuxtLink>
      </div>
      <p class="soft">
        One link says what is asked, how long, by which rules and until when. Everybody records and hands in there, with or without an
        account; here is the register.
      </p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <div v-if="gone" class="notice" role="status">
        <p>“{{ gone.title }}” was taken back. Nothing is handed in to it any more.</p>
        <button class="press small" @click="bringBack">Undo</button>
      </div>
      <article v-for="call in calls ?? []" :key="call.id" :aria-label="call.title">
        <div class="what">
          <h2>
            <NuxtLink :to="`/calls/${call.id}`">{{ call.title }}</NuxtLink>
          </h2>
          <p>{{ countsInWords(call) }}</p>
          <p class="soft">{{ isOver(call) ? 'Was over on' : 'Until' }} {{ lastMoment(call.until) }}</p>
        </div>
        <div class="ways">
          <NuxtLink class="press" :to="`/calls/${call.id}`">The register</NuxtLink>
          <button class="press quiet small" @click="going = call">Take it back</button>
        </div>
      </article>
      <p v-if="calls?.length === 0" class="empty soft">
        Nothing is asked for yet. A call needs a title, rules and a last day; the rest can wait.
      </p>
    </main>
    <el-dialog :model-value="going !== null" title="Take this call back?" width="460" append-to-body @close="going = null">
      <p>
        Nothing can be handed in to “{{ going?.title }}” any more<template v-if="(going?.counts.handedIn ?? 0) > 0"
          >, and its register with {{ going?.counts.handedIn === 1 ? 'one talk' : `${going?.counts.handedIn} talks` }} is put away</template
        >. Whoever has begun keeps their talk.
      </p>
      <template #footer>
        <button class="press" @click="going = null">Leave it</button><button class="press main" @click="remove">Take it back</button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
article {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  padding: 14px 18px;
  border: 1px solid var(--line);
  border-left: 5px solid var(--brand);
  background: var(--card);
}
.what {
  display: grid;
  gap: 4px;
  min-width: 0;
}
h2 {
  font-size: 19px;
  overflow-wrap: anywhere;
}
h2 a {
  color: inherit;
  text-decoration: none;
}
h2 a:hover {
  text-decoration: underline;
}
.ways {
  display: grid;
  flex: none;
  gap: 4px;
  align-content: center;
  justify-items: end;
}
.empty {
  padding: 30px 0;
}
</style>
