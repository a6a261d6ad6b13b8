<script setup lang="ts" generic="Value extends string | number">
/** A word of a sentence that can be exchanged in place. */
const chosen = defineModel<Value>({ required: true })
const props = defineProps<{
  options: readonly { readonly value: Value; readonly say: string; readonly hint?: string }[]
  /** What stands in the sentence, where that is not what the option says. */
  say?: string
  label: string
}>()
const word = computed(() => props.say ?? props.options.find(({ value }) => value === chosen.value)?.say ?? '')
</script>

<template>
  <el-dropdown trigger="click" placement="bottom-start" @command="chosen = $event">
    <button type="button" class="word" :aria-label="`${label}: ${word}`">{{ word }}</button>
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
