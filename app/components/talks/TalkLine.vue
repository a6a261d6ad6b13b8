<script setup lang="ts">
import type { TalkCard } from '@contracts'
import { duration, moment } from '~/words'
import { lengthOf, nextStep } from './next-step'

/** A talk in one line, where there are many. */
const props = defineProps<{ talk: TalkCard }>()
defineEmits<{ duplicate: []; remove: [] }>()
const next = computed(() => nextStep(props.talk))
</script>

<template>
  <article class="line">
    <NuxtLink :to="`/talks/${talk.id}/prepare`" class="picture" :aria-label="`Open ${talk.name}`">
      <SlidePicture v-if="talk.picture" :talk-id="talk.id" :picture="talk.picture" alt="" />
    </NuxtLink>
    <h2>
      <NuxtLink :to="`/talks/${talk.id}/prepare`" :title="talk.name">{{ talk.name }}</NuxtLink>
    </h2>
    <TalkLane :talk="talk" />
    <p class="clock">
      {{ duration(lengthOf(talk)) }}<span v-if="talk.limit !== null" class="soft"> of {{ duration(talk.limit) }}</span>
    </p>
    <p class="soft when">{{ moment(talk.changed) }}</p>
    <NuxtLink class="press small" :to="`/talks/${talk.id}/${next.to}`">{{ next.say }}</NuxtLink>
    <TalkMenu :name="talk.name" @duplicate="$emit('duplicate')" @remove="$emit('remove')" />
  </article>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 72px minmax(160px, 2fr) minmax(100px, 1fr) 128px 128px 216px auto;
  gap: 14px;
  align-items: center;
  padding: 6px 10px 6px 6px;
  border: 1px solid var(--line);
  border-top: 0;
  background: var(--card);
}
.line:first-child {
  border-top: 1px solid var(--line);
  border-radius: 6px 6px 0 0;
}
.line:last-child {
  border-radius: 0 0 6px 6px;
}
.picture {
  display: block;
  height: 40px;
  overflow: hidden;
  background: color-mix(in srgb, var(--line) 45%, var(--ground));
}
h2 {
  font: 600 15px var(--read);
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
h2 a {
  color: inherit;
  text-decoration: none;
}
.clock,
.when {
  font-size: 13.5px;
  white-space: nowrap;
}
a.press {
  justify-self: start;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
