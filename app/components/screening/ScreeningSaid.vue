<script setup lang="ts">
import type { Ms } from '@core/model'
import { saidWith } from '@core/screening'
import type { Saying } from '@core/words'
import { duration } from '~/words'

/** What is said, going along with the film; a click goes to where it is said. Of words that are searched only what holds them. */
const props = defineProps<{ said: readonly Saying[]; at: Ms; sought: string }>()
const emit = defineEmits<{ seek: [at: Ms] }>()
const list = useTemplateRef('list')
const current = computed(() => props.said.findLast(({ from }) => from <= props.at) ?? null)
const searching = computed(() => props.sought.trim() !== '')
const listed = computed(() => (searching.value ? saidWith(props.said, props.sought) : props.said))
// Whoever reads along does not scroll; the page itself stays where it is.
watch(current, async () => {
  await nextTick()
  const [within, line] = [list.value, list.value?.querySelector<HTMLElement>('.current')]
  if (within != null && line != null) within.scrollTop = line.offsetTop - within.clientHeight / 3
})
</script>

<template>
  <section v-if="said.length > 0" class="saying" aria-labelledby="said-title">
    <h2 id="said-title">What is said</h2>
    <p v-if="searching" class="soft" role="status">
      {{ listed.length === 0 ? `Nobody says “${sought.trim()}”.` : `Said in ${listed.length} of ${said.length} sentences` }}
    </p>
    <ol ref="list">
      <li v-for="one in listed" :key="one.from" :class="{ current: one === current }">
        <a :href="`#at-${one.from}`" @click.prevent="emit('seek', one.from)"
          ><span class="clock">{{ duration(one.from) }}</span> {{ one.words }}</a
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
h2 {
  font-size: 20px;
}
ol {
  position: relative;
  max-height: 40vh;
  margin: 8px 0 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
a {
  display: block;
  padding: 4px 8px;
  color: inherit;
  text-decoration: none;
}
.current a {
  border-left: 4px solid var(--accent);
  background: var(--card);
}
</style>
