<script setup lang="ts">
import type { CallFields } from '@contracts'
import { newCall } from '~/calls'
import { useCalls } from '~/composables/useCalls'

/** A call is made: as it will be read. */
const { busy, trouble, make } = useCalls()
useHead({ title: 'Ask for talks · Aisle Talk' })

async function keep(fields: CallFields): Promise<void> {
  const call = await make(fields)
  if (call !== null) await navigateTo(`/calls/${call.id}`)
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="column">
      <h1>Ask for talks</h1>
      <CallForm :first="newCall()" :busy="busy" action="Make this call" @keep="keep">
        <NuxtLink class="press quiet" to="/calls">Leave it</NuxtLink>
      </CallForm>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    </main>
  </div>
</template>
