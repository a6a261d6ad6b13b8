<script setup lang="ts">
import { Moon, Sun, SunMoon } from '@lucide/vue'
import { THEMES, useTheme } from '~/composables/useTheme'
import type { PageTheme } from '~/composables/useTheme'

/** Light, dark, or as the system has it. */
const { theme } = useTheme()
const WORDS: Readonly<Record<PageTheme, string>> = { system: 'As this computer is set', light: 'Light', dark: 'Dark' }
const ICONS = { system: SunMoon, light: Sun, dark: Moon } as const
</script>

<template>
  <el-dropdown trigger="click" @command="theme = $event">
    <button class="press quiet small" aria-label="Light or dark" title="Light or dark"><component :is="ICONS[theme]" /></button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="one in THEMES" :key="one" :command="one" :disabled="theme === one">{{ WORDS[one] }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
