<script setup lang="ts">
import type { AccountView } from '@contracts'
import { api } from '~/client'
import { lastMoment } from '~/words'

/** Somebody leaves with all that they have, or stays after all. */
defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()
const asked = ref(false)
const password = ref('')
const { busy, trouble, attempt } = useAttempt()
const leave = (own: boolean): Promise<void> =>
  attempt(async () => {
    await api.put('/account/leaving', { password: own ? password.value : null })
    asked.value = false
    password.value = ''
    emit('changed')
  })
const stay = (): Promise<void> =>
  attempt(async () => {
    await api.delete('/account/leaving')
    emit('changed')
  })
</script>

<template>
  <section class="page-sheet" aria-labelledby="leave-title">
    <h2 id="leave-title">Leave</h2>
    <div v-if="account.goes !== null" class="notice bad" role="status">
      <p>Your account and all that is in it go on {{ lastMoment(account.goes) }}.</p>
      <button class="press small" :disabled="busy" @click="stay">Stay after all</button>
    </div>
    <template v-else>
      <p>
        Everything goes with you: talks, recordings, films, pages that others watch, and your name on other people’s lists.
        <NuxtLink to="/archives">Take all talks along</NuxtLink> first.
      </p>
      <p><button class="press danger" @click="asked = true">Delete my account</button></p>
    </template>
    <p v-if="trouble && !asked" class="notice bad" role="alert">{{ trouble }}</p>
    <el-dialog v-model="asked" title="Delete your account?" width="460" append-to-body>
      <p>For some days you can change your mind here. Then it is gone for good, from the database and from the disk.</p>
      <label v-if="account.password" class="asked password"
        >Your password <el-input v-model="password" type="password" show-password autocomplete="current-password"
      /></label>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <template #footer>
        <button class="press" @click="asked = false">Keep it</button>
        <button class="press danger" :disabled="busy" @click="leave(account.password)">Delete it</button>
      </template>
    </el-dialog>
  </section>
</template>

<style scoped>
.password {
  margin: 14px 0;
}
</style>
