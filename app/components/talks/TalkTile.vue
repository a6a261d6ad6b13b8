<script setup lang="ts">
import { MoreFilled } from '@element-plus/icons-vue'
import { scaleLinear, sum } from 'd3'
import type { TalkCard } from '@contracts'
import { duration, moment } from '~/words'

const props = defineProps<{ talk: TalkCard }>()
defineEmits<{ duplicate: [], remove: [] }>()

const length = computed(() => sum(props.talk.slabs, (slab) => (slab.recorded > 0 ? slab.recorded : slab.planned)))
const recorded = computed(() => sum(props.talk.slabs, (slab) => slab.recorded))
const lane = computed(() => {
  const scale = scaleLinear([0, Math.max(length.value, props.talk.limit ?? 0, 1)], [0, 100])
  let at = 0
  return {
    post: props.talk.limit === null ? null : scale(props.talk.limit),
    slabs: props.talk.slabs.map((slab) => {
      const from = at
      at += slab.recorded > 0 ? slab.recorded : slab.planned
      return { x: scale(from), width: Math.max(0.4, scale(at) - scale(from) - 0.4), recorded: slab.recorded > 0, over: props.talk.limit !== null && at > props.talk.limit }
    }),
  }
})
const next = computed(() => {
  const { talk } = props
  if (talk.importing) return { to: 'prepare', say: 'Deck is being read' }
  if (talk.unfinished) return { to: 'lectern', say: 'A take was broken off: look at it' }
  if (talk.slabs.length === 0) return { to: 'prepare', say: 'Bring in a deck' }
  if (recorded.value === 0) return { to: 'lectern', say: 'Record it' }
  if (talk.limit !== null && recorded.value > talk.limit) return { to: 'review', say: `${duration(recorded.value - talk.limit)} over: listen and shorten` }
  return talk.deliveries === 0 ? { to: 'hand-over', say: 'Make the file' } : { to: 'hand-over', say: 'Hand it over' }
})
</script>

<template>
  <article class="tile">
    <NuxtLink :to="`/talks/${talk.id}/prepare`" class="picture" :aria-label="`Open ${talk.name}`">
      <SlidePicture v-if="talk.picture" :talk-id="talk.id" :picture="talk.picture" alt="" />
      <span v-else class="soft">No slides yet</span>
    </NuxtLink>
    <div class="words">
      <h2><NuxtLink :to="`/talks/${talk.id}/prepare`" :title="talk.name">{{ talk.name }}</NuxtLink></h2>
      <svg class="lane" viewBox="0 0 100 8" preserveAspectRatio="none" aria-hidden="true">
        <rect
          v-for="(slab, n) in lane.slabs" :key="n" :x="slab.x" y="1" height="6" :width="slab.width"
          :class="{ recorded: slab.recorded, over: slab.over }"
        />
        <line v-if="lane.post !== null" :x1="lane.post" :x2="lane.post" y1="0" y2="8" />
      </svg>
      <p class="facts soft">
        <span class="clock">{{ duration(length) }}</span>
        {{ recorded > 0 ? 'recorded' : 'planned' }}<template v-if="talk.limit !== null"> of <span class="clock">{{ duration(talk.limit) }}</span></template>,
        {{ talk.slabs.length }} slides, changed {{ moment(talk.changed) }}
      </p>
      <div class="foot">
        <NuxtLink class="press small" :to="`/talks/${talk.id}/${next.to}`">{{ next.say }}</NuxtLink>
        <el-dropdown trigger="click">
          <button class="press quiet small" :aria-label="`More for ${talk.name}`"><MoreFilled aria-hidden="true" /></button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item @click="$emit('duplicate')">Duplicate the deck and its notes</el-dropdown-item>
              <el-dropdown-item @click="$emit('remove')">Delete this talk</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </div>
    </div>
  </article>
</template>

<style scoped>
.tile { display: grid; grid-template-columns: 208px 1fr; border: 1px solid var(--line); border-radius: 6px; background: var(--card); overflow: hidden; }
.picture { display: grid; place-items: center; background: #ECE6D8; min-height: 136px; }
.words { display: grid; gap: 8px; padding: 12px 16px; min-width: 0; align-content: space-between; }
h2 { font-size: 19px; overflow: hidden; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; }
h2 a { color: inherit; text-decoration: none; }
.lane { width: 100%; height: 14px; overflow: visible; }
.lane rect { fill: var(--card); stroke: var(--brand); stroke-width: 1; vector-effect: non-scaling-stroke; }
.lane rect.recorded { fill: var(--brand); }
.lane rect.over { fill: var(--alarm); stroke: var(--alarm); }
.lane line { stroke: var(--text); stroke-width: 3; vector-effect: non-scaling-stroke; }
.facts { font-size: 14px; }
.foot { display: flex; justify-content: space-between; align-items: center; }
</style>
