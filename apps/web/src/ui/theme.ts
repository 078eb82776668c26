const KEY = 'yodel-theme'

/** Day, night, or as the system says. */
export type Theme = 'system' | 'day' | 'night'

/** The chosen theme. */
export function readTheme(): Theme {
  const kept = localStorage.getItem(KEY)
  return kept === 'day' || kept === 'night' ? kept : 'system'
}

/** Chooses a theme and shows it. */
export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme)
  showTheme()
}

/** Shows the chosen theme on the page. */
export function showTheme(): void {
  const theme = readTheme()
  const night =
    theme === 'night' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches)
  document.documentElement.dataset['theme'] = night ? 'night' : 'day'
}

/** Follows the system from now on. */
export function followSystem(): void {
  showTheme()
  matchMedia('(prefers-color-scheme: dark)').addEventListener('change', showTheme)
}
