export type Theme = 'system' | 'light' | 'dark';

const place = 'vitrine-theme';

/** The chosen theme; the system's unless the person chose another. */
export const themeChoice = (): Theme => (localStorage.getItem(place) as Theme | null) ?? 'system';

export function setTheme(theme: Theme) {
  localStorage.setItem(place, theme);
  applyTheme();
}

export function applyTheme() {
  const theme = themeChoice();
  if (theme === 'system') delete document.documentElement.dataset['theme'];
  else document.documentElement.dataset['theme'] = theme;
}
