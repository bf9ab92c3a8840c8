import { count } from './words';

interface Held {
  id: number;
  name: string;
  parentId: number | null;
  members?: readonly number[] | null;
}

/** Whether it is a pick of tags, and no tag itself. */
export const isBundle = (tag: { members?: readonly number[] | null }) => (tag.members ?? null) !== null;

/** Those of some tags that are asked for, in the order of the tree; tags that are gone are left out. */
export function inTreeOrder<T extends Held>(tags: readonly T[], ids: readonly number[]): T[] {
  const under = new Map<number | null, T[]>();
  for (const tag of tags) under.set(tag.parentId, [...(under.get(tag.parentId) ?? []), tag]);
  const wanted = new Set(ids);
  const walk = (parent: number | null): T[] => (under.get(parent) ?? []).flatMap((t) => [...(wanted.has(t.id) ? [t] : []), ...walk(t.id)]);
  return walk(null);
}

/** The names above a tag, the topmost first. */
export function pathOf(tags: readonly Held[], tag: Held): string[] {
  const parent = tag.parentId === null ? undefined : tags.find((t) => t.id === tag.parentId);
  return parent ? [...pathOf(tags, parent), parent.name] : [];
}

/** Of tags and bundles those tags that they stand for: themselves, or what a bundle holds with all under it. */
export function standsFor(tags: readonly Held[], ids: readonly number[]): ReadonlySet<number> {
  const byId = new Map(tags.map((t) => [t.id, t]));
  const plain = ids.filter((id) => !isBundle(byId.get(id) ?? {}));
  const held = new Set(ids.flatMap((id) => byId.get(id)?.members ?? []));
  if (held.size === 0) return new Set(plain);
  const isUnder = (tag: Held | undefined): boolean => tag !== undefined && (held.has(tag.id) || (tag.parentId !== null && isUnder(byId.get(tag.parentId))));
  return new Set([...plain, ...tags.filter(isUnder).map((t) => t.id)]);
}

/** How many tags and bundles, in words. */
export const inKinds = (tags: readonly Parameters<typeof isBundle>[0][]) => {
  const bundles = tags.filter(isBundle).length;
  return [tags.length > bundles && count(tags.length - bundles, 'tag'), bundles > 0 && count(bundles, 'bundle')].filter(Boolean).join(' and ');
};
