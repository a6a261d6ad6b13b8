<script setup lang="ts">
import type { SeriesPage } from '@contracts'
import { api } from '~/client'

/** The talks before and after this one in the series by which it was come to. */
const props = defineProps<{ pageKey: string; seriesKey: string }>()
const series = shallowRef<SeriesPage | null>(null)
onMounted(async () => {
  series.value = await api.get<SeriesPage>(`/series-pages/${props.seriesKey}`).catch(() => null)
})
const at = computed(() => series.value?.talks.findIndex(({ key }) => key === props.pageKey) ?? -1)
const before = computed(() => (at.value < 0 ? undefined : series.value?.talks[at.value - 1]))
const after = computed(() => (at.value < 0 ? undefined : series.value?.talks[at.value + 1]))
</script>

<template>
  <nav v-if="series && at >= 0" class="in" aria-label="In this series">
    <a v-if="before" :href="`/s/${before.key}?in=${seriesKey}`" rel="prev">← {{ before.title }}</a>
    <a class="whole" :href="series.path">{{ series.name }}, {{ at + 1 }} of {{ series.talks.length }}</a>
    <a v-if="after" class="next" :href="`/s/${after.key}?in=${seriesKey}`" rel="next">{{ after.title }} →</a>
  </nav>
</template>

<style scoped>
.in {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  margin-top: 14px;
  overflow-wrap: anywhere;
}
.whole {
  color: var(--soft);
}
.next {
  margin-left: auto;
}
@media print {
  .in {
    display: none;
  }
}
</style>
