<script setup lang="ts">
/** One rule of the form: a sentence that counts while it is ticked. */
const on = defineModel<boolean>({ required: true })
defineProps<{ name: string }>()
</script>

<template>
  <div class="rule" :class="{ off: !on }">
    <el-checkbox v-model="on" :aria-label="name" />
    <span class="sentence"><slot /></span>
  </div>
</template>

<style scoped>
.rule {
  display: grid;
  grid-template-columns: 22px 1fr;
  gap: 8px;
  align-items: center;
  min-height: 40px;
  border-top: 1px solid var(--line);
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
}
.off .sentence {
  color: var(--soft);
}
.off .sentence :deep(.el-input),
.off .sentence :deep(.el-select),
.off .sentence :deep(.el-input-number),
.off .sentence :deep(.el-textarea) {
  opacity: 0.55;
}
.sentence :deep(.el-input-number) {
  width: 96px;
}
</style>
