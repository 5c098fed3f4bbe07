import { ref } from 'vue'

export type Theme = 'light' | 'dark'

const kept = (): Theme | null => {
  const value = localStorage.getItem('theme')
  return value === 'light' || value === 'dark' ? value : null
}

/** The theme in use: the one chosen here, else the one the machine prefers. */
export const theme = ref<Theme>(
  kept() ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'),
)

export function applyTheme(): void {
  document.documentElement.dataset['theme'] = theme.value
}

export function turnTheme(): void {
  theme.value = theme.value === 'light' ? 'dark' : 'light'
  localStorage.setItem('theme', theme.value)
  applyTheme()
}

/** The value of a token in the theme in use, for what is drawn on a canvas. */
export const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
