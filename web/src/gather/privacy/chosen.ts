import type { Schemas } from '@/api/client';

type Group = Schemas['DetailGroup'];

/** What of the found is not to be masked, and what readers see instead of the rest where that was changed. */
export interface Chosen {
  left: ReadonlySet<string>;
  replacements: ReadonlyMap<string, string>;
}

export const idOf = (group: Group) => `${group.kind} ${group.words.toLowerCase()}`;
export const placeId = (place: Schemas['DetailPlace']) => `${place.sourceId} ${place.start}`;

/** Each group cut into the places that are open and those that are masked. */
export function sortedOut(found: readonly Group[]): { open: Group[]; done: Group[] } {
  const only = (masked: boolean) =>
    found.map((g) => ({ ...g, places: g.places.filter((p) => (p.maskId !== null) === masked) })).filter((g) => g.places.length > 0);
  return { open: only(false), done: only(true) };
}

/** The masks that were chosen. */
export const masksOf = (groups: readonly Group[], chosen: Chosen): Schemas['NewMask'][] =>
  groups.flatMap((g) =>
    g.places
      .filter((p) => !chosen.left.has(placeId(p)))
      .map((p) => ({ sourceId: p.sourceId, start: p.start, end: p.end, kind: g.kind, replacement: chosen.replacements.get(idOf(g)) ?? g.replacement })),
  );
