<script setup lang="ts">
import { sentenceOf } from '~/client'
import { useSession } from '~/stores/session'

const session = useSession()
const route = useRoute()
const fresh = ref(false)
const name = ref('')
const email = ref('')
const password = ref('')
const trouble = ref<string | null>(null)
const busy = ref(false)

useHead({ title: 'Sign in · Aisle Talk' })

async function go(): Promise<void> {
  busy.value = true
  trouble.value = null
  try {
    if (fresh.value) await session.signUp(name.value, email.value, password.value)
    else await session.signIn(email.value, password.value)
    const to = String(route.query['to'] ?? '/')
    await navigateTo(to.startsWith('/') && !to.startsWith('//') ? to : '/')
  } catch (error) {
    // Whether an address has an account is not told; who has one knows.
    trouble.value = fresh.value
      ? `${sentenceOf(error)} If you have had an account under this address before, sign in with its password.`
      : sentenceOf(error)
  } finally {
    busy.value = false
  }
}
/** From signing in to signing up, or back. */
function toggle(): void {
  fresh.value = !fresh.value
  trouble.value = null
}
</script>

<template>
  <main class="door">
    <img src="/mark.svg" alt="" width="52" height="52" />
    <h1>{{ fresh ? 'Make an account' : 'Sign in to Aisle Talk' }}</h1>
    <form @submit.prevent="go">
      <label v-if="fresh">Your name <el-input v-model="name" autocomplete="name" required maxlength="100" /></label>
      <label>E-mail <el-input v-model="email" type="email" autocomplete="username" required /></label>
      <label
        >Password
        <el-input
          v-model="password"
          type="password"
          show-password
          :autocomplete="fresh ? 'new-password' : 'current-password'"
          :minlength="fresh ? 12 : 1"
          required
      /></label>
      <p v-if="fresh" class="soft">Twelve characters or more; a few words that do not belong together are good.</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <button class="press main" type="submit" :disabled="busy">{{ fresh ? 'Make the account' : 'Sign in' }}</button>
      <button class="press quiet" type="button" @click="toggle">
        {{ fresh ? 'I have an account' : 'I have no account yet' }}
      </button>
    </form>
  </main>
</template>

<style scoped>
.door {
  display: grid;
  gap: 20px;
  width: min(380px, 90vw);
  margin: 14vh auto 0;
}
h1 {
  font-size: 28px;
}
form {
  display: grid;
  gap: 14px;
}
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
.press {
  justify-content: center;
}
</style>
