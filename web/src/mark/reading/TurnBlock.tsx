import { memo, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { PageAsPicture } from '@/mark/pictures/PageAsPicture';
import type { Schemas } from '@/api/client';
import { readTyped } from '@/parts/findTags';
import type { TagLook } from '@/parts/tagLook';
import { clock } from '@/parts/words';
import { NoteInMargin } from '@/mark/marginNotes/NoteInMargin';
import type { ShownNote } from '@/mark/marginNotes/noteWrites';
import { Label } from './Label';
import { rangeIn } from './positions';
import { closeBelow, type TurnShape } from './shape';
import { folded, stacked, type Thread } from './threads';
import { TurnWords } from './TurnWords';
import type { ShownWords } from '@/mark/observations/writes';

interface Props {
  text: string;
  turn: Schemas['StoredTurn'];
  who: string;
  team: boolean;
  /** What is added to the source's own times, in milliseconds. */
  offset: number;
  /** What the document says of this block, where there is one. */
  shape: TurnShape | undefined;
  /** Threads and observations that touch this turn. */
  threads: readonly Thread[];
  observations: readonly ShownWords[];
  /** Margin notes that begin in this turn. */
  notes: readonly ShownNote[];
  focused: number | null;
  look: (id: number) => TagLook;
  /** Changes when the text is laid out anew. */
  layout: string;
  /** Letters, in pixels. */
  size: number;
  /** Its number among the paragraphs, and where its numbered lines begin; where these are wanted. */
  paragraph: number | undefined;
  lines: readonly NumberedLine[] | undefined;
  /** The source, where its pages can be kept as pictures. */
  drawn: { studyId: number; sourceId: number } | undefined;
  /** The server cannot be reached: what waits to be sent is shown as waiting. */
  cut: boolean;
  onFocus: (observationId: number, open: boolean) => void;
  onHover: (observationId: number | null) => void;
  onNote: (noteId: number) => void;
}

interface Piece {
  key: string;
  left: number;
  top: number;
  width: number;
  colour: string;
  strong: boolean;
  dotted: boolean;
}

/** Where things stand, in pixels from the top left of the words. */
interface Measured {
  pieces: Piece[];
  /** The line of each label. */
  lines: number[];
  numberTops: number[];
  noteTops: number[];
}

const nothingMeasured: Measured = { pieces: [], lines: [], numberTops: [], noteTops: [] };

const labelHeight = 26;
/** A note in the margin: about how many letters a line of it holds, and what its lines and the space below take. */
const noteLetters = 21;
const noteLine = 17;
const noteGap = 7;
const mostNoteLines = 4;
const noteLines = (words: string) =>
  Math.min(
    mostNoteLines,
    words.split('\n').reduce((n, line) => n + Math.max(1, Math.ceil(line.length / noteLetters)), 0),
  );
/** From the middle of a line to its first thread, in letters. */
const threadDrop = 11 / 17;
const threadStep = 3;
/** A numbered line of the text. */
export interface NumberedLine {
  start: number;
  number: number;
}

const untagged: TagLook = { name: 'no tag yet', colour: 'var(--ink-soft)', draft: true };

/** A tag with the value that was given on its scale. */
const valued = (tag: TagLook, value: number | undefined): TagLook => (value === undefined ? tag : { ...tag, name: `${tag.name} ${value}` });

/** One turn: who and when, the words with their threads, and the labels on the lines where observations begin. */
function Block({
  text,
  turn,
  who,
  team,
  offset,
  shape,
  threads,
  observations,
  notes,
  focused,
  look,
  layout,
  size,
  paragraph,
  lines: numbered,
  drawn,
  cut,
  onFocus,
  onHover,
  onNote,
}: Props) {
  const words = useRef<HTMLParagraphElement>(null);
  const place = useRef<HTMLDivElement>(null);
  const [measured, setMeasured] = useState<Measured>(nothingMeasured);
  const { numberTops, noteTops } = measured;
  /** The line of labels that is unfolded, by where it stands. */
  const [unfolded, setUnfolded] = useState<number | null>(null);
  const pieces = threads.length === 0 ? [] : measured.pieces;
  const lines = threads.length === 0 ? [] : measured.lines;
  const beginning = useMemo(() => observations.filter((o) => o.start >= turn.start && o.start < turn.end), [observations, turn]);

  useLayoutEffect(() => {
    const block = words.current;
    if (!block || !place.current || (threads.length === 0 && !numbered)) return;
    const base = place.current.getBoundingClientRect();
    const rectsOf = (start: number, end: number) =>
      [...(rangeIn(block, Math.max(0, start - turn.start), Math.min(turn.end, end) - turn.start)?.getClientRects() ?? [])].filter((r) => r.width > 0);
    const found: Measured = {
      pieces: threads.flatMap((thread, t) =>
        rectsOf(thread.start, thread.end).map((rect, i) => ({
          key: `${t}-${i}`,
          left: rect.left - base.left,
          top: rect.top + rect.height / 2 - base.top + threadDrop * size + thread.lane * threadStep,
          width: rect.width,
          colour: thread.colour,
          strong: !thread.dotted && thread.observationId === focused,
          dotted: thread.dotted ?? false,
        })),
      ),
      lines: beginning.flatMap((o) => {
        const first = rectsOf(o.start, o.end)[0];
        return Array<number>(Math.max(1, o.tagIds.length + (o.newTags?.length ?? 0))).fill(first ? first.top - base.top : 0);
      }),
      numberTops: (numbered ?? []).map((line) => (rectsOf(line.start, line.start + 1)[0]?.top ?? base.top) - base.top),
      noteTops: notes.map((note) => (rectsOf(note.start, note.end)[0]?.top ?? base.top) - base.top),
    };
    // Marks that are shown again stand where they stood: nothing is drawn twice.
    setMeasured((before) => (JSON.stringify(before) === JSON.stringify(found) ? before : found));
  }, [threads, beginning, notes, focused, layout, turn, size, numbered]);

  const labels = beginning.flatMap((o) => {
    const named = [
      ...o.tagIds.map((id) => ({ o, key: `${o.id}-${id}`, look: valued(look(id), o.values[id]) })),
      ...(o.newTags ?? []).map((name) => ({ o, key: `${o.id}-${name}`, look: { name: readTyped(name).name, colour: 'var(--brass)', draft: true } })),
    ];
    return named.length > 0 ? named : [{ o, key: `${o.id}`, look: untagged }];
  });
  const placed = labels.map((label, i) => ({ ...label, wanted: lines[i] ?? 0 }));
  // Nothing is folded before it is known on which lines the labels stand.
  const fitting = lines.length === 0 ? placed : folded(placed, (line) => line[0]!.wanted === unfolded || line.some((l) => l.o.id === focused));
  // Labels before notes on the same line; a note stands below the labels of its line.
  const inMargin = [
    ...fitting.map((l, i) => ({ wanted: l.wanted, height: labelHeight, label: i, note: -1 })),
    ...notes.map((note, i) => ({ wanted: noteTops[i] ?? 0, height: noteLines(note.words) * noteLine + noteGap, label: -1, note: i })),
  ].toSorted((a, b) => a.wanted - b.wanted || a.note - b.note);
  const placedTops = stacked(inMargin);
  const topOf = (what: 'label' | 'note', index: number) => placedTops[inMargin.findIndex((m) => m[what] === index)] ?? 0;
  const tops = lines.length === 0 ? [] : fitting.map((_, i) => topOf('label', i));
  const bottom = threads.length === 0 ? 0 : Math.max(0, ...inMargin.map((m, i) => placedTops[i]! + m.height));
  return (
    <div
      className={`grid grid-cols-[84px_minmax(0,var(--read-measure))_minmax(150px,1fr)] gap-x-4 @max-[720px]:grid-cols-[60px_minmax(0,1fr)_minmax(90px,116px)] @max-[720px]:gap-x-3 ${closeBelow(shape) ? 'pb-1.5' : 'pb-7'}`}
      style={{ minHeight: bottom > 0 ? bottom + 8 : undefined }}
    >
      <div className={`pt-[3px] text-right text-[12.5px] leading-[17px] ${numbered ? 'pr-3' : ''}`}>
        <span className="line-clamp-2 font-semibold wrap-anywhere" title={who}>
          {who}
        </span>
        {turn.beginMs !== null && <span className="text-[11.5px] text-ink-soft">{clock(turn.beginMs + offset)}</span>}
        {paragraph !== undefined && <span className="block text-[11.5px] text-ink-soft">¶ {paragraph}</span>}
        {shape?.page !== undefined &&
          (drawn ? <PageAsPicture {...drawn} page={shape.page} /> : <span className="text-[11.5px] text-ink-soft">page {shape.page}</span>)}
      </div>
      <div ref={place} className="relative">
        <TurnWords ref={words} text={text} turn={turn} team={team} shape={shape} />
        {(numbered ?? []).map((line, i) => (
          <span
            key={line.start}
            aria-hidden
            className="absolute -left-3 text-[10px] leading-none text-ink-soft tabular-nums"
            style={{ top: (numberTops[i] ?? 0) + size / 2, transform: 'translateX(-50%)' }}
          >
            {line.number}
          </span>
        ))}
        {pieces.map((piece) => (
          <span
            key={piece.key}
            aria-hidden
            className="pointer-events-none absolute"
            style={
              piece.dotted
                ? { left: piece.left, top: piece.top, width: piece.width, borderTop: `2px dotted ${piece.colour}` }
                : { left: piece.left, top: piece.top, width: piece.width, height: piece.strong ? 3 : 2, background: piece.colour }
            }
          />
        ))}
      </div>
      <div className="relative" onMouseLeave={() => setUnfolded(null)}>
        {fitting.map((label, i) => {
          if ('more' in label)
            return (
              <button
                key={`more ${label.wanted}`}
                type="button"
                className="absolute left-3 min-h-6 text-[12px] text-ink-soft underline decoration-dotted underline-offset-4 hover:text-ink"
                style={{ top: tops[i] ?? 0 }}
                onMouseEnter={() => setUnfolded(label.wanted)}
                onFocus={() => setUnfolded(label.wanted)}
                onClick={() => setUnfolded(label.wanted)}
              >
                +{label.more} more
              </button>
            );
          const { o, key, look: shown } = label;
          return (
            <Label
              key={key}
              mark={o}
              first={labels.find((l) => l.o.id === o.id)?.key === key}
              look={shown}
              top={tops[i] ?? 0}
              focused={o.id === focused}
              waits={cut && o.waits === true}
              onFocus={onFocus}
              onHover={onHover}
            />
          );
        })}
        {notes.map((note, i) => (
          <NoteInMargin
            key={`note ${note.id}`}
            note={note}
            top={topOf('note', i)}
            lines={noteLines(note.words)}
            lineHeight={noteLine}
            waits={cut && note.waits === true}
            onOpen={onNote}
          />
        ))}
      </div>
    </div>
  );
}

const sameThreads = (a: readonly Thread[], b: readonly Thread[]) =>
  a.length === b.length &&
  a.every((t, i) => {
    const u = b[i]!;
    return t.observationId === u.observationId && t.start === u.start && t.end === u.end && t.lane === u.lane && t.colour === u.colour;
  });
const sameItems = (a: readonly unknown[], b: readonly unknown[]) => a.length === b.length && a.every((x, i) => x === b[i]);

/** A mark lays out its own turn anew and no other: lists are compared by what is in them. */
export const TurnBlock = memo(Block, (before, after) => {
  const { threads, observations, notes, ...rest } = before;
  return (
    sameThreads(threads, after.threads) &&
    sameItems(observations, after.observations) &&
    sameItems(notes, after.notes) &&
    (Object.keys(rest) as (keyof typeof rest)[]).every((key) => Object.is(rest[key], after[key]))
  );
});
