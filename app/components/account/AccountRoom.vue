<script setup lang="ts">
import type { AccountView } from '@contracts'
import { fileSize } from '~/words'

/** What somebody may keep and have made, and which of their talks hold most. */
defineProps<{ account: AccountView }>()
const minutes = (count: number): string => `${String(count)} min`
const takes = (count: number): string => (count === 1 ? '1 take' : `${String(count)} takes`)
</script>

<template>
  <section class="page-sheet" aria-labelledby="room-title">
    <h2 id="room-title">Room</h2>
    <QuotaMeter label="Talks, recordings and files" :used="account.used.bytes" :most="account.quota.bytes" :words="fileSize" />
    <QuotaMeter label="Films made in thirty days" :used="account.used.filmMinutes" :most="account.quota.filmMinutes" :words="minutes" />
    <QuotaMeter label="Recorded at this moment" :used="account.used.recordings" :most="account.quota.recordings" :words="takes" />
    <template v-if="account.largest.length > 0">
      <h3>Where most of it is</h3>
      <ul class="listed">
        <li v-for="talk in account.largest" :key="talk.talk">
          <NuxtLink :to="`/talks/${talk.talk}/hand-over`">{{ talk.name }}</NuxtLink>
          <span class="clock">{{ fileSize(talk.bytes) }}</span>
        </li>
      </ul>
      <p class="soft">
        Room comes back when a talk, its discarded takes or finished files are deleted, once the days are over in which they can be brought
        back.
      </p>
    </template>
    <p v-if="account.keptUntouched !== null" class="soft">
      A talk that nobody changes or watches for {{ Math.round(account.keptUntouched / 86_400_000) }} days goes. You are told a month before.
    </p>
  </section>
</template>

<style scoped>
h3 {
  margin-top: 6px;
  font-size: 15px;
}
li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}
li a {
  overflow-wrap: anywhere;
}
</style>
