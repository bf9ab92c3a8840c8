import type { Schemas } from '@/api/client';
import { isBundle } from './bundles';

/** What of a tag decides how it looks. */
export type LookedAt = Pick<Schemas['Tag'], 'id' | 'name' | 'parentId' | 'colour' | 'settled'> & { members?: readonly number[] | null };

/** A tag of a study with how it is used: counted with all tags under it, and alone. */
export interface TagUse {
  tag: Schemas['Tag'];
  breadth: Schemas['TagCount']['breadth'];
  own: Schemas['TagCount']['own'];
}

export interface TagLook {
  name: string;
  colour: string;
  draft: boolean;
  /** It is a bundle: its mark is a ribbon. */
  bundle?: boolean;
}

export const hues = 12;
const gone: TagLook = { name: 'removed tag', colour: 'var(--ink-soft)', draft: false };
/** A tag that was made a moment ago: its number is beyond all that are known yet. */
const coming: TagLook = { name: 'new tag', colour: 'var(--brass)', draft: true };

/** The colour of a family, by its number in the palette. */
export const hue = (n: number) => `var(--tag-${n % hues})`;

// Lightness and hue (degrees) by which the children of a family differ from it, in turn: near enough to be kin, far enough to tell threads apart.
export const tints = [
  [0, 0],
  [-0.11, 8],
  [0.02, 24],
  [-0.05, -20],
  [0.06, -8],
  [-0.13, 30],
] as const;

/** Children are tinted from their parent. */
function tint(colour: string, child: number): string {
  const [lightness, turn] = tints[child % tints.length]!;
  return child % tints.length === 0 ? colour : `oklch(from ${colour} calc(l + ${lightness}) c calc(h + ${turn}))`;
}

/** How each tag looks, by id. A draft without a family is brass. */
export function tagLooks(tags: readonly LookedAt[]): (id: number) => TagLook {
  const byId = new Map(tags.map((t) => [t.id, t]));
  const childNumber = new Map<number, number>();
  const seen = new Map<number, number>();
  for (const tag of tags) {
    if (tag.parentId === null) continue;
    const n = seen.get(tag.parentId) ?? 0;
    childNumber.set(tag.id, n);
    seen.set(tag.parentId, n + 1);
  }
  const colourOf = (tag: LookedAt): string => {
    if (tag.colour !== null) return hue(tag.colour);
    if (isBundle(tag)) return 'var(--ink-soft)';
    const parent = tag.parentId === null ? undefined : byId.get(tag.parentId);
    return parent ? tint(colourOf(parent), childNumber.get(tag.id) ?? 0) : 'var(--brass)';
  };
  const looks = new Map(tags.map((t) => [t.id, { name: t.name, colour: colourOf(t), draft: !t.settled, bundle: isBundle(t) }]));
  const newest = tags.reduce((most, t) => Math.max(most, t.id), 0);
  return (id) => looks.get(id) ?? (id > newest ? coming : gone);
}
