<script setup lang="ts">
import type { TalkCard } from '@contracts'
import { duration, moment } from '~/words'
import { lengthOf, nextStep, recordedOf } from './next-step'

const props = defineProps<{ talk: TalkCard }>()
defineEmits<{ duplicate: []; remove: [] }>()
const next = computed(() => nextStep(props.talk))
</script>

<template>
  <article class="tile">
    <NuxtLink :to="`/talks/${talk.id}/prepare`" class="picture" :aria-label="`Open ${talk.name}`">
      <SlidePicture v-if="talk.picture" :talk-id="talk.id" :picture="talk.picture" alt="" />
      <span v-else class="soft">No slides yet</span>
    </NuxtLink>
    <div class="words">
      <h2>
        <NuxtLink :to="`/talks/${talk.id}/prepare`" :title="talk.name">{{ talk.name }}</NuxtLink>
      </h2>
      <TalkLane :talk="talk" />
      <p class="facts soft">
        <span class="clock">{{ duration(lengthOf(talk)) }}</span>
        {{ recordedOf(talk) > 0 ? 'recorded' : 'planned'
        }}<template v-if="talk.limit !== null">
          of <span class="clock">{{ duration(talk.limit) }}</span></template
        >, {{ talk.timelineBlocks.length }} slides, changed {{ moment(talk.changed) }}
      </p>
      <div class="foot">
        <NuxtLink class="press small" :to="`/talks/${talk.id}/${next.to}`">{{ next.say }}</NuxtLink>
        <TalkMenu :name="talk.name" @duplicate="$emit('duplicate')" @remove="$emit('remove')" />
      </div>
    </div>
  </article>
</template>

<style scoped>
.tile {
  display: grid;
  grid-template-columns: 208px 1fr;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  overflow: hidden;
}
.picture {
  display: grid;
  place-items: center;
  background: color-mix(in srgb, var(--line) 45%, var(--ground));
  min-height: 136px;
}
.words {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  min-width: 0;
  align-content: space-between;
}
h2 {
  font-size: 19px;
  overflow: hidden;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
}
h2 a {
  color: inherit;
  text-decoration: none;
}
.facts {
  font-size: 14px;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
</style>
