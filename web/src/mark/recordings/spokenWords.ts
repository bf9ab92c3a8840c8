import type { TextRange, TimeRange } from '@/mark/observations/place';

/** A word of a transcript with the time in which it is said, by the transcript's own clock. */
export type SpokenWord = TextRange & TimeRange;

/** The words that are said in a range of time, as a range of the text; null for none. */
export function wordsIn(words: readonly SpokenWord[], time: TimeRange): TextRange | null {
  const heard = words.filter((w) => {
    const middle = (w.beginMs + w.endMs) / 2;
    return time.beginMs <= middle && middle < time.endMs;
  });
  return heard.length === 0 ? null : { start: heard[0]!.start, end: heard.at(-1)!.end };
}

/** When words are said; null where no time is known. */
export function timeOf(words: readonly SpokenWord[], text: TextRange): TimeRange | null {
  const touched = words.filter((w) => w.start < text.end && text.start < w.end);
  return touched.length === 0 ? null : { beginMs: Math.min(...touched.map((w) => w.beginMs)), endMs: Math.max(...touched.map((w) => w.endMs)) };
}

/** A range of time by another clock. */
export const shifted = (time: TimeRange | null, by: number): TimeRange | null => time && { beginMs: time.beginMs + by, endMs: time.endMs + by };

/** When each turn is spoken: as it says itself, or else from its first word to its last; null where nothing is known. Turns and words in order. */
export function timesOf(
  turns: readonly (TextRange & { beginMs: number | null; endMs: number | null })[],
  words: readonly SpokenWord[],
): ({ beginMs: number; endMs: number | null } | null)[] {
  let next = 0;
  return turns.map((turn) => {
    while (next < words.length && words[next]!.start < turn.start) next++;
    const first = words[next];
    let last = first;
    while (next < words.length && words[next]!.end <= turn.end) last = words[next++];
    if (turn.beginMs !== null) return { beginMs: turn.beginMs, endMs: turn.endMs };
    return first && first.end <= turn.end ? { beginMs: first.beginMs, endMs: last!.endMs } : null;
  });
}
