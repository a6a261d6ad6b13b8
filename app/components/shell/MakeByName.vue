<script setup lang="ts">
/** Makes something that begins with a name alone. */
defineProps<{ label: string; placeholder: string; action: string }>()
const emit = defineEmits<{ make: [name: string] }>()
const name = defineModel<string>({ required: true })
</script>

<template>
  <form @submit.prevent="emit('make', name.trim())">
    <label>{{ label }} <el-input v-model="name" maxlength="100" :placeholder="placeholder" /></label>
    <button class="press main" :disabled="name.trim() === ''">{{ action }}</button>
  </form>
</template>

<style scoped>
form {
  display: flex;
  gap: 12px;
  align-items: end;
}
label {
  display: grid;
  flex: 1;
  gap: 4px;
}
</style>
