/** Lower case without accents, so that "cafe" finds "café". */
export const fold = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

// A name is folded once, not at each keystroke; tags are few thousand at most.
const folded = new Map<string, { name: string; words: string[] }>();
function foldedName(name: string) {
  let found = folded.get(name);
  if (!found) {
    const n = fold(name);
    found = { name: n, words: n.split(/[^\p{L}\p{N}]+/u) };
    folded.set(name, found);
  }
  return found;
}

/** How well a name fits what was typed, which is folded already. */
function score(shown: string, t: string): number {
  const { name: n, words } = foldedName(shown);
  if (n === t) return 5;
  if (n.startsWith(t)) return 4;
  if (words.some((word) => word.startsWith(t))) return 3;
  if (t.split(/\s+/).every((typedWord) => words.some((word) => word.startsWith(typedWord)))) return 2;
  let from = 0;
  for (const letter of t.replace(/\s+/g, '')) {
    const at = n.indexOf(letter, from);
    if (at < 0) return 0;
    from = at + 1;
  }
  return 1;
}

/** Whether a tag fits by more than letters in order: else a new tag is the likelier wish. */
export const fitsWell = (name: string, typed: string) => score(name, fold(typed.trim())) > 1;

/**
 * The tags that fit what was typed, best first: the whole name, its beginning, the beginning of any word, every typed word at the beginning of a word, the letters in order.
 * With nothing typed, recent ones first. Equal fits keep recent ones first and else the order given.
 */
export function findTags<T extends { id: number; name: string }>(tags: readonly T[], typed: string, recent: readonly number[], most = 8): T[] {
  const late = (id: number) => (recent.includes(id) ? recent.indexOf(id) : recent.length);
  const wanted = fold(typed.trim());
  return tags
    .map((tag, place) => ({ tag, place, fit: wanted === '' ? 1 : score(tag.name, wanted) }))
    .filter((x) => x.fit > 0)
    .sort((a, b) => b.fit - a.fit || late(a.tag.id) - late(b.tag.id) || a.place - b.place)
    .slice(0, most)
    .map((x) => x.tag);
}

/** Whether a typed name is a tag that exists under any spelling of case and spaces. */
export const sameName = (a: string, b: string) => a.trim().replace(/\s+/g, ' ').toLowerCase() === b.trim().replace(/\s+/g, ' ').toLowerCase();
