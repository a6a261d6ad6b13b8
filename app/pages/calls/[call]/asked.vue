<script setup lang="ts">
import { fieldsOfCall } from '@contracts'
import type { CallFields } from '@contracts'
import { useRegister } from '~/composables/useRegister'

/** What a call asks, to be changed. */
const route = useRoute()
const id = computed(() => String(route.params['call']))
const { register, busy, trouble, load, change } = useRegister(() => id.value)
onMounted(load)
const call = computed(() => register.value?.call ?? null)
useHead({ title: () => `What is asked · ${call.value?.title ?? 'Aisle Talk'}` })

async function keep(fields: CallFields): Promise<void> {
  await change(fields)
  if (trouble.value === null) await navigateTo(`/calls/${id.value}`)
}
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
