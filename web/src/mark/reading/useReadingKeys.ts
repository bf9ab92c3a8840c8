import { useMemo, useRef, type Dispatch, type KeyboardEvent, type RefObject } from 'react';
import { toast } from 'sonner';
import type { Schemas } from '@/api/client';
import { begun, edged, moved, stopsOf, unmarked, wider, type SpokenTurn, type Stops, type Unit } from './moves';
import { tellingPhrase } from '@/parts/findTags';
import type { ReadingAction } from './readingState';
import { stretchOf, type Selected } from './selected';
import type { Stretch } from '@/mark/observations/stretch';
import type { useMarking } from '@/mark/observations/useMarking';
import type { ShownNote } from '@/mark/marginNotes/noteWrites';
import type { Shown, TagsGiven } from '@/mark/observations/writes';

interface Given {
  source: Schemas['Source'];
  sentences: Schemas['SourceSentences'];
  observations: readonly Shown[];
  /** Marks that are there and not shown. */
  hidden: readonly Schemas['Observation'][];
  selected: Selected | null;
  focused: number | null;
  dispatch: Dispatch<ReadingAction>;
  openTagLine: (on: 'selection' | number) => void;
  marking: ReturnType<typeof useMarking>;
  mark: (given: TagsGiven) => void;
  move: (mark: Shown, to: Stretch) => void;
  split: (mark: Shown, at: number) => void;
  join: (marks: readonly Shown[]) => void;
  /** Joins a mark with the one after it. */
  joinNext: (mark: Shown) => void;
  notes: readonly ShownNote[];
  /** Puts the selection, or the mark, in a theme or an insight. */
  putIn: (what: Stretch | Shown) => void;
  /** Goes to passages like the selection, or like the mark. */
  findMore: (what: Stretch | Shown) => void;
  /** The tag on a pen. */
  penOf: (number: number) => number | undefined;
  root: RefObject<HTMLDivElement | null>;
}

const arrows: Record<string, { unit: Unit; on: boolean }> = {
  ArrowRight: { unit: 'word', on: true },
  ArrowLeft: { unit: 'word', on: false },
  ArrowDown: { unit: 'sentence', on: true },
  ArrowUp: { unit: 'sentence', on: false },
  PageDown: { unit: 'turn', on: true },
  PageUp: { unit: 'turn', on: false },
};

/** A mark with every mark that shares a tag with one of them and overlaps it, in text order. */
export function overlapping(all: readonly Shown[], mark: Shown): readonly Shown[] {
  const kin = new Set([mark]);
  // Adding to a set while it is walked goes on to what was added.
  for (const one of kin)
    for (const other of all) if (other.start < one.end && one.start < other.end && other.tagIds.some((t) => one.tagIds.includes(t))) kin.add(other);
  return all.filter((o) => kin.has(o));
}

/** Reading and marking without the mouse. */
export function useReadingKeys(given: Given) {
  const { source, sentences, observations, selected, focused, marking } = given;
  const grown = useRef<Stretch[]>([]);
  const stops = useMemo(() => {
    let made: Stops | null = null;
    return () => (made ??= stopsOf(source.text, source.turns, sentences));
  }, [source, sentences]);
  const turns = useMemo<SpokenTurn[]>(() => {
    const team = new Set(source.line.speakers.filter((s) => s.isTeam).map((s) => s.id));
    return source.turns.map((t) => ({ start: t.start, end: t.end, team: t.speakerId !== null && team.has(t.speakerId) }));
  }, [source]);

  return (event: KeyboardEvent) => {
    if (event.target !== given.root.current || event.ctrlKey || event.metaKey) return;
    const some = selected !== null && selected.anchor !== selected.focus;
    const mark = observations.find((o) => o.id === focused);
    const arrow = arrows[event.key];
    if (event.altKey) {
      if (!arrow || !mark) return;
      event.preventDefault();
      const to = edged(stops(), arrow.unit, mark, event.shiftKey ? 'start' : 'end', arrow.on);
      if (to) given.move(mark, to);
      return;
    }
    const act = (): boolean => {
      if (arrow) {
        const from = selected ?? { anchor: source.turns[0]?.start ?? 0, focus: source.turns[0]?.start ?? 0 };
        const to = moved(stops(), arrow.unit, from.focus, arrow.on);
        const anchor = !some && arrow.on ? begun(stops(), arrow.unit, from.anchor) : from.anchor;
        given.dispatch({ do: 'select', selected: { anchor: event.shiftKey ? anchor : to, focus: to } });
        return true;
      }
      if (/^[1-9]$/.test(event.key)) {
        const tagId = given.penOf(Number(event.key));
        const tags: TagsGiven | null = tagId === undefined ? null : { tagIds: [tagId], newTags: [] };
        if (!tags) toast(`No tag is on pen ${event.key} yet. Point at a tag on the shelf and press ${event.key}.`);
        else if (some) given.mark(tags);
        else if (mark) void marking.addTags(mark.id, tags);
        else toast('Select some words first; the pen then marks them.');
        return true;
      }
      switch (event.key) {
        case 'Enter':
          if (some) given.openTagLine('selection');
          else if (mark) given.openTagLine(mark.id);
          return some || mark !== undefined;
        case '.':
          if (!marking.last) toast('There are no last tags yet: give some to a selection first.');
          else if (some) given.mark(marking.last);
          else if (mark) void marking.addTags(mark.id, marking.last);
          else toast('Select some words first; the last tags are then given to them.');
          return true;
        case '"': {
          if (!some) return false;
          const words = stretchOf(source.text, selected);
          given.mark({ tagIds: [], newTags: [tellingPhrase(source.text.slice(words.start, words.end))] });
          return true;
        }
        case ']':
        case '[': {
          const from = mark?.start ?? selected?.focus ?? -1;
          const ids = observations.map((o) => o.id);
          const here = mark ? ids.indexOf(mark.id) : -1;
          const next =
            event.key === ']'
              ? mark
                ? observations[here + 1]
                : observations.find((o) => o.start >= from)
              : mark
                ? observations[here - 1]
                : observations.findLast((o) => o.start < from);
          if (next) {
            given.dispatch({ do: 'focus', id: next.id });
            given.dispatch({ do: 'select', selected: { anchor: next.start, focus: next.start } });
          }
          return true;
        }
        case 'g': {
          const from = selected ? stretchOf(source.text, selected) : mark;
          const to = from && wider(stops(), turns, from);
          if (!from || !to) return from !== undefined;
          // Shrinking goes back the way that it grew.
          grown.current = [...grown.current.filter((s) => s.end - s.start < to.end - to.start && s.start >= to.start && s.end <= to.end), from];
          given.dispatch({ do: 'select', selected: { anchor: to.start, focus: to.end } });
          return true;
        }
        case 'G': {
          const before = grown.current.pop();
          if (before) given.dispatch({ do: 'select', selected: { anchor: before.start, focus: before.end } });
          return true;
        }
        case ')':
        case '(': {
          const on = event.key === ')';
          const next = unmarked(
            stops(),
            turns,
            [...observations, ...given.hidden.flatMap((o) => (o.anchor.kind === 'text' ? [o.anchor] : []))],
            on ? (selected ? Math.min(selected.anchor, selected.focus) : -1) : (selected?.anchor ?? source.text.length),
            on,
          );
          if (next) given.dispatch({ do: 'select', selected: { anchor: next.start, focus: next.end } });
          else toast(on ? 'Everything after this place is marked.' : 'Everything before this place is marked.');
          return true;
        }
        case 'k':
          if (some) given.findMore(stretchOf(source.text, selected));
          else if (mark) given.findMore(mark);
          else toast('Select some words, or go to a mark; passages like it are then found.');
          return true;
        case 'm': {
          // Without a selection, the sentence that the caret is in.
          const at = selected?.focus;
          const sentence = at === undefined ? undefined : (sentences.sentences.findLast((s) => s.start <= at) ?? sentences.sentences[0]);
          const on = some ? stretchOf(source.text, selected) : (mark ?? sentence);
          if (on) given.dispatch({ do: 'note', note: { do: 'write', on: { start: on.start, end: on.end } } });
          else toast('Select some words, or put the caret in a sentence; the note is then written on it.');
          return true;
        }
        case 'n':
        case 'N': {
          const from = selected?.focus ?? mark?.start ?? -1;
          const next = event.key === 'n' ? given.notes.find((n) => n.start > from) : given.notes.findLast((n) => n.start < from);
          if (!next) toast(given.notes.length === 0 ? 'There is no margin note in this source.' : 'There is no further margin note this way.');
          else {
            given.dispatch({ do: 'select', selected: { anchor: next.start, focus: next.start } });
            given.dispatch({ do: 'note', note: { do: 'open', id: next.id } });
          }
          return true;
        }
        case 't':
          if (some) given.putIn(stretchOf(source.text, selected));
          else if (mark) given.putIn(mark);
          else toast('Select some words, or go to a mark; it is then put in a theme or an insight.');
          return true;
        case 'x':
          if (mark) given.split(mark, selected?.focus ?? mark.start);
          return mark !== undefined;
        case 'j':
          if (mark) given.joinNext(mark);
          return mark !== undefined;
        case 'J': {
          if (!mark) return false;
          const kin = overlapping(observations, mark);
          if (kin.length > 1) given.join(kin);
          else toast('No other mark with one of its tags overlaps it.');
          return true;
        }
        case 'q':
          if (mark) marking.unsure(mark);
          return mark !== undefined;
        case 's':
          if (mark) marking.star(mark);
          return mark !== undefined;
        case 'e':
          if (mark) given.dispatch({ do: 'openCard', id: mark.id });
          return mark !== undefined;
        case 'c': {
          const position = selected?.focus ?? mark?.start ?? source.turns[0]?.start ?? 0;
          given.dispatch({ do: 'correct', turn: source.turns.findLast((t) => t.start <= position)?.start ?? null });
          return true;
        }
        case 'Delete':
          if (mark) marking.remove(mark.id);
          return mark !== undefined;
        case 'Escape':
          given.dispatch({ do: 'select', selected: null });
          given.dispatch({ do: 'focus', id: null });
          // With nothing left to leave, it is the page's.
          return selected !== null || mark !== undefined;
        default:
          return false;
      }
    };
    if (act()) event.preventDefault();
  };
}
