<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import type { Failure, ServerState } from '@contracts'
import { api } from '~/client'
import { useSession } from '~/stores/session'
import { moment } from '~/words'

/** How the server does, for who runs it: room, queues, files made, what failed. */
const session = useSession()
const state = shallowRef<ServerState | null>(null)
const { trouble, attempt } = useAttempt()
/** How often it is looked again, in ms. */
const LOOK = 10_000
const load = (): Promise<void> =>
  attempt(async () => {
    state.value = await api.get<ServerState>('/operator/state')
  })
onMounted(load)
useIntervalFn(load, LOOK)
useHead({ title: 'Server · Aisle Talk' })
const WHAT: Readonly<Record<Failure['what'], string>> = { film: 'File', deck: 'Deck', take: 'Take', letter: 'Letter' }
const count = (number: number, one: string, many: string): string => (number === 1 ? `1 ${one}` : `${String(number)} ${many}`)
</script>

<template>
  <div>
    <ShellBar />
    <main class="column wide">
      <h1>Server</h1>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <template v-if="state">
        <p class="soft">
          <template v-if="session.accounts">{{ count(state.people, 'person', 'people') }}, </template
          >{{ count(state.talks, 'talk', 'talks') }};
          {{
            state.recordings === 0 ? 'nobody records at this moment' : `${count(state.recordings, 'take is', 'takes are')} being recorded`
          }}.
        </p>
        <p v-if="state.workers === 0" class="notice bad" role="alert">
          No worker gives a sign of life: takes are kept and can be recorded, but none is closed, no deck is read and no file made until one
          is started.
        </p>
        <section class="page-sheet" aria-labelledby="disk-title">
          <h2 id="disk-title">Room</h2>
          <RoomBar :room="state.room" :held="state.held" />
        </section>
        <section class="page-sheet" aria-labelledby="queues-title">
          <h2 id="queues-title">Queues</h2>
          <QueueTable :queues="state.queues" />
        </section>
        <section class="page-sheet" aria-labelledby="films-title">
          <h2 id="films-title">Files made</h2>
          <FilmDays :days="state.films" />
        </section>
        <section class="page-sheet" aria-labelledby="failed-title">
          <h2 id="failed-title">What failed lately</h2>
          <p v-if="state.failures.length === 0" class="soft">Nothing.</p>
          <ul v-else class="listed">
            <li v-for="(failure, n) in state.failures" :key="n">
              <span class="soft">{{ moment(failure.at) }}</span> <b>{{ WHAT[failure.what] }}</b> {{ failure.sentence }}
            </li>
          </ul>
        </section>
      </template>
    </main>
  </div>
</template>
