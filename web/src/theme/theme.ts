import { ref } from 'vue'

export type Theme = 'light' | 'dark'

const chosen = (): Theme | null => {
  const value = localStorage.getItem('theme')
  return value === 'light' || value === 'dark' ? value : null
}

const preferred = (): Theme =>
  matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'

/** The theme in use: the one chosen here, else the one the machine prefers. */
export const theme = ref<Theme>(chosen() ?? preferred())

export function applyTheme(): void {
  document.documentElement.dataset['theme'] = theme.value
}

export function turnTheme(): void {
  theme.value = theme.value === 'light' ? 'dark' : 'light'
  localStorage.setItem('theme', theme.value)
  applyTheme()
}

/** Every window follows the theme that is chosen in one of them. */
window.addEventListener('storage', ({ key }) => {
  if (key !== 'theme') return
  theme.value = chosen() ?? preferred()
  applyTheme()
})

/** The value of a token in the theme in use, for what is drawn on a canvas. */
export const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
