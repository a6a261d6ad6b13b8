<script setup lang="ts">
import { useEntrant } from '~/stores/entrant'
import { useTalk } from '~/stores/talk'

/** What was said of the talk by whoever called for it, at every station, until something newer is handed in. */
const talk = useTalk()
const entrant = useEntrant()
const route = useRoute()
/** Where it is handed in it stands with what was. */
const isThere = computed(() => route.path.endsWith('/hand-over') && route.query['leaf'] !== 'file')
const sentBack = computed(() =>
  !isThere.value && entrant.counted?.review === 'sent-back' && entrant.pending === null ? entrant.counted : null,
)
</script>

<template>
  <div v-if="sentBack" class="notice" role="status">
    <p>
      <b
        >Sent back<template v-if="entrant.view?.organiser"> by {{ entrant.view.organiser }}</template
        >:</b
      >
      {{ sentBack.remark }}
    </p>
    <NuxtLink class="press small" :to="`/talks/${talk.talk?.id ?? ''}/hand-over?leaf=hand-in`">To handing in</NuxtLink>
  </div>
</template>

<style scoped>
p {
  overflow-wrap: anywhere;
  max-height: 90px;
  overflow-y: auto;
}
</style>
