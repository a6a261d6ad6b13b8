<script setup lang="ts">
/** One of several things that have a name, which is changed where it stands, with what can be done with it beside it. */
defineProps<{ name: string; label: string }>()
const emit = defineEmits<{ rename: [name: string] }>()
</script>

<template>
  <section :aria-label="name">
    <header>
      <DraftInput
        class="name"
        :model-value="name"
        :aria-label="label"
        maxlength="100"
        @update:model-value="$event.trim() === '' || emit('rename', $event.trim())"
      />
      <slot name="actions" />
    </header>
    <slot />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 14px;
  padding: 16px 20px;
  border: 1px solid var(--line);
  background: var(--card);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.name {
  flex: 1;
  min-width: 180px;
  border: 0;
  background: transparent;
  font: 600 18px var(--display);
}
</style>
