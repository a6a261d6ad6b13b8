<script setup lang="ts">
/** How much of what somebody may have is used. */
const props = defineProps<{
  label: string
  used: number
  /** null: as much as there is room for. */
  most: number | null
  /** How a number of it is said. */
  words: (value: number) => string
}>()
const share = computed(() => (props.most === null ? null : Math.min(100, Math.round((props.used / Math.max(1, props.most)) * 100))))
/** From so much on it is said that little is left. */
const NEARLY = 90
</script>

<template>
  <div class="meter" :class="{ nearly: share !== null && share >= NEARLY }">
    <span class="label">{{ label }}</span>
    <span class="numbers"
      ><b>{{ words(used) }}</b> <span class="soft">{{ most === null ? 'used, no limit' : `of ${words(most)}` }}</span></span
    >
    <el-progress
      v-if="share !== null"
      :percentage="share"
      :stroke-width="8"
      :show-text="false"
      :status="share >= NEARLY ? 'exception' : undefined"
      :aria-label="`${label}: ${share}% used`"
    />
  </div>
</template>

<style scoped>
.meter {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 12px;
  align-items: baseline;
}
.label {
  font-weight: 600;
}
.el-progress {
  grid-column: 1 / -1;
}
.nearly .numbers b {
  color: var(--alarm);
}
</style>
