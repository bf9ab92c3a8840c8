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

/** What a tag is called, by its name and by others. */
export interface Called {
  name: string;
  aliases?: readonly string[];
}

/** How well a tag fits what was typed, which is folded already: by the best of its names. */
const score = ({ name, aliases = [] }: Called, t: string) => aliases.reduce((best, alias) => Math.max(best, scoreOf(alias, t)), scoreOf(name, t));

function scoreOf(shown: string, t: string): number {
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
export const fitsWell = (tag: Called, typed: string) => score(tag, fold(typed.trim())) > 1;

/** The other name by which a tag fits what was typed, where its own fits less. */
export function aliasThatFits({ name, aliases = [] }: Called, typed: string): string | undefined {
  const wanted = fold(typed.trim());
  if (wanted === '') return undefined;
  const own = scoreOf(name, wanted);
  return aliases.find((alias) => scoreOf(alias, wanted) > own);
}

/**
 * The tags that fit what was typed, best first: the whole name, its beginning, the beginning of any word, every typed word at the beginning of a word, the letters in order.
 * Equal fits, and all with nothing typed, keep the likely ones first, in their order, and else the order given.
 */
export function findTags<T extends Called & { id: number }>(tags: readonly T[], typed: string, likely: readonly number[], most = 8): T[] {
  const rank = new Map(likely.map((id, i) => [id, i]));
  const wanted = fold(typed.trim());
  const found: { tag: T; place: number; fit: number }[] = [];
  tags.forEach((tag, place) => {
    const fit = wanted === '' ? 1 : score(tag, wanted);
    if (fit > 0) found.push({ tag, place, fit });
  });
  return found
    .sort((a, b) => b.fit - a.fit || (rank.get(a.tag.id) ?? Infinity) - (rank.get(b.tag.id) ?? Infinity) || a.place - b.place)
    .slice(0, most)
    .map((x) => x.tag);
}

/** What was typed as a tag: the name, the names above it, and what it is, as in "hearing / too late = The news came late"; a colour from 1 as in "too late ●3". */
export function readTyped(typed: string): { name: string; above: string[]; definition: string; colour: number | null } {
  const spaced = ` ${typed} `;
  const at = spaced.indexOf(' = ');
  const path = at < 0 ? spaced : spaced.slice(0, at + 1);
  const coloured = / ●(\d{1,2}) *$/.exec(path);
  const names = (coloured ? path.slice(0, coloured.index) : path).split(' / ').map((part) => part.trim().replace(/\s+/g, ' '));
  return {
    name: names.at(-1)!,
    above: names.slice(0, -1),
    definition: at < 0 ? '' : spaced.slice(at + 3).trim(),
    colour: coloured ? Number(coloured[1]) - 1 : null,
  };
}

/** Of words that are used for a tag's name, this many characters at most. */
export const longestOwnWords = 60;

/** What says little by itself is short, mostly; common practice, no source. */
const fewestLetters = 4;

/** The shortest telling phrase of some words: the shortest part between stops with three longer words in it; else the words, cut between two of them. */
export function tellingPhrase(words: string): string {
  const parts = words
    .split(/[.,;:!?…–—"“”()]+|\s-\s/u)
    .map((part) => part.trim().replace(/\s+/g, ' '))
    .filter((part) => part !== '');
  const long = (part: string) => part.split(' ').filter((w) => [...w.replace(/[^\p{L}\p{N}]/gu, '')].length >= fewestLetters).length;
  const fitting = parts.filter((part) => part.length <= longestOwnWords);
  const telling = fitting.filter((part) => long(part) >= 3).toSorted((a, b) => a.length - b.length)[0];
  const best = telling ?? fitting.toSorted((a, b) => long(b) - long(a))[0] ?? words.trim().replace(/\s+/g, ' ');
  if (best.length <= longestOwnWords) return best;
  const cut = best.lastIndexOf(' ', longestOwnWords);
  return best.slice(0, cut > 0 ? cut : longestOwnWords).trim();
}

/** Gives what was typed a colour of the palette, or takes it away again. */
export function withColour(typed: string, colour: number | null): string {
  const at = ` ${typed} `.indexOf(' = ');
  const path = (at < 0 ? typed : typed.slice(0, at)).trimEnd().replace(/ ●\d{1,2}$/, '');
  return `${path}${colour === null ? '' : ` ●${colour + 1}`}${at < 0 ? '' : ` ${typed.slice(at).trimStart()}`}`;
}

/** Whether a tag is called so, by its name or by another. */
export const isCalled = ({ name, aliases = [] }: Called, typed: string) => [name, ...aliases].some((n) => sameName(n, typed));

/** Whether a typed name is a tag that exists under any spelling of case and spaces. */
export const sameName = (a: string, b: string) => a.trim().replace(/\s+/g, ' ').toLowerCase() === b.trim().replace(/\s+/g, ' ').toLowerCase();
