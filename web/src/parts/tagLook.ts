import type { Schemas } from '@/api/client';

type Tag = Schemas['Tag'];

export interface TagLook {
  name: string;
  colour: string;
  draft: boolean;
}

const hues = 12;
const gone: TagLook = { name: 'removed tag', colour: 'var(--ink-soft)', draft: false };

/** The colour of a family, by its number in the palette. */
export const hue = (n: number) => `var(--tag-${n % hues})`;

/** Children are tinted from their parent: in turn the pure hue, deeper, and paler. */
function tint(colour: string, child: number): string {
  if (child % 3 === 1) return `color-mix(in oklab, ${colour} 72%, var(--ink))`;
  if (child % 3 === 2) return `color-mix(in oklab, ${colour} 74%, var(--brass))`;
  return colour;
}

/** How each tag looks, by id. A draft without a family is brass. */
export function tagLooks(tags: readonly Tag[]): (id: number) => TagLook {
  const byId = new Map(tags.map((t) => [t.id, t]));
  const childNumber = new Map<number, number>();
  const seen = new Map<number, number>();
  for (const tag of tags) {
    if (tag.parentId === null) continue;
    const n = seen.get(tag.parentId) ?? 0;
    childNumber.set(tag.id, n);
    seen.set(tag.parentId, n + 1);
  }
  const colourOf = (tag: Tag): string => {
    if (tag.colour !== null) return hue(tag.colour);
    const parent = tag.parentId === null ? undefined : byId.get(tag.parentId);
    return parent ? tint(colourOf(parent), childNumber.get(tag.id) ?? 0) : 'var(--brass)';
  };
  const looks = new Map(tags.map((t) => [t.id, { name: t.name, colour: colourOf(t), draft: !t.settled }]));
  return (id) => looks.get(id) ?? gone;
}
