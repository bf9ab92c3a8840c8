import type { Stretch } from '@/mark/observations/stretch';

/** Where a caret moves: to the ends of words, sentences and turns going on, to their starts going back. Nothing between turns is visited. */
export interface Stops {
  word: Stretch[];
  sentence: Stretch[];
  turn: Stretch[];
}

export type Unit = keyof Stops;

/** The stops of a text; words and sentences by the browser's own segmentation (Unicode Standard Annex 29). */
export function stopsOf(text: string, turns: readonly Stretch[]): Stops {
  const words = new Intl.Segmenter(undefined, { granularity: 'word' });
  const sentences = new Intl.Segmenter(undefined, { granularity: 'sentence' });
  const stops: Stops = { word: [], sentence: [], turn: turns.map(({ start, end }) => ({ start, end })) };
  for (const turn of turns) {
    const said = text.slice(turn.start, turn.end);
    for (const s of words.segment(said)) {
      if (s.isWordLike) stops.word.push({ start: turn.start + s.index, end: turn.start + s.index + s.segment.length });
    }
    for (const s of sentences.segment(said)) {
      const kept = s.segment.trimEnd();
      if (kept.length > 0) stops.sentence.push({ start: turn.start + s.index, end: turn.start + s.index + kept.length });
    }
  }
  return stops;
}

/** Where a selection that goes on from a bare caret begins: at the caret, or at the next unit when the caret stands before it. What lies between turns is not taken in. */
export const begun = (stops: Stops, unit: Unit, from: number): number => Math.max(from, stops[unit].find((s) => s.end > from)?.start ?? from);

/** The place one unit on or back from a position; the position itself at either end. */
export function moved(stops: Stops, unit: Unit, from: number, on: boolean): number {
  const all = stops[unit];
  if (on) return all.find((s) => s.end > from)?.end ?? from;
  return all.findLast((s) => s.start < from)?.start ?? from;
}
