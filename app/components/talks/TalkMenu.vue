<script setup lang="ts">
import { MoreFilled } from '@element-plus/icons-vue'

/** What else can be done with a talk. */
defineProps<{ name: string }>()
defineEmits<{ duplicate: []; remove: [] }>()
</script>

<template>
  <el-dropdown trigger="click">
    <button class="press quiet small" :aria-label="`More for ${name}`"><MoreFilled aria-hidden="true" /></button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item @click="$emit('duplicate')">Duplicate the deck and its notes</el-dropdown-item>
        <el-dropdown-item @click="$emit('remove')">Delete this talk</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
