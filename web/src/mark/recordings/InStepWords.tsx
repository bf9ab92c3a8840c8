import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Schemas } from '@/api/client';
import { doubt, paint, positionAt, selectedStretch, type Pane } from '@/mark/reading/positions';
import type { TextRange } from '@/mark/observations/place';
import { Key } from '@/parts/Button';
import { timesOf, type SpokenWord } from './spokenWords';
import type { Player } from './usePlayer';
import { momentIn } from './view';

interface Props {
  source: Schemas['Source'];
  words: readonly SpokenWord[];
  player: Player;
  pane: Pane;
  nameOf: (speakerId: number | null) => string;
  /** Whether the spoken turn is kept in view. */
  follows: boolean;
  onFollows: (follows: boolean) => void;
  /** Words that are highlighted: what is selected, or what is said in the focused clip. */
  highlighted: TextRange | null;
  onSelect: (words: TextRange) => void;
  /** All transcripts that run with the recording. */
  candidates: readonly Schemas['SourceLine'][];
  onChoose: (id: number) => void;
  /** Turns without a beginning of their own are laid along the recording. */
  estimated: boolean;
  /** The turn whose beginning the key pins, by where it begins in the text. */
  pinNext: number | null;
  onChoosePin: (start: number) => void;
  /** It is a transcript of this recording, and is laid along it. */
  onAttach: () => void;
  /** Doubted words were looked at, and are right. */
  onSure: (words: TextRange) => void;
  /** What is added to the transcript's times to have the recording's, in milliseconds. */
  shift: number;
  /** Sets it. */
  onLineUp: (shift: number) => void;
  /** The selected words are said where the recording stands now; null while none are selected. */
  onHere: (() => void) | null;
}

/** The first words of a turn. */
const opening = (text: string, start: number) =>
  text
    .slice(start, start + 60)
    .split(/\s+/)
    .slice(0, 4)
    .join(' ');

const writtenByWords: Record<NonNullable<Schemas['SourceLine']['writtenBy']>, string> = {
  simulated: 'Written by the simulated service: check every word.',
  pocketsphinx: 'Written by pocketsphinx: check every word.',
  program: 'Written by a program: check every word.',
};

/** By how many seconds the words are moved against the sound. */
function OffsetField({ ms, onSet }: { ms: number; onSet: (ms: number) => void }) {
  const [typed, setTyped] = useState((ms / 1000).toFixed(1));
  const seconds = Number(typed.replace(',', '.'));
  const wrong = typed.trim() === '' || !Number.isFinite(seconds);
  const set = () => {
    if (!wrong && Math.round(seconds * 1000) !== ms && typed !== (ms / 1000).toFixed(1)) onSet(Math.round(seconds * 1000));
  };
  return (
    <label className="flex items-center gap-0.5 tabular-nums">
      <input
        aria-label="Words later by, in seconds"
        aria-invalid={wrong}
        inputMode="decimal"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={set}
        onKeyDown={(e) => {
          if (e.key === 'Enter') set();
          if (e.key === 'Escape') {
            e.stopPropagation();
            setTyped((ms / 1000).toFixed(1));
          }
        }}
        className="w-9 rounded-std border border-transparent bg-transparent px-0.5 text-right hover:border-line focus:border-line aria-invalid:border-oxblood"
      />
      s
    </label>
  );
}

/** The transcript beside its recording: the spoken turn is highlighted; a click in the words goes to their moment. */
export function InStepWords({
  source,
  words,
  player,
  pane,
  nameOf,
  follows,
  onFollows,
  highlighted,
  candidates,
  onChoose,
  estimated,
  pinNext,
  onChoosePin,
  onSure,
  onSelect,
  shift,
  onLineUp,
  onHere,
}: Props) {
  const { text, turns, line } = source;
  const scroller = useRef<HTMLDivElement>(null);
  const inner = useRef<HTMLDivElement>(null);
  const [spoken, setSpoken] = useState(-1);
  const team = useMemo(() => new Set(line.speakers.filter((s) => s.isTeam).map((s) => s.id)), [line.speakers]);
  // eslint-disable-next-line react-hooks/incompatible-library -- it tells of every change by rendering anew
  const virtual = useVirtualizer({
    count: turns.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => Math.ceil((turns[i]!.end - turns[i]!.start) / 42) * 26 + 18,
    getItemKey: (i) => turns[i]!.start,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  const timed = useMemo(() => timesOf(turns, words), [turns, words]);
  const { onMove, playing } = player;
  useEffect(
    () =>
      onMove((ms) => {
        const own = ms - shift;
        setSpoken(timed.findLastIndex((t) => t !== null && t.beginMs <= own && (t.endMs === null || own < t.endMs + 400)));
      }),
    [onMove, timed, shift],
  );
  const latest = useRef(virtual);
  useLayoutEffect(() => {
    latest.current = virtual;
  });
  useEffect(() => {
    if (follows && spoken >= 0) latest.current.scrollToIndex(spoken, { align: 'center' });
  }, [spoken, follows]);
  const range = `${shown[0]?.index ?? 0} ${shown.at(-1)?.index ?? 0}`;
  useLayoutEffect(() => paint('selection', pane, inner.current, highlighted ? [highlighted] : []), [highlighted, pane, range, text]);
  const unsure = useMemo(
    () => (source.shape?.times ?? []).filter((t) => t.unsure).map((t) => ({ start: t.words.start, end: t.words.end, beginMs: t.beginMs })),
    [source.shape],
  );
  useLayoutEffect(() => doubt(pane, inner.current, unsure), [unsure, pane, range, text]);
  useEffect(
    () => () => {
      paint('selection', pane, null, []);
      doubt(pane, null, []);
    },
    [pane],
  );
  const [doubted, setDoubted] = useState(-1);
  const looking = unsure.find((u) => u.start === doubted);
  const lookAtNext = () => {
    const next = unsure.find((u) => u.start > doubted) ?? unsure[0]!;
    setDoubted(next.start);
    onFollows(false);
    latest.current.scrollToIndex(
      turns.findIndex((t) => t.end > next.start),
      { align: 'center' },
    );
    player.seek(Math.max(0, next.beginMs + shift - 400));
  };
  return (
    <section aria-label="In step with the words" className="flex min-h-0 min-w-0 flex-col">
      <header className="flex min-h-9 items-center gap-2 border-b border-line px-4 text-[12.5px] text-ink-soft">
        {candidates.length > 1 ? (
          <select
            aria-label="Transcript in step"
            value={line.id}
            onChange={(e) => onChoose(Number(e.target.value))}
            className="min-h-6 min-w-0 truncate rounded-std border border-line bg-case px-1"
          >
            {candidates.map((c) => (
              <option key={c.id} value={c.id}>
                {c.title}
              </option>
            ))}
          </select>
        ) : (
          <span className="truncate" title={line.title}>
            In step: {line.title}
          </span>
        )}
        <span className="ml-auto flex shrink-0 items-center gap-1 whitespace-nowrap" title="Line the words up with the sound">
          <button
            type="button"
            className="grid size-6 place-items-center rounded-std hover:bg-wash"
            aria-label="Words 0.1 s earlier"
            onClick={() => onLineUp(shift - 100)}
          >
            −
          </button>
          <OffsetField key={shift} ms={shift} onSet={onLineUp} />
          <button
            type="button"
            className="grid size-6 place-items-center rounded-std hover:bg-wash"
            aria-label="Words 0.1 s later"
            onClick={() => onLineUp(shift + 100)}
          >
            +
          </button>
        </span>
        {onHere && (
          <button type="button" className="min-h-6 shrink-0 rounded-std px-1.5 whitespace-nowrap text-sky hover:bg-wash" onClick={onHere}>
            said here <Key>h</Key>
          </button>
        )}
        <button
          type="button"
          aria-pressed={follows}
          className="min-h-6 shrink-0 rounded-std px-1.5 whitespace-nowrap hover:bg-wash"
          onClick={() => onFollows(!follows)}
        >
          {follows ? 'follows' : 'stays'} <Key>g</Key>
        </button>
      </header>
      {(line.writtenBy !== null || unsure.length > 0) && (
        <p className="flex min-h-7 flex-wrap items-center gap-x-2 border-b border-line px-4 text-[12.5px]">
          {line.writtenBy !== null && <span className="text-brass">{writtenByWords[line.writtenBy]}</span>}
          {unsure.length > 0 && (
            <button type="button" className="min-h-6 text-sky hover:underline" onClick={lookAtNext}>
              {unsure.length === 1 ? '1 word needs a look' : `${unsure.length} words need a look`}
            </button>
          )}
          {looking && (
            <span className="flex items-center gap-2">
              <span className="font-read text-[15px]">{text.slice(looking.start, looking.end)}</span>
              <button
                type="button"
                className="min-h-6 text-sky hover:underline"
                onClick={() => {
                  onSure(looking);
                  lookAtNext();
                }}
              >
                It is right
              </button>
            </span>
          )}
        </p>
      )}
      {estimated && (
        <p className="flex min-h-7 items-center gap-2 border-b border-line px-4 text-[12.5px] text-brass">
          <span className="shrink-0">Times are estimated.</span>
          <span className="truncate text-ink-soft">
            <Key>p</Key> where you hear {pinNext === null ? 'a turn begin: click its time first' : `“${opening(text, pinNext)}”`}
          </span>
        </p>
      )}
      {words.length === 0 && (
        <p className="px-4 py-2 text-[12.5px] text-ink-soft">This text has no times. If it is a transcript of this recording, attach it, and it is aligned.</p>
      )}
      <div
        ref={scroller}
        tabIndex={0}
        role="group"
        aria-label={`Words of ${line.title}`}
        data-scrolls
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3"
        onWheel={() => playing && follows && onFollows(false)}
        onMouseUp={(e) => {
          if ((e.target as HTMLElement).closest('button, [data-testid="tag-line"]')) return;
          const found = selectedStretch(inner.current!);
          if (found) {
            window.getSelection()?.removeAllRanges();
            return onSelect(found);
          }
          const at = positionAt(e.clientX, e.clientY);
          const word = at === null ? undefined : words.findLast((w) => w.start <= at);
          if (word) player.seek(word.beginMs + shift);
        }}
      >
        <div ref={inner} className="relative" style={{ height: virtual.getTotalSize() }}>
          {shown.map((item) => {
            const turn = turns[item.index]!;
            const guess = timed[item.index];
            return (
              <div
                key={item.key}
                ref={virtual.measureElement}
                data-index={item.index}
                aria-current={item.index === spoken}
                className="absolute inset-x-0 grid grid-cols-[62px_minmax(0,1fr)] gap-x-3 pb-3"
                style={{ top: item.start }}
              >
                <div className="pt-0.5 text-right text-[12px] leading-4">
                  <span className="block truncate font-semibold" title={nameOf(turn.speakerId)}>
                    {nameOf(turn.speakerId)}
                  </span>
                  <button
                    type="button"
                    title="Pin where it begins: click, and press p where you hear it"
                    aria-pressed={turn.start === pinNext}
                    className={`min-h-6 rounded-std px-0.5 text-[11.5px] hover:underline ${turn.start === pinNext ? 'bg-brass-wash text-brass' : 'text-ink-soft'}`}
                    onClick={() => onChoosePin(turn.start)}
                  >
                    {turn.beginMs !== null ? momentIn(turn.beginMs + shift, false) : guess ? `~${momentIn(guess.beginMs + shift, false)}` : '–'}
                  </button>
                </div>
                <p
                  data-start={turn.start}
                  dir="auto"
                  className={`font-read text-[16px] leading-[26px] wrap-anywhere whitespace-pre-wrap ${item.index === spoken ? 'bg-wash' : ''} ${turn.speakerId !== null && team.has(turn.speakerId) ? 'text-ink-soft' : ''}`}
                >
                  {text.slice(turn.start, turn.end)}
                </p>
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}
