import type { TextRange } from '@/mark/observations/place';

/** Where a caret moves: to the ends of words, clauses, sentences and turns going on, to their starts going back. Nothing between turns is visited. */
export interface Stops {
  word: readonly TextRange[];
  clause: readonly TextRange[];
  sentence: readonly TextRange[];
  turn: readonly TextRange[];
}

export type Unit = keyof Stops;

/** A turn and whether the team speaks it. */
export interface SpokenTurn extends TextRange {
  team: boolean;
}

/** The stops of a text: its words by the browser (Unicode Standard Annex 29), its sentences and clauses as the server reads them. */
export function stopsOf(text: string, turns: readonly TextRange[], read: { sentences: readonly TextRange[]; clauses: readonly TextRange[] }): Stops {
  const words = new Intl.Segmenter(undefined, { granularity: 'word' });
  const word = turns.flatMap((turn) =>
    [...words.segment(text.slice(turn.start, turn.end))]
      .filter((s) => s.isWordLike)
      .map((s) => ({ start: turn.start + s.index, end: turn.start + s.index + s.segment.length })),
  );
  return { word, clause: read.clauses, sentence: read.sentences, turn: turns.map(({ start, end }) => ({ start, end })) };
}

/** Where a selection that goes on from a bare caret begins: at the caret, or at the next unit when the caret stands before it. What lies between turns is not taken in. */
export const begun = (stops: Stops, unit: Unit, from: number): number => Math.max(from, stops[unit].find((s) => s.end > from)?.start ?? from);

/** The place one unit on or back from a position; the position itself at either end. */
export function moved(stops: Stops, unit: Unit, from: number, on: boolean): number {
  const all = stops[unit];
  if (on) return all.find((s) => s.end > from)?.end ?? from;
  return all.findLast((s) => s.start < from)?.start ?? from;
}

const growing: readonly Unit[] = ['word', 'clause', 'sentence', 'turn'];

/** What holds a stretch, from the word it stands in to the answer with its question: each wider than the one before. */
export function wider(stops: Stops, turns: readonly SpokenTurn[], from: TextRange): TextRange | null {
  for (const unit of growing) {
    const bare = from.start === from.end;
    const touched = stops[unit].filter((s) => (bare ? s.start <= from.start && s.end >= from.start : s.start < from.end && s.end > from.start));
    const first = touched[0];
    if (!first) continue;
    const around = { start: Math.min(first.start, from.start), end: Math.max(touched.at(-1)!.end, from.end) };
    if (around.start < from.start || around.end > from.end) return around;
  }
  const at = turns.findIndex((t) => t.end > from.start);
  const last = turns.findLastIndex((t) => t.start < from.end);
  if (at < 0 || last < 0) return null;
  let question = at;
  while (question > 0 && turns[question - 1]!.team && !turns[at]!.team) question--;
  return question < at ? { start: turns[question]!.start, end: Math.max(from.end, turns[last]!.end) } : null;
}

/** A stretch with one edge moved on or back by a unit; null where that leaves no words. */
export function edged(stops: Stops, unit: Unit, from: TextRange, edge: 'start' | 'end', on: boolean): TextRange | null {
  const all = stops[unit];
  const at = on ? all.find((s) => s[edge] > from[edge]) : all.findLast((s) => s[edge] < from[edge]);
  if (!at) return null;
  const to = { ...from, [edge]: at[edge] };
  return to.start < to.end ? to : null;
}

/** The next or last sentence of the participants that no mark touches. */
export function unmarked(stops: Stops, turns: readonly SpokenTurn[], marks: readonly TextRange[], from: number, on: boolean): TextRange | null {
  const spoken = turns.filter((t) => !t.team);
  const fits = (s: TextRange) => spoken.some((t) => t.start <= s.start && s.end <= t.end) && !marks.some((m) => m.start < s.end && s.start < m.end);
  return (on ? stops.sentence.find((s) => s.start > from && fits(s)) : stops.sentence.findLast((s) => s.end <= from && fits(s))) ?? null;
}
