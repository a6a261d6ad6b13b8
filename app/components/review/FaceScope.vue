<script setup lang="ts">
import { FACE_SCOPES } from '~/composables/useFaceScope'
import type { FaceScope } from '~/composables/useFaceScope'

/** Heads what is done to the face, and says to whose; what else belongs into the line stands at its end. */
const scope = defineModel<FaceScope>({ required: true })
defineProps<{ title: string; label: string }>()
</script>

<template>
  <p class="wrapped">
    <b>{{ title }}</b>
    <el-segmented v-model="scope" :options="[...FACE_SCOPES]" size="small" :aria-label="label" />
    <span class="gap" />
    <slot />
  </p>
</template>
