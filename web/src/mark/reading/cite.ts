import type { TextRange } from '@/mark/observations/place';

/** Words with where they stand, as they are handed on. */
export interface Cited {
  words: string;
  /** Who says it, by the name the team uses for them; empty where nobody speaks. */
  who: string;
  title: string;
  /** The time or the number of the paragraph. */
  place: string;
  link: string;
}

const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const sourceOf = ({ who, title, place }: Cited) => [who, title, place].filter(Boolean).join(', ');

/** As plain text and as rich text. */
export const cite = (cited: Cited) => ({
  text: `“${cited.words}”\n(${sourceOf(cited)})`,
  html: `<blockquote>${escaped(cited.words).replace(/\n/g, '<br>')}</blockquote><p>(<a href="${escaped(cited.link)}">${escaped(sourceOf(cited))}</a>)</p>`,
});

/** The words of a stretch, with what is masked in them replaced. */
export function wordsOf(text: string, stretch: TextRange, masks: readonly (TextRange & { replacement: string })[]): string {
  let words = '';
  let from = stretch.start;
  for (const mask of masks.filter((m) => m.start < stretch.end && m.end > stretch.start).toSorted((a, b) => a.start - b.start)) {
    if (mask.start > from) words += text.slice(from, mask.start);
    if (mask.end > from) words += mask.replacement;
    from = Math.max(from, mask.end);
  }
  return words + text.slice(from, Math.max(from, stretch.end));
}
