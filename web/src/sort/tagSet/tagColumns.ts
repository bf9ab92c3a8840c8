import type { EditedTag } from './edited';

/** What a list of tags can be ordered by. */
export const columns = ['name', 'people', 'observations', 'sources', 'lastUsed', 'madeBy'] as const;
export type Column = (typeof columns)[number];

/** Which tags are listed. */
export const kinds = ['drafts', 'undefined', 'once', 'onePerson', 'unused', 'retired'] as const;
export type Kind = (typeof kinds)[number];

const valueOf = (tag: EditedTag, column: Column): string | number =>
  ({
    name: tag.name.toLowerCase(),
    people: tag.breadth?.triple.people ?? 0,
    observations: tag.breadth?.triple.observations ?? tag.observations,
    sources: tag.breadth?.triple.sources ?? 0,
    lastUsed: tag.lastUsedAt ?? '',
    madeBy: tag.madeBy.toLowerCase(),
  })[column];

const isOf: Record<Kind, (tag: EditedTag) => boolean> = {
  drafts: (tag) => !tag.settled,
  undefined: (tag) => tag.definition.trim() === '',
  once: (tag) => (tag.breadth?.triple.observations ?? tag.observations) === 1,
  onePerson: (tag) => tag.breadth?.triple.people === 1,
  retired: (tag) => tag.retired,
  unused: (tag) => (tag.breadth?.triple.observations ?? tag.observations) === 0,
};

/** The tags of one kind by a column; equal ones by name. */
export function listedBy(tags: readonly EditedTag[], kind: Kind | null, column: Column, down: boolean): EditedTag[] {
  const compare = (a: string | number, b: string | number) =>
    typeof a === 'string' ? a.localeCompare(b as string, undefined, { numeric: true }) : a - (b as number);
  return tags
    .filter((t) => kind === null || isOf[kind](t))
    .toSorted((a, b) => (down ? -1 : 1) * compare(valueOf(a, column), valueOf(b, column)) || compare(valueOf(a, 'name'), valueOf(b, 'name')));
}
