import type { Place } from '@/shared/tagPlaces';

interface Placed {
  id: number;
  name: string;
  parentId: number | null;
  settled: boolean;
}

/** A line of the outline. */
export interface Line<T> {
  tag: T;
  /** How many tags stand above it. */
  depth: number;
  /** How many stand right under it. */
  children: number;
  open: boolean;
}

interface Shape<T> {
  /** Whose children are not shown. */
  closed: ReadonlySet<number>;
  /** What is looked for; it is shown with all above it, whatever is closed. Null for everything. */
  fits: ((tag: T) => boolean) | null;
  /** In the order of the alphabet instead of that of the set. */
  byName: boolean;
}

/** The tag set as lines: the frame that is ordered already, and apart from it the loose pile of open tags that stand alone. */
export function outlineOf<T extends Placed>(tags: readonly T[], { closed, fits, byName }: Shape<T>): { frame: Line<T>[]; loose: Line<T>[] } {
  const under = new Map<number | null, T[]>();
  const known = new Set(tags.map((t) => t.id));
  for (const tag of tags) {
    const parent = tag.parentId !== null && known.has(tag.parentId) ? tag.parentId : null;
    const beside = under.get(parent);
    if (beside) beside.push(tag);
    else under.set(parent, [tag]);
  }
  if (byName) for (const beside of under.values()) beside.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const shown = new Set<number>();
  const show = (tag: T): boolean => {
    // All of them are asked, not the first that fits alone.
    const below = (under.get(tag.id) ?? []).filter(show).length > 0;
    if (!below && fits && !fits(tag)) return false;
    shown.add(tag.id);
    return true;
  };
  (under.get(null) ?? []).forEach(show);
  const lines: Line<T>[] = [];
  const add = (tag: T, depth: number) => {
    if (!shown.has(tag.id)) return;
    const children = under.get(tag.id) ?? [];
    const open = fits !== null || !closed.has(tag.id);
    lines.push({ tag, depth, children: children.length, open });
    if (open) for (const child of children) add(child, depth + 1);
  };
  const tops = under.get(null) ?? [];
  const isLoose = (tag: T) => !tag.settled && !under.has(tag.id);
  for (const top of tops) if (!isLoose(top)) add(top, 0);
  return { frame: lines, loose: tops.filter((t) => isLoose(t) && shown.has(t.id)).map((tag) => ({ tag, depth: 0, children: 0, open: false })) };
}

/** The tags above one, the nearest first. */
export function above<T extends Placed>(tags: readonly T[], tag: T): T[] {
  const parent = tags.find((t) => t.id === tag.parentId);
  return parent ? [parent, ...above(tags, parent)] : [];
}

/** The tags as they stand when some of them have been put elsewhere: shown at once, while the server is told. */
export function placedAt<T extends Placed>(tags: readonly T[], ids: readonly number[], { parentId, beforeTagId }: Place): T[] {
  const moved = ids.flatMap((id) => tags.filter((t) => t.id === id && !above(tags, t).some((up) => ids.includes(up.id)))).map((t) => ({ ...t, parentId }));
  const rest = tags.filter((t) => !moved.some((m) => m.id === t.id));
  const at = beforeTagId === null ? -1 : rest.findIndex((t) => t.id === beforeTagId);
  return at < 0 ? [...rest, ...moved] : [...rest.slice(0, at), ...moved, ...rest.slice(at)];
}
