<script setup lang="ts">
import type { Ms } from '@core/model'
import { duration, readDuration } from '~/words'

/** The longest the finished video may be: a usual one, any other, or none. */
const limit = defineModel<Ms | null>({ required: true })
const MINUTE = 60_000
const presets = [5, 8, 10, 12, 15, 20, 30]

function set(value: string): void {
  if (value === 'none') limit.value = null
  else {
    const read = readDuration(value.includes(':') || /[a-z]/i.test(value) ? value : `${value}m`)
    if (read !== null && read >= 1000 && read <= 86_400_000) limit.value = read
  }
}
</script>

<template>
  <el-select
    :model-value="limit === null ? 'none' : duration(limit)"
    filterable
    allow-create
    default-first-option
    aria-label="Limit"
    style="width: 150px"
    placeholder="m:ss"
    @update:model-value="set"
  >
    <el-option label="No limit" value="none" />
    <el-option v-for="minutes in presets" :key="minutes" :label="`${minutes} min`" :value="duration(minutes * MINUTE)" />
  </el-select>
</template>
