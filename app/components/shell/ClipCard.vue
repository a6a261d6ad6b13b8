<script setup lang="ts">
/** What can be done with one clip, under its name. */
defineProps<{ name: string }>()
</script>

<template>
  <li class="card" :aria-label="name">
    <p class="head">
      <b class="name" :title="name">{{ name }}</b>
      <slot name="beside" />
    </p>
    <slot />
  </li>
</template>

<style scoped>
.card {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
