<script setup lang="ts">
import { api } from '~/client'

/** Somebody is asked to make an account. */
const emit = defineEmits<{ invited: [] }>()
const email = ref('')
const operator = ref(false)
const link = ref<{ readonly address: string; readonly to: string } | null>(null)
const { busy, trouble, attempt } = useAttempt()
const invite = (): Promise<void> =>
  attempt(async () => {
    const asked = email.value.trim().toLowerCase()
    const answer = await api.post<{ link: string }>('/operator/people', { email: asked, operator: operator.value })
    link.value = { address: answer.link, to: asked }
    email.value = ''
    operator.value = false
    emit('invited')
  })
</script>

<template>
  <section class="page-sheet" aria-labelledby="invite-title">
    <h2 id="invite-title">Invite somebody</h2>
    <form @submit.prevent="invite">
      <label class="asked">E-mail <el-input v-model="email" type="email" required placeholder="wenna@harbour.example" /></label>
      <el-checkbox v-model="operator">runs the server, too</el-checkbox>
      <button class="press main" type="submit" :disabled="busy || email === ''">Invite</button>
    </form>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <template v-if="link">
      <p role="status">
        The letter to {{ link.to }} is in your outbox. Where no mail goes out, give them this link yourself: it is good once, for two weeks.
      </p>
      <CopyLink :address="link.address" label="Link of the invitation" />
    </template>
  </section>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 14px;
  align-items: end;
}
@media (max-width: 700px) {
  form {
    grid-template-columns: 1fr;
  }
}
</style>
