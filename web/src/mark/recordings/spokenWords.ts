import type { Stretch } from '@/mark/observations/stretch';

/** A word of a transcript with the time in which it is said, by the transcript's own clock. */
export interface SpokenWord extends Stretch {
  beginMs: number;
  endMs: number;
}

/** The words that are said in a stretch of time, as a stretch of the text; null for none. */
export function wordsIn(words: readonly SpokenWord[], time: Stretch): Stretch | null {
  const heard = words.filter((w) => {
    const middle = (w.beginMs + w.endMs) / 2;
    return time.start <= middle && middle < time.end;
  });
  return heard.length === 0 ? null : { start: heard[0]!.start, end: heard.at(-1)!.end };
}

/** When words are said; null where no time is known. */
export function timeOf(words: readonly SpokenWord[], text: Stretch): Stretch | null {
  const touched = words.filter((w) => w.start < text.end && text.start < w.end);
  return touched.length === 0 ? null : { start: Math.min(...touched.map((w) => w.beginMs)), end: Math.max(...touched.map((w) => w.endMs)) };
}

/** A stretch of time by another clock. */
export const shifted = (stretch: Stretch | null, by: number): Stretch | null => stretch && { start: stretch.start + by, end: stretch.end + by };

/** When each turn is spoken: as it says itself, or else from its first word to its last; null where nothing is known. Turns and words in order. */
export function timesOf(
  turns: readonly (Stretch & { beginMs: number | null; endMs: number | null })[],
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
