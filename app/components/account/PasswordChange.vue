<script setup lang="ts">
import { api } from '~/client'

const emit = defineEmits<{ changed: [] }>()
const old = ref('')
const fresh = ref('')
const done = ref(false)
const { busy, trouble, attempt } = useAttempt()
const change = (): Promise<void> =>
  attempt(async () => {
    done.value = false
    await api.put('/session/password', { old: old.value, password: fresh.value })
    old.value = ''
    fresh.value = ''
    done.value = true
    emit('changed')
  })
</script>

<template>
  <section class="page-sheet" aria-labelledby="password-title">
    <h2 id="password-title">Password</h2>
    <form @submit.prevent="change">
      <label class="asked"
        >The one you have <el-input v-model="old" type="password" show-password autocomplete="current-password" required
      /></label>
      <label class="asked"
        >Another one <el-input v-model="fresh" type="password" show-password autocomplete="new-password" minlength="12" required
      /></label>
      <button class="press" type="submit" :disabled="busy || old === '' || fresh === ''">Change it</button>
    </form>
    <p class="soft">Twelve characters or more. Everywhere else where you are signed in you are so no longer.</p>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <p v-if="done" class="notice" role="status">Your password is another one now.</p>
  </section>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 14px;
  align-items: end;
}
@media (max-width: 700px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
