<script setup lang="ts">
import type { Ms } from '@core/model'

/** A length of time, given in seconds; emptied, it changes nothing. Its step, its name and whether it is off are the field's own. */
const length = defineModel<Ms>({ required: true })
defineProps<{ least: Ms; most: Ms }>()
const SECOND = 1000

function change(seconds: number | null | undefined): void {
  if (typeof seconds === 'number') length.value = Math.round(seconds * SECOND)
}
</script>

<template>
  <el-input-number :model-value="length / SECOND" :min="least / SECOND" :max="most / SECOND" :precision="1" size="small" @change="change" />
</template>
