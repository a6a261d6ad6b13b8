import { createSharedComposable, useLocalStorage, usePreferredDark } from '@vueuse/core'

export const THEMES = ['system', 'light', 'dark'] as const
/** How the light stations look: as the system does, or as it is set. The Lectern is always dark. */
export type PageTheme = (typeof THEMES)[number]

/** The theme of this browser, put on the whole page once, whoever asks for it. */
export const useTheme = createSharedComposable(() => {
  const theme = useLocalStorage<PageTheme>('aisle-theme', 'system')
  const systemDark = usePreferredDark()
  const dark = computed(() => theme.value === 'dark' || (theme.value === 'system' && systemDark.value))
  watchEffect(() => {
    document.documentElement.classList.toggle('dark-shell', dark.value)
  })
  return { theme }
})
