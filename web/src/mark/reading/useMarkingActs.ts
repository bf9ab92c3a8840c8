import { useMemo, useRef, type Dispatch } from 'react';
import { toast } from 'sonner';
import type { Schemas } from '@/api/client';
import type { MarkingActs } from './actions';
import { begun, edged, moved, stopsOf, unmarked, wider, type SpokenTurn, type Stops } from './moves';
import { tellingPhrase } from '@/parts/findTags';
import type { ReadingAction } from './readingState';
import { stretchOf, type Selected } from './selected';
import type { TextRange } from '@/mark/observations/place';
import type { useMarking } from '@/mark/observations/useMarking';
import type { ShownNote } from '@/mark/marginNotes/noteWrites';
import type { ShownWords, TagsGiven } from '@/mark/observations/writes';

interface Given {
  source: Schemas['Source'];
  sentences: Schemas['SourceSentences'];
  observations: readonly ShownWords[];
  /** Marks that are there and not shown. */
  hidden: readonly Schemas['Observation'][];
  selected: Selected | null;
  focused: number | null;
  dispatch: Dispatch<ReadingAction>;
  openTagLine: (on: 'selection' | number) => void;
  marking: ReturnType<typeof useMarking<TextRange>>;
  mark: (given: TagsGiven) => void;
  move: (mark: ShownWords, to: TextRange) => void;
  split: (mark: ShownWords, at: number) => void;
  join: (marks: readonly ShownWords[]) => void;
  /** Joins a mark with the one after it. */
  joinNext: (mark: ShownWords) => void;
  notes: readonly ShownNote[];
  /** Puts the selection, or the mark, in a theme or an insight. */
  putIn: (what: TextRange | ShownWords) => void;
  /** Goes to passages like the selection, or like the mark. */
  findMore: (what: TextRange | ShownWords) => void;
  /** The tag on a pen. */
  penOf: (number: number) => number | undefined;
  /** Copies words with who says them, and the mark that they are. */
  copy: (words: TextRange, observation: number | null) => void;
}

/** A mark with every mark that shares a tag with one of them and overlaps it, in text order. */
export function overlapping(all: readonly ShownWords[], mark: ShownWords): readonly ShownWords[] {
  const kin = new Set([mark]);
  // Adding to a set while it is walked goes on to what was added.
  for (const one of kin)
    for (const other of all) if (other.start < one.end && one.start < other.end && other.tagIds.some((t) => one.tagIds.includes(t))) kin.add(other);
  return all.filter((o) => kin.has(o));
}

/** What can be done with the words of a source without the mouse. */
export function useMarkingActs(given: Given): MarkingActs {
  const { source, sentences, observations, selected, focused, marking } = given;
  const grown = useRef<TextRange[]>([]);
  const stops = useMemo(() => {
    let made: Stops | null = null;
    return () => (made ??= stopsOf(source.text, source.turns, sentences));
  }, [source, sentences]);
  const turns = useMemo<SpokenTurn[]>(() => {
    const team = new Set(source.line.speakers.filter((s) => s.isTeam).map((s) => s.id));
    return source.turns.map((t) => ({ start: t.start, end: t.end, team: t.speakerId !== null && team.has(t.speakerId) }));
  }, [source]);

  const some = selected !== null && selected.anchor !== selected.focus;
  const mark = observations.find((o) => o.id === focused);
  const select = (to: Selected | null) => given.dispatch({ do: 'select', selected: to });
  /** What is meant: the selection, or else the mark. */
  const what = () => (some ? stretchOf(source.text, selected) : mark);
  const withMark = (act: (mark: ShownWords) => void) => () => {
    if (mark) act(mark);
    return mark !== undefined;
  };
  const give = (tags: TagsGiven, otherwise: string) => {
    if (some) given.mark(tags);
    else if (mark) void marking.addTags(mark.id, tags);
    else toast(otherwise);
  };
  return {
    move: (unit, on, extend) => {
      const from = selected ?? { anchor: source.turns[0]?.start ?? 0, focus: source.turns[0]?.start ?? 0 };
      const to = moved(stops(), unit, from.focus, on);
      const anchor = !some && on ? begun(stops(), unit, from.anchor) : from.anchor;
      select({ anchor: extend ? anchor : to, focus: to });
    },
    edge: (unit, on, edge) => {
      const to = mark && edged(stops(), unit, mark, edge, on);
      if (to) given.move(mark, to);
      return mark !== undefined;
    },
    grow: () => {
      const from = selected ? stretchOf(source.text, selected) : mark;
      const to = from && wider(stops(), turns, from);
      if (!from || !to) return from !== undefined;
      // Shrinking goes back the way that it grew.
      grown.current = [...grown.current.filter((s) => s.end - s.start < to.end - to.start && s.start >= to.start && s.end <= to.end), from];
      select({ anchor: to.start, focus: to.end });
      return true;
    },
    shrink: () => {
      const before = grown.current.pop();
      if (before) select({ anchor: before.start, focus: before.end });
    },
    unmarked: (on) => {
      const next = unmarked(
        stops(),
        turns,
        [...observations, ...given.hidden.flatMap((o) => (o.anchor.kind === 'text' ? [o.anchor] : []))],
        on ? (selected ? Math.min(selected.anchor, selected.focus) : -1) : (selected?.anchor ?? source.text.length),
        on,
      );
      if (next) select({ anchor: next.start, focus: next.end });
      else toast(on ? 'Everything after this place is marked.' : 'Everything before this place is marked.');
    },
    tag: () => {
      if (some) given.openTagLine('selection');
      else if (mark) given.openTagLine(mark.id);
      return some || mark !== undefined;
    },
    again: () => {
      if (!marking.last) toast('There are no last tags yet: give some to a selection first.');
      else give(marking.last, 'Select some words first; the last tags are then given to them.');
    },
    pen: (number) => {
      const tagId = given.penOf(number);
      if (tagId === undefined) toast(`No tag is on pen ${number} yet. Point at a tag on the shelf and press ${number}.`);
      else give({ tagIds: [tagId], newTags: [] }, 'Select some words first; the pen then marks them.');
    },
    inTheirWords: () => {
      if (!some) return false;
      const words = stretchOf(source.text, selected);
      given.mark({ tagIds: [], newTags: [tellingPhrase(source.text.slice(words.start, words.end))] });
      return true;
    },
    mark: (on) => {
      const from = mark?.start ?? selected?.focus ?? -1;
      const here = mark ? observations.indexOf(mark) : -1;
      const next = mark ? observations[here + (on ? 1 : -1)] : on ? observations.find((o) => o.start >= from) : observations.findLast((o) => o.start < from);
      if (!next) return;
      given.dispatch({ do: 'focus', id: next.id });
      select({ anchor: next.start, focus: next.start });
    },
    findMore: () => {
      const like = what();
      if (like) given.findMore(like);
      else toast('Select some words, or go to a mark; passages like it are then found.');
    },
    note: () => {
      // Without a selection, the sentence that the caret is in.
      const at = selected?.focus;
      const sentence = at === undefined ? undefined : (sentences.sentences.findLast((s) => s.start <= at) ?? sentences.sentences[0]);
      const on = what() ?? sentence;
      if (on) given.dispatch({ do: 'note', note: { do: 'write', on: { start: on.start, end: on.end } } });
      else toast('Select some words, or put the caret in a sentence; the note is then written on it.');
    },
    toNote: (on) => {
      const from = selected?.focus ?? mark?.start ?? -1;
      const next = on ? given.notes.find((n) => n.start > from) : given.notes.findLast((n) => n.start < from);
      if (!next) return void toast(given.notes.length === 0 ? 'There is no margin note in this source.' : 'There is no further margin note this way.');
      select({ anchor: next.start, focus: next.start });
      given.dispatch({ do: 'note', note: { do: 'open', id: next.id } });
    },
    putIn: () => {
      const put = what();
      if (put) given.putIn(put);
      else toast('Select some words, or go to a mark; it is then put in a theme or an insight.');
    },
    split: withMark((one) => given.split(one, selected?.focus ?? one.start)),
    join: withMark(given.joinNext),
    joinAll: withMark((one) => {
      const kin = overlapping(observations, one);
      if (kin.length > 1) given.join(kin);
      else toast('No other mark with one of its tags overlaps it.');
    }),
    unsure: withMark(marking.unsure),
    star: withMark(marking.star),
    card: withMark((one) => given.dispatch({ do: 'openCard', id: one.id })),
    copy: () => {
      const words = what();
      if (words) given.copy(words, some ? null : (mark?.id ?? null));
      else toast('Select some words, or go to a mark; it is then copied with who says it and where.');
    },
    correct: () => {
      const position = selected?.focus ?? mark?.start ?? source.turns[0]?.start ?? 0;
      given.dispatch({ do: 'correct', turn: source.turns.findLast((t) => t.start <= position)?.start ?? null });
    },
    remove: withMark((one) => marking.remove(one.id)),
    leave: () => {
      select(null);
      given.dispatch({ do: 'focus', id: null });
      // With nothing left to leave, it is the page's.
      return selected !== null || mark !== undefined;
    },
  };
}
