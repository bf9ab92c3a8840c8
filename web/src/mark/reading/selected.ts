import type { TextRange } from '@/mark/observations/place';

/** What is selected: two ends in the source's text; equal ends are a caret. */
export interface Selected {
  anchor: number;
  focus: number;
}

/** The selected words, without white space at their edges; a caret stays a caret. */
export function stretchOf(text: string, s: Selected): TextRange {
  let [start, end] = [Math.min(s.anchor, s.focus), Math.max(s.anchor, s.focus)];
  while (start < end && /\s/.test(text[start]!)) start++;
  while (end > start && /\s/.test(text[end - 1]!)) end--;
  return { start, end };
}
