<script setup lang="ts">
import type { PersonRow } from '@contracts'

/** All that somebody made is given to another. */
defineProps<{ person: PersonRow; trouble: string | null }>()
const emit = defineEmits<{ close: []; give: [email: string] }>()
const email = ref('')
</script>

<template>
  <el-dialog :model-value="true" :title="`Hand over what ${person.name} made`" width="460" append-to-body @close="emit('close')">
    <p>Talks, series, groups and calls become another's. Links that are out go on working.</p>
    <form id="hand-over-talks" @submit.prevent="emit('give', email.trim().toLowerCase())">
      <label class="asked">E-mail of who goes on with them <el-input v-model="email" type="email" required /></label>
    </form>
    <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    <template #footer>
      <button class="press" @click="emit('close')">Leave it</button>
      <button class="press main" type="submit" form="hand-over-talks" :disabled="email === ''">Hand over</button>
    </template>
  </el-dialog>
</template>

<style scoped>
form {
  margin: 14px 0;
}
</style>
