interface Standing {
  id: number;
  parentId: number | null;
}

/** Themes as they stand on the table: each before those under it; `level` is 0 at the top. */
export function inTree<T extends Standing>(themes: readonly T[], under: number | null = null, level = 0): { theme: T; level: number }[] {
  return themes.filter((t) => t.parentId === under).flatMap((theme) => [{ theme, level }, ...inTree(themes, theme.id, level + 1)]);
}

/** Under what and before which a theme stands after a step by keys; null where there is no such place. */
export function placeOf(themes: readonly Standing[], id: number, where: 'up' | 'down' | 'in' | 'out') {
  const theme = themes.find((t) => t.id === id);
  if (!theme) return null;
  const beside = (parentId: number | null) => themes.filter((t) => t.parentId === parentId);
  const level = beside(theme.parentId);
  const at = level.findIndex((t) => t.id === id);
  const { parentId } = theme;
  if (where === 'up') return at === 0 ? null : { parentId, beforeId: level[at - 1]!.id };
  if (where === 'down') return at === level.length - 1 ? null : { parentId, beforeId: level[at + 2]?.id ?? null };
  if (where === 'in') return at === 0 ? null : { parentId: level[at - 1]!.id, beforeId: null };
  const above = themes.find((t) => t.id === parentId);
  if (!above) return null;
  const around = beside(above.parentId);
  return { parentId: above.parentId, beforeId: around[around.indexOf(above) + 1]?.id ?? null };
}
