const KEY = 'kindred-baton-theme';

export const THEMES = [
  { id: 'theme-light', name: 'Light', theme: 'light' },
  { id: 'theme-dark', name: 'Dark', theme: 'dark' },
  { id: 'theme-system', name: 'As the system', theme: null },
] as const;

export type Theme = (typeof THEMES)[number]['theme'];

export function chooseTheme(theme: Theme): void {
  if (theme === null) {
    localStorage.removeItem(KEY);
    delete document.documentElement.dataset['theme'];
  } else {
    localStorage.setItem(KEY, theme);
    document.documentElement.dataset['theme'] = theme;
  }
}

/** The id of the theme that is chosen in this browser. */
export function readTheme(): string {
  return THEMES.find(({ theme }) => theme === localStorage.getItem(KEY))?.id ?? 'theme-system';
}
