<script setup lang="ts" generic="Value extends string | number">
/** A word of the recipe that can be exchanged in place. */
const chosen = defineModel<Value>({ required: true })
defineProps<{ options: readonly { readonly value: Value; readonly say: string; readonly hint?: string }[]; say: string; label: string }>()
</script>

<template>
  <el-dropdown trigger="click" placement="bottom-start" @command="chosen = $event">
    <button type="button" class="word" :aria-label="`${label}: ${say}`">{{ say }}</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="option in options" :key="option.value" :command="option.value">
          <span class="option"
            ><b>{{ option.say }}</b
            ><span v-if="option.hint" class="soft">{{ option.hint }}</span></span
          >
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.word {
  padding: 0 2px;
  border: 0;
  border-bottom: 2px dashed var(--brand);
  background: transparent;
  color: var(--brand);
  font: inherit;
  font-weight: 640;
  cursor: pointer;
}
.word:hover {
  background: var(--brand-wash);
}
.option {
  display: grid;
  padding: 3px 0;
}
.option .soft {
  font-size: 13px;
}
</style>
