import type { Schemas } from '@/api/client';
import { claimOf } from '@/shared/claim';
import { count } from '@/parts/words';

/** What was asked for, in words. */
export function askedFor({ kind, items, themeId }: Schemas['Suggestion'], themes: readonly Schemas['ThemeView'][]): string {
  if (kind === 'themes') return `Themes from ${count(items, 'tag')}`;
  if (kind === 'placing') return `Where ${count(items, 'thing')} may belong`;
  const broken = themes.find((t) => t.theme.id === themeId)?.theme;
  return broken ? `Parts of “${claimOf(broken)}”` : `${count(items, 'observation')} in groups`;
}
