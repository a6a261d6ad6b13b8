<script setup lang="ts">
/** When a file is begun: now, or at a time of day. */
const starts = defineModel<Date | null>({ required: true })

/** Evening, when nobody needs the machine. */
const PROPOSED = '22:00'
const time = computed(() =>
  starts.value === null ? '' : `${String(starts.value.getHours()).padStart(2, '0')}:${String(starts.value.getMinutes()).padStart(2, '0')}`,
)

/** The next time that the clock shows this. */
function setTime(clock: string): void {
  const [hours, minutes] = clock.split(':').map(Number)
  if (hours === undefined || minutes === undefined) return
  const at = new Date()
  at.setHours(hours, minutes, 0, 0)
  if (at.getTime() <= Date.now()) at.setDate(at.getDate() + 1)
  starts.value = at
}
const tomorrow = computed(() => starts.value !== null && starts.value.getDate() !== new Date().getDate())
function choose(later: boolean): void {
  if (later) setTime(PROPOSED)
  else starts.value = null
}
</script>

<template>
  <span class="start">
    <el-checkbox :model-value="starts !== null" @update:model-value="choose(Boolean($event))">begin later</el-checkbox>
    <template v-if="starts !== null"
      ><DraftInput type="time" :model-value="time" aria-label="Begin at" @update:model-value="setTime" /><span v-if="tomorrow" class="soft"
        >tomorrow</span
      ></template
    >
  </span>
</template>

<style scoped>
.start {
  display: flex;
  gap: 10px;
  align-items: center;
}
input {
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: inherit;
  font-size: 16px;
}
</style>
