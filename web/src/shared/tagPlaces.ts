interface Placed {
  id: number;
  parentId: number | null;
}

/** Where tags stand: under another or none, and before one of those there or last. */
export interface Place {
  parentId: number | null;
  beforeTagId: number | null;
}

/** Where a key with Alt takes a tag: up and down among those beside it, under the one before it, out to beside the one above it. Null for nowhere. Tags come in order. */
export function placeBy(tags: readonly Placed[], id: number, key: string): Place | null {
  const tag = tags.find((t) => t.id === id);
  if (!tag) return null;
  const under = (parentId: number | null) => tags.filter((t) => t.parentId === parentId);
  const beside = under(tag.parentId);
  const at = beside.indexOf(tag);
  if (key === 'ArrowUp') return at > 0 ? { parentId: tag.parentId, beforeTagId: beside[at - 1]!.id } : null;
  if (key === 'ArrowDown') return at < beside.length - 1 ? { parentId: tag.parentId, beforeTagId: beside[at + 2]?.id ?? null } : null;
  if (key === 'ArrowRight') return at > 0 ? { parentId: beside[at - 1]!.id, beforeTagId: null } : null;
  const above = tags.find((t) => t.id === tag.parentId);
  if (key !== 'ArrowLeft' || !above) return null;
  const outer = under(above.parentId);
  return { parentId: above.parentId, beforeTagId: outer[outer.indexOf(above) + 1]?.id ?? null };
}
