import { usePreferredDark, useLocalStorage } from '@vueuse/core'

export type Theme = 'as-the-system' | 'day' | 'night'

/** Day or night, as chosen on this machine or as its system has it. */
export function useTheme() {
  const chosen = useLocalStorage<Theme>('lantern:theme', 'as-the-system')
  const isDark = usePreferredDark()
  const theme = computed(() => (chosen.value === 'as-the-system' ? (isDark.value ? 'night' : 'day') : chosen.value))
  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value
  })
  const toggle = () => {
    chosen.value = theme.value === 'night' ? 'day' : 'night'
  }
  return { theme, toggle }
}
