<script setup lang="ts">
import { fieldsOfCall } from '@contracts'
import type { CallFields, CallView } from '@contracts'
import { api } from '~/client'
import { useAttempt } from '~/composables/useAttempt'

/** What a call asks, to be changed. */
const route = useRoute()
const id = computed(() => String(route.params['call']))
const call = shallowRef<CallView | null>(null)
const { busy, trouble, attempt } = useAttempt()
onMounted(() =>
  attempt(async () => {
    call.value = await api.get<CallView>(`/calls/${id.value}`)
  }),
)
useHead({ title: () => `What is asked · ${call.value?.title ?? 'Aisle Talk'}` })

const keep = (fields: CallFields): Promise<void> =>
  attempt(async () => {
    await api.put(`/calls/${id.value}`, fields)
    await navigateTo(`/calls/${id.value}`)
  })
</script>

<template>
  <div>
    <ShellBar />
    <main class="column">
      <h1>What is asked</h1>
      <CallForm v-if="call" :first="fieldsOfCall(call)" :begun="call.counts.begun" :busy="busy" action="Keep this" @keep="keep">
        <NuxtLink class="press quiet" :to="`/calls/${id}`">Leave it</NuxtLink>
      </CallForm>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    </main>
  </div>
</template>
