import { isBundle } from '@/parts/bundles';
import { findTags, fitsWell } from '@/parts/findTags';

/** How a tag's name is typed after a #: its words in small letters, hyphens between. As LiveLine.SlugOf reads it on the server. */
export const slugOf = (name: string) => (name.normalize('NFC').match(/[\p{L}\p{M}\p{N}]+/gu) ?? []).map((word) => word.toLowerCase()).join('-');

/** The tag that is being typed at the caret: what stands after its #, and from where to where. */
export function tagAt(text: string, caret: number): { typed: string; start: number; end: number } | null {
  const before = /(?:^|\s)#([\p{L}\p{M}\p{N}_'’-]*)$/u.exec(text.slice(0, caret));
  if (!before) return null;
  const rest = /^[\p{L}\p{M}\p{N}_'’-]*/u.exec(text.slice(caret))![0];
  return { typed: before[1]! + rest, start: caret - before[1]!.length, end: caret + rest.length };
}

export interface Offered {
  /** Null for a new tag. */
  id: number | null;
  name: string;
  slug: string;
}

/** What can be meant by a tag that is being typed: tags that fit, and a new one; first whichever is likelier. */
export function offered(tags: readonly { id: number; name: string; retired?: boolean; members?: readonly number[] | null }[], typed: string): Offered[] {
  const wanted = typed.replace(/[-_]+/g, ' ').trim();
  const found = findTags(
    tags.filter((t) => !isBundle(t) && (!t.retired || slugOf(t.name) === slugOf(wanted))),
    wanted,
    [],
    6,
  ).map((t) => ({ id: t.id, name: t.name, slug: slugOf(t.name) }));
  if (wanted === '' || found.some((t) => t.slug === slugOf(wanted))) return found;
  const fresh = { id: null, name: wanted, slug: slugOf(wanted) };
  return found.length > 0 && fitsWell(found[0]!, wanted) ? [...found, fresh] : [fresh, ...found];
}

/** The text with the tag at the caret written out, and where the caret is then. */
export function completed(text: string, at: { start: number; end: number }, slug: string): { text: string; caret: number } {
  const rest = text.slice(at.end).replace(/^ /, '');
  const head = `${text.slice(0, at.start)}${slug} `;
  return { text: head + rest, caret: head.length };
}
