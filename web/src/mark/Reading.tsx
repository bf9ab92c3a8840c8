import type { TagUse } from '@/api/useTagUses';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { useWrite } from '@/api/useWrite';
import { TagLine } from '@/parts/TagLine';
import type { TagLook } from '@/parts/tagLook';
import { byTurn } from './byTurn';
import { Caret } from './Caret';
import { ObservationCard } from './ObservationCard';
import type { Stretch } from './moves';
import { cover, paint, positionAt, selectedStretch, type Pane } from './positions';
import { PuttingBar } from './PuttingBar';
import { stretchOf, type Selected } from './selected';
import { TagLinePlace } from './TagLinePlace';
import { shapesOf } from './shape';
import { threadsOf } from './threads';
import { TurnCorrection } from './TurnCorrection';
import { TurnBlock } from './TurnBlock';
import { useMarking } from './useMarking';
import { useReadingKeys } from './useReadingKeys';
import { useReadingProgress } from './useReadingProgress';
import { useTurns } from './useTurns';
import { shownMarks, type TagsGiven } from './writes';

interface Props {
  source: Schemas['Source'];
  /** What the server has; what waits to be sent is laid over it here. */
  stored: readonly Schemas['Observation'][];
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  /** The observation to begin at, from the URL. */
  at: number | undefined;
  /** The place in the text to begin at, from the URL. */
  place: number | undefined;
  pane: Pane;
  /** It was opened by a key: the keys go on in its text. */
  keyed: boolean;
  /** An observation that looks for its place after a correction, from the URL. */
  /** Words that are covered. */
  covered: readonly Stretch[];
  putting: Schemas['ToLookAt'] | undefined;
  onPut: () => void;
}

const placeOf = (observation: Schemas['Observation'] | undefined) => (observation?.anchor.kind === 'text' ? observation.anchor.start : undefined);

/** The reading view: the words, their threads and labels, the caret, and the tag line under the selection. */
export function Reading({ source, stored, tags, look, people, at, place, pane, keyed, covered, putting, onPut }: Props) {
  const root = useRef<HTMLDivElement>(null);
  const [selected, setSelected] = useState<Selected | null>(place === undefined ? null : { anchor: place, focus: place });
  const [focusedAs, setFocused] = useState<number | null>(at ?? null);
  const focused = focusedAs === null ? null : outgoing.numberOf(focusedAs);
  const [card, setCard] = useState<number | null>(null);
  const [asked, setAsked] = useState(false);
  const [hovered, setHovered] = useState<number | null>(null);
  const [tagLineFor, setTagLineFor] = useState<'selection' | number | null>(null);
  const [refused, setRefused] = useState<TagsGiven | null>(null);
  const [layout, setLayout] = useState(0);
  const [correcting, setCorrecting] = useState<number | null>(null);
  const { waiting, way } = useOutgoing();
  const observations = useMemo(() => shownMarks(stored, waiting, source.line.id), [stored, waiting, source.line.id]);
  const marking = useMarking(source.studyId, { id: source.line.id, text: source.text });
  const turns = useTurns(root, source.turns);
  useReadingProgress(source, turns.lastInView);

  // Threads are drawn from where the words stand, so they follow the width of the column and the arrival of the fonts.
  useEffect(() => {
    let width = root.current!.clientWidth;
    const observer = new ResizeObserver(() => {
      if (root.current && root.current.clientWidth !== width) setLayout((n) => n + 1);
      width = root.current?.clientWidth ?? width;
    });
    observer.observe(root.current!);
    void document.fonts.ready.then(() => setLayout((n) => n + 1));
    return () => observer.disconnect();
  }, []);

  const stretch = selected ? stretchOf(source.text, selected) : null;
  const lit = observations.find((o) => o.id === (hovered ?? focused)) ?? null;
  useLayoutEffect(() => paint('selection', pane, root.current, selected ? stretchOf(source.text, selected) : null), [selected, source, turns.range, pane]);
  useLayoutEffect(() => paint('focus', pane, root.current, lit), [lit, source, turns.range, pane]);
  useLayoutEffect(() => cover(pane, root.current, covered), [covered, source, turns.range, pane, correcting]);
  useEffect(
    () => () => {
      cover(pane, null, []);
      paint('selection', pane, null, null);
      paint('focus', pane, null, null);
    },
    [pane],
  );
  useEffect(() => {
    if (keyed) root.current?.focus({ preventScroll: true });
  }, [keyed]);
  // The caret is followed by keys; the mouse only puts it where it is in view already.
  const { go, inPage } = turns;
  const caret = selected?.focus;
  useEffect(() => {
    if (caret !== undefined && !inPage(caret)) go(caret, 'center');
  }, [caret]); // eslint-disable-line react-hooks/exhaustive-deps -- scrolling away from the caret is no reason to come back
  const beginning = at === undefined ? undefined : placeOf(stored.find((o) => o.id === at));
  useEffect(() => {
    if (beginning !== undefined) go(beginning, 'center');
  }, [beginning, go]);

  const threads = useMemo(() => threadsOf(observations, (id) => look(id).colour, 'var(--ink-soft)'), [observations, look]);
  const marksIn = useMemo(() => byTurn(source.turns, observations), [source.turns, observations]);
  const threadsIn = useMemo(() => byTurn(source.turns, threads), [source.turns, threads]);
  const scales = useMemo(() => new Map(tags.flatMap(({ tag }) => (tag.scale ? [[tag.id, tag.scale] as const] : []))), [tags]);
  const speakers = useMemo(() => new Map(source.line.speakers.map((s) => [s.id, s])), [source.line.speakers]);
  const shapes = useMemo(() => shapesOf(source.shape, source.turns), [source.shape, source.turns]);
  const nameOf = (speakerId: number | null) => {
    const speaker = speakerId === null ? undefined : speakers.get(speakerId);
    return people.find((p) => p.id === speaker?.participantId)?.pseudonym ?? speaker?.label ?? '';
  };

  const back = () => root.current?.focus({ preventScroll: true });
  const close = () => {
    setRefused(null);
    setTagLineFor(null);
    back();
  };
  /** Marks what is selected; when the server refuses it, the selection and what was typed come back. */
  const mark = (given: TagsGiven) => {
    if (!selected || !stretch || stretch.end === stretch.start) return;
    const again = selected;
    setRefused(null);
    const { own, made } = marking.mark(stretch, given);
    setFocused(own);
    if (given.tagIds.some((id) => scales.has(id))) {
      setCard(own);
      setAsked(true);
    }
    setSelected({ anchor: stretch.end, focus: stretch.end });
    void made.then((id) => {
      if (id !== null) return;
      const without = (now: number | null) => (now === own ? null : now);
      setFocused(without);
      setCard(without);
      setSelected(again);
      setRefused(given);
      setTagLineFor('selection');
    });
  };
  const done = (given: TagsGiven) => {
    const on = tagLineFor;
    close();
    if (typeof on !== 'number') return mark(given);
    if (given.tagIds.length + given.newTags.length === 0) return;
    setRefused(null);
    if (given.tagIds.some((id) => scales.has(id))) {
      setCard(on);
      setAsked(true);
    }
    void marking.addTags(on, given).then((taken) => {
      if (taken) return;
      setRefused(given);
      setTagLineFor(on);
    });
  };
  const put = useWrite((to: Stretch) =>
    ask(api.PUT('/api/observations/{id}/anchor', { params: { path: { id: putting!.observationId } }, body: { anchor: { kind: 'text', ...to } } })),
  );
  const putHere = () => {
    if (stretch && stretch.end > stretch.start) put.mutate(stretch, { onSuccess: onPut });
  };
  const keys = useReadingKeys({
    source,
    observations,
    selected,
    focused,
    select: setSelected,
    focus: setFocused,
    openTagLine: (what) => (putting && what === 'selection' ? putHere() : setTagLineFor(what)),
    correct: (position) => setCorrecting(source.turns.findLast((t) => t.start <= position)?.start ?? null),
    openCard: setCard,
    marking,
    root,
    mark,
  });

  const release = (event: MouseEvent) => {
    if ((event.target as HTMLElement).closest('button, [data-testid="tag-line"]')) return;
    const found = selectedStretch(root.current!);
    if (found) {
      window.getSelection()?.removeAllRanges();
      setSelected({ anchor: found.start, focus: found.end });
      if (!putting) setTagLineFor('selection');
      return;
    }
    const position = positionAt(event.clientX, event.clientY);
    setTagLineFor(null);
    if (position === null) return setSelected(null);
    setSelected({ anchor: position, focus: position });
    const here = observations.filter((o) => o.start <= position && position < o.end).sort((a, b) => a.end - a.start - (b.end - b.start));
    setFocused(here[0]?.id ?? null);
  };
  const focusOn = useCallback((id: number, open: boolean) => {
    setFocused(id);
    if (open) setCard(id);
  }, []);

  const called = (number: number | null) => (number === null ? undefined : observations.find((o) => o.id === outgoing.numberOf(number)));
  const lineAt = tagLineFor === 'selection' ? stretch : called(tagLineFor);
  const opened = called(card);
  return (
    <div
      ref={root}
      role="region"
      aria-label={`Text of ${source.line.title}`}
      tabIndex={0}
      onKeyDown={keys}
      onMouseUp={release}
      className="relative mx-auto min-h-full max-w-[900px] px-4 pt-7 pb-[45vh] outline-none"
    >
      {putting && <PuttingBar words={putting.oldWords} able={stretch !== null && stretch.end > stretch.start} onPut={putHere} onLeave={onPut} />}
      <div className="relative" style={{ height: turns.height }}>
        {turns.shown.map(({ turn, index, top }) => {
          const inside = marksIn[index]!;
          return (
            <div key={turn.start} ref={turns.measure} data-index={index} className="absolute inset-x-0 contain-layout contain-style" style={{ top }}>
              {turn.start === correcting ? (
                <TurnCorrection
                  source={source}
                  turn={turn}
                  who={nameOf(turn.speakerId)}
                  onDone={() => {
                    setCorrecting(null);
                    back();
                  }}
                />
              ) : (
                <TurnBlock
                  text={source.text}
                  turn={turn}
                  who={nameOf(turn.speakerId)}
                  offset={source.line.offsetMs}
                  shape={shapes.get(turn.start)}
                  team={turn.speakerId !== null && (speakers.get(turn.speakerId)?.isTeam ?? false)}
                  threads={threadsIn[index]!}
                  observations={inside}
                  focused={inside.some((o) => o.id === focused) ? focused : null}
                  look={look}
                  layout={layout}
                  cut={way !== 'open'}
                  onFocus={focusOn}
                  onHover={setHovered}
                />
              )}
            </div>
          );
        })}
      </div>
      {selected && selected.anchor === selected.focus && <Caret root={root} at={selected.focus} layout={`${layout} ${turns.range}`} />}
      {lineAt && (
        <TagLinePlace root={root} stretch={lineAt}>
          <TagLine
            tags={tags}
            look={look}
            recent={marking.recent}
            words={tagLineFor === 'selection' ? source.text.slice(lineAt.start, lineAt.end).replace(/\s+/g, ' ').trim() : undefined}
            before={refused ?? undefined}
            onDone={(tagIds, newTags) => done({ tagIds, newTags })}
            onCancel={close}
          />
        </TagLinePlace>
      )}
      {opened && (
        <ObservationCard
          key={card}
          observation={opened}
          look={look}
          scaleOf={(tagId) => scales.get(tagId) ?? null}
          asked={asked}
          onValue={(tagId, value) => marking.value(opened.id, tagId, value)}
          onClose={() => {
            setCard(null);
            setAsked(false);
            back();
          }}
          onSentiment={(sentiment) => marking.sentiment(opened.id, sentiment)}
          onStar={() => marking.star(opened)}
          onUntag={(tagId) => marking.untag(opened.id, tagId)}
          onAddTag={() => {
            setCard(null);
            setTagLineFor(opened.id);
          }}
          onRemove={() => {
            setCard(null);
            marking.remove(opened.id);
            back();
          }}
        />
      )}
    </div>
  );
}
