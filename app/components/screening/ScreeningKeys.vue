<script setup lang="ts">
import { SCREENING_KEYS } from '~/composables/useScreeningKeys'

defineEmits<{ close: [] }>()
</script>

<template>
  <section class="keys" aria-label="Keys">
    <dl>
      <div v-for="{ keys, does } in SCREENING_KEYS" :key="keys">
        <dt>{{ keys }}</dt>
        <dd>{{ does }}</dd>
      </div>
    </dl>
    <button class="press small" @click="$emit('close')">Close</button>
  </section>
</template>

<style scoped>
.keys {
  display: flex;
  gap: 20px;
  align-items: start;
  justify-content: space-between;
  margin-top: 10px;
  padding: 12px 16px;
  border: 1px solid var(--line);
  background: var(--card);
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  flex: 1;
  gap: 4px 24px;
  margin: 0;
}
dl div {
  display: flex;
  gap: 10px;
}
dt {
  min-width: 100px;
  font-family: var(--clock);
}
dd {
  margin: 0;
}
</style>
