<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import type { Asked } from '@contracts'
import { api } from '~/client'
import { useAttempt } from '~/composables/useAttempt'

/** Before a talk is seen that is not for everybody: who asks, or what has to be said. */
const props = defineProps<{ pageKey: string; asks: Asked }>()
const address = ref('')
const phrase = ref('')
const written = ref(false)
/** What came by mail stands behind the sign of a fragment, and is used when somebody says so: not by what opens links in letters. */
const ticket = ref<string | null>(null)
const { busy, trouble, attempt } = useAttempt()

const look = (): void => {
  ticket.value = /^#ticket=([\w-]{43})$/.exec(window.location.hash)?.[1] ?? null
}
onMounted(look)
// The page may be open already, where the link is put in.
useEventListener('hashchange', look)
/** The page once more, now that they are known. */
const goIn = (): void => {
  window.location.replace(window.location.pathname)
}
const enter = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/screenings/${props.pageKey}/enter`, { ticket: ticket.value })
    goIn()
  })
const write = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/screenings/${props.pageKey}/tickets`, { address: address.value })
    written.value = true
  })
const say = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/screenings/${props.pageKey}/phrase`, { phrase: phrase.value })
    goIn()
  })
/** A link that was used before is no end: another can be sent. */
function another(): void {
  ticket.value = null
  trouble.value = null
}
</script>

<template>
  <main class="door">
    <template v-if="asks === 'phrase'">
      <h1>A pass phrase opens this talk</h1>
      <form @submit.prevent="say">
        <label
          >The phrase
          <input v-model="phrase" type="text" autocomplete="off" autocapitalize="none" maxlength="200" required />
        </label>
        <button class="press main" :disabled="busy">Watch</button>
      </form>
      <p class="soft">Whoever gave you the link can tell you.</p>
    </template>
    <template v-else-if="ticket">
      <h1>You are expected</h1>
      <p>This link came to your address. It lets you in, and this browser is known for two weeks.</p>
      <button class="press main" :disabled="busy" @click="enter">Watch now</button>
      <button v-if="trouble" class="press quiet" @click="another">Have another link sent</button>
    </template>
    <template v-else>
      <h1>This talk is for people who were named</h1>
      <p v-if="written" role="status">
        If the talk is for <b>{{ address }}</b>, a letter with a link is on its way there. It opens the talk in the browser in which you
        click it. This page can be closed.
      </p>
      <form v-else @submit.prevent="write">
        <label
          >Your e-mail address
          <input v-model="address" type="email" autocomplete="email" maxlength="254" required />
        </label>
        <button class="press main" :disabled="busy">Send me a link</button>
      </form>
      <p class="soft">No account is needed. Your address is used for this letter alone.</p>
    </template>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
  </main>
</template>

<style scoped>
.door {
  display: grid;
  gap: 16px;
  max-width: 46ch;
  margin: 0 auto;
  padding: 16vh 20px 40px;
  font-size: 17px;
}
h1 {
  font-size: 28px;
}
form {
  display: grid;
  gap: 12px;
}
label {
  display: grid;
  gap: 5px;
}
input {
  min-height: 42px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  font-size: 17px;
}
.press {
  justify-self: start;
  min-height: 42px;
}
</style>
