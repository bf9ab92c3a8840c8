import { useCallback, useEffect, useMemo, useReducer, useRef, useState, type ClipboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { createPortal } from 'react-dom';
import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { useWrite } from '@/api/useWrite';
import { byTurn } from './byTurn';
import type { MaterialProps } from './material';
import { Caret } from './Caret';
import { EdgeHandle } from './EdgeHandle';
import type { TextRange } from '@/mark/observations/place';
import { positionAt, selectedStretch } from './positions';
import type { Onto } from './dragging';
import { FindBar } from './FindBar';
import { followed } from './followed';
import { Overlays } from './Overlays';
import { Overview } from './Overview';
import { PuttingBar } from '@/mark/observations/PuttingBar';
import { reading, readingAt } from './readingState';
import { stretchOf } from './selected';
import { shapesOf } from './shape';
import { threadsOf } from './threads';
import { lineHeight, useTextLook } from './textLook';
import { TurnBlock } from './TurnBlock';
import { useCiting } from './useCiting';
import { useMarginNotes } from '@/mark/marginNotes/useMarginNotes';
import { useMarking } from '@/mark/observations/useMarking';
import { useRegrouping } from '@/mark/observations/useRegrouping';
import { useFindMore } from './useFindMore';
import { useMarkingActs } from './useMarkingActs';
import { marking as markingActions } from './actions';
import { usePartActions } from '@/parts/actions/registry';
import { useReadingProgress } from './useReadingProgress';
import { lastPen, useOnRelease, usePens } from './usePens';
import { usePainted } from './usePainted';
import { useTurns } from './useTurns';
import { useTouchWords } from './useTouchWords';
import { laidOver, useWordsDrag } from './useWordsDrag';
import { shownMarks, type ShownWords, type TagsGiven } from '@/mark/observations/writes';

const placeOf = (observation: Schemas['Observation'] | undefined) => (observation?.anchor.kind === 'text' ? observation.anchor.start : undefined);

/** Every so many lines carry their number. */
const numberedEvery = 5;

/** The reading view: the words, their threads and labels, the caret, and the tag line under the selection. */
export function Reading({
  source,
  sentences,
  stored,
  hidden,
  tags,
  look,
  people,
  at,
  place,
  pane,
  turnEditor: TurnCorrection,
  keyed,
  frame,
  masks,
  covered,
  putting,
  onPut,
}: MaterialProps) {
  const root = useRef<HTMLDivElement>(null);
  const [state, dispatch] = useReducer(reading, readingAt(at, place));
  const { selected, hovered, tagLine, correcting } = state;
  const focused = state.focused === null ? null : outgoing.numberOf(state.focused);
  const [layout, setLayout] = useState(0);
  const { waiting, way } = useOutgoing();
  const observations = useMemo(() => shownMarks(stored, waiting, source.line.id), [stored, waiting, source.line.id]);
  const marking = useMarking<TextRange>(source.studyId, {
    id: source.line.id,
    textHash: source.textHash,
    called: ({ start, end }) => source.text.slice(start, end),
  });
  const remarks = useMarginNotes(source.studyId, source.line.id, source.textHash);
  const { notes } = remarks;
  const [textLook] = useTextLook();
  const lineStarts = useQuery({ ...queries.lines(source.line.id), enabled: textLook.numbers === 'lines' }).data;
  const turns = useTurns(root, source.turns);
  useReadingProgress(source, turns.lastInView);

  // A correction by somebody else moves what is selected along with its words.
  const [readText, setReadText] = useState(source.text);
  if (readText !== source.text) {
    setReadText(source.text);
    if (selected) {
      const [anchor, focus] = [followed(readText, source.text, selected.anchor), followed(readText, source.text, selected.focus)];
      dispatch({ do: 'select', selected: anchor === null || focus === null ? null : { anchor, focus } });
    }
  }

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
  const marked = observations.find((o) => o.id === focused);
  const [dragged, setDragged] = useState<TextRange | null>(null);
  const [aimed, setAimed] = useState<TextRange | null>(null);
  const noted = state.note && state.note.do !== 'write' ? notes.find((n) => n.id === outgoing.numberOf((state.note as { id: number }).id)) : undefined;
  const highlighted =
    dragged ??
    aimed ??
    noted ??
    (state.note?.do === 'write' ? state.note.on : null) ??
    observations.find((o) => o.id === hovered) ??
    observations.find((o) => o.id === focused) ??
    null;
  const [said, setSaid] = useState('');
  usePainted({ pane, root, selected: stretch, highlighted, covered, drawn: `${turns.range} ${correcting ?? ''}`, text: source.text });
  useEffect(() => {
    if (keyed) root.current?.focus({ preventScroll: true });
  }, [keyed]);
  // The caret is followed by keys; the mouse only puts it where it is in view already.
  const { go, inPage } = turns;
  const caret = selected?.focus;
  useEffect(() => {
    if (caret !== undefined && !inPage(caret)) go(caret, 'center');
  }, [caret]); // eslint-disable-line react-hooks/exhaustive-deps -- scrolling away from the caret is no reason to come back
  useEffect(() => {
    if (place !== undefined) go(place, 'center');
  }, []); // eslint-disable-line react-hooks/exhaustive-deps -- the address tells where to begin, once
  const beginning = at === undefined ? undefined : placeOf(stored.find((o) => o.id === at));
  useEffect(() => {
    if (beginning !== undefined) go(beginning, 'center');
  }, [beginning, go]);

  const laidOut = `${layout} ${textLook.size} ${textLook.measure} ${textLook.spacing}`;
  const linesIn = useMemo(
    () =>
      textLook.numbers === 'lines' && lineStarts
        ? byTurn(
            source.turns,
            lineStarts.flatMap((start, i) => ((i + 1) % numberedEvery === 0 ? [{ start, end: start + 1, number: i + 1 }] : [])),
          )
        : undefined,
    [source.turns, lineStarts, textLook.numbers],
  );
  const notesIn = useMemo(() => byTurn(source.turns, notes), [source.turns, notes]);
  const marksIn = useMemo(() => byTurn(source.turns, observations), [source.turns, observations]);
  const scales = useMemo(() => new Map(tags.flatMap(({ tag }) => (tag.scale ? [[tag.id, tag.scale] as const] : []))), [tags]);
  const speakers = useMemo(() => new Map(source.line.speakers.map((s) => [s.id, s])), [source.line.speakers]);
  const shapes = useMemo(() => shapesOf(source.shape, source.turns), [source.shape, source.turns]);
  const nameOf = (speakerId: number | null) => {
    const speaker = speakerId === null ? undefined : speakers.get(speakerId);
    return people.find((p) => p.id === speaker?.participantId)?.pseudonym ?? speaker?.label ?? '';
  };

  const back = () => root.current?.focus({ preventScroll: true });
  const citing = useCiting(source, masks, nameOf);
  const close = () => {
    dispatch({ do: 'closeTagLine' });
    back();
  };
  const asksValue = (given: TagsGiven) => given.tagIds.some((id) => scales.has(id));
  /** Marks what is selected; when the server refuses it, the selection and what was typed come back. */
  const markStretch = (words: TextRange, given: TagsGiven, values: readonly [number, number][] | null = null) => {
    if (words.end === words.start) return;
    const { own, made } = marking.mark(words, given);
    for (const [tagId, value] of values ?? []) marking.value(own, tagId, value);
    dispatch({ do: 'marked', id: own, end: words.end, asks: values === null && asksValue(given) });
    void made.then((id) => id === null && dispatch({ do: 'markRefused', id: own, selected: { anchor: words.start, focus: words.end }, given }));
  };
  const mark = (given: TagsGiven) => {
    if (stretch) markStretch(stretch, given);
  };
  const done = (given: TagsGiven, values: readonly [number, number][]) => {
    close();
    if (noted) {
      dispatch({ do: 'note', note: null });
      return remarks.turn(noted, given);
    }
    if (!tagLine || tagLine.on === 'selection') return stretch ? markStretch(stretch, given, values) : undefined;
    const id = tagLine.on;
    if (given.tagIds.length + given.newTags.length === 0) return;
    for (const [tagId, value] of values) marking.value(id, tagId, value);
    void marking.addTags(id, given).then((taken) => taken || dispatch({ do: 'tagsRefused', id, given }));
  };
  const { pens } = usePens(source.studyId);
  const [onRelease] = useOnRelease();
  const put = useWrite((to: TextRange) =>
    ask(api.PUT('/api/observations/{id}/anchor', { params: { path: { id: putting!.observationId } }, body: { anchor: { kind: 'text', ...to }, was: null } })),
  );
  const putHere = () => {
    if (stretch && stretch.end > stretch.start) put.mutate(stretch, { onSuccess: onPut });
  };
  const move = (mark: ShownWords, to: TextRange) => {
    const { start, end } = stretchOf(source.text, { anchor: to.start, focus: to.end });
    setDragged(null);
    if (end <= start || (start === mark.start && end === mark.end)) return;
    marking.move(mark, { start, end });
    setSaid(`The observation stands on “${source.text.slice(start, end)}” now.`);
  };
  const regrouping = useRegrouping<TextRange>(source.studyId, (words) => {
    const { own, made } = marking.mark(words, { tagIds: [], newTags: [] });
    dispatch({ do: 'marked', id: own, end: words.end, asks: false });
    return made;
  });
  const [puttingIn, setPuttingIn] = useState<TextRange | ShownWords | null>(null);
  const ontoOf = (what: TextRange | ShownWords): Onto => ({
    tag: (tagId) => {
      const given = { tagIds: [tagId], newTags: [] };
      if (!('id' in what)) return markStretch(what, given);
      if (asksValue(given)) dispatch({ do: 'openCard', id: what.id, asks: true });
      void marking.addTags(what.id, given);
    },
    newTag: () => dispatch({ do: 'openTagLine', on: 'id' in what ? what.id : 'selection' }),
    ...regrouping.placesFor(what),
  });
  const { grab, holds, grip } = useWordsDrag({ root, pane, text: source.text, sentences: sentences.sentences, stretch, observations, ontoOf, onAim: setAimed });
  const acts = useMarkingActs({
    source,
    sentences,
    observations,
    hidden,
    selected,
    focused,
    dispatch,
    openTagLine: (on) => (putting && on === 'selection' ? putHere() : dispatch({ do: 'openTagLine', on })),
    marking,
    mark,
    move,
    split: regrouping.split,
    join: (marks) => regrouping.join(marks, (id) => dispatch({ do: 'focus', id })),
    joinNext: (one) => void regrouping.joinNext(source.line.id, one, hidden, (id) => dispatch({ do: 'focus', id })),
    notes,
    putIn: setPuttingIn,
    findMore: useFindMore(source.studyId, source.line.id),
    penOf: (number) => pens.find((p) => p.number === number)?.tagId,
    copy: citing.words,
  });
  const keys = usePartActions(markingActions, acts, root);

  const byTouch = useTouchWords(root, ({ start, end }) => dispatch({ do: 'select', selected: { anchor: start, focus: end } }));
  const release = (event: MouseEvent) => {
    if ((event.target as HTMLElement).closest(laidOver)) return;
    const extended = event.shiftKey && selected ? positionAt(event.clientX, event.clientY) : null;
    if (selected && extended !== null) {
      window.getSelection()?.removeAllRanges();
      return dispatch({ do: 'selectWords', selected: { anchor: selected.anchor, focus: extended }, tags: !putting });
    }
    const found = selectedStretch(root.current!);
    if (found && byTouch) return;
    if (found) {
      window.getSelection()?.removeAllRanges();
      const pen = onRelease === 'pen' && !putting ? lastPen(pens, marking.last) : null;
      if (pen !== null) return markStretch(stretchOf(source.text, { anchor: found.start, focus: found.end }), { tagIds: [pen], newTags: [] });
      return dispatch({ do: 'selectWords', selected: { anchor: found.start, focus: found.end }, tags: !putting && onRelease !== 'nothing' });
    }
    const position = positionAt(event.clientX, event.clientY);
    const here = observations.filter((o) => position !== null && o.start <= position && position < o.end);
    dispatch({ do: 'point', position, on: here.toSorted((a, b) => a.end - a.start - (b.end - b.start))[0]?.id ?? null });
  };
  const { id: sourceId, mediaType } = source.line;
  const drawn = useMemo(() => (mediaType === 'application/pdf' ? { studyId: source.studyId, sourceId } : undefined), [mediaType, source.studyId, sourceId]);
  const focusOn = useCallback((id: number, open: boolean) => dispatch({ do: open ? 'openCard' : 'focus', id }), []);
  const openNote = useCallback((id: number) => dispatch({ do: 'note', note: { do: 'open', id } }), []);
  const colourOf = useCallback((id: number) => look(id).colour, [look]);
  /** Of the turns in the page alone: in a long text most are not. */
  const threadsIn = (inside: readonly ShownWords[], remarked: readonly TextRange[]) =>
    threadsOf([...inside, ...remarked.map((n) => ({ ...n, id: 0, tagIds: [], dotted: true }))], colourOf, 'var(--ink-soft)');
  const hover = useCallback((id: number | null) => dispatch({ do: 'hover', id }), []);

  /** While words are being selected, the handles of the focused mark are out of the way: a selection may end where a mark ends. */
  const selecting = (event: PointerEvent<HTMLElement>) => {
    if ((event.target as HTMLElement).closest('[data-edge]')) return;
    const text = event.currentTarget;
    text.dataset['selecting'] = '';
    // The release of the mouse comes after that of the pointer, and is for what is under it.
    const over = () => setTimeout(() => delete text.dataset['selecting']);
    window.addEventListener('pointerup', over, { once: true });
    window.addEventListener('pointercancel', over, { once: true });
  };
  const copy = (event: ClipboardEvent) => {
    if ((event.target as HTMLElement).closest('input, textarea')) return;
    if (stretch && stretch.end > stretch.start) citing.answer(event, stretch, null);
    else if (marked) citing.answer(event, marked, marked.id);
  };
  return (
    <>
      {frame &&
        createPortal(
          <>
            <Overview
              length={source.text.length}
              marks={observations}
              colourOf={colourOf}
              furthest={source.line.furthest}
              {...turns.inView}
              onGo={(position) => go(position, 'center')}
            />
            <FindBar
              sourceId={source.line.id}
              pane={pane}
              frame={frame}
              root={root}
              inView={turns.inView}
              range={turns.range}
              onGo={(hit) => go(hit.start, 'center')}
              onSelect={(hit) => {
                if (hit) dispatch({ do: 'select', selected: { anchor: hit.start, focus: hit.end } });
                back();
              }}
            />
          </>,
          frame,
        )}
      <div
        ref={root}
        role="region"
        aria-label={`Text of ${source.line.title}`}
        tabIndex={0}
        data-takes-keys
        onKeyDown={(e) => e.target === root.current && keys(e)}
        onCopy={copy}
        onPointerDown={(e) => {
          selecting(e);
          grab(e);
        }}
        onMouseDown={(e) => holds() && e.preventDefault()}
        onMouseUp={release}
        className="group/text relative mx-auto min-h-full pr-9 pl-4 pt-7 pb-[45vh] outline-none"
        style={{
          maxWidth: textLook.measure + 320,
          ['--read-size' as string]: `${textLook.size}px`,
          ['--read-line' as string]: `${lineHeight(textLook)}px`,
          ['--read-measure' as string]: `${textLook.measure}px`,
        }}
      >
        {putting && <PuttingBar words={putting.oldWords} able={stretch !== null && stretch.end > stretch.start} onPut={putHere} onLeave={onPut} />}
        <div className="relative" style={{ height: turns.height }}>
          {turns.shown.map(({ turn, index, top }) => {
            const [inside, remarked] = [marksIn[index]!, notesIn[index]!];
            return (
              <div key={turn.start} ref={turns.measure} data-index={index} className="absolute inset-x-0 contain-layout contain-style" style={{ top }}>
                {turn.start === correcting ? (
                  <TurnCorrection
                    source={source}
                    turn={turn}
                    who={nameOf(turn.speakerId)}
                    onDone={() => {
                      dispatch({ do: 'correct', turn: null });
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
                    threads={threadsIn(inside, remarked)}
                    observations={inside}
                    notes={remarked.length === 0 ? remarked : remarked.filter((n) => n.start >= turn.start)}
                    focused={inside.some((o) => o.id === focused) ? focused : null}
                    look={look}
                    layout={laidOut}
                    size={textLook.size}
                    paragraph={textLook.numbers === 'paragraphs' ? index + 1 : undefined}
                    lines={linesIn?.[index]}
                    drawn={drawn}
                    cut={way !== 'open'}
                    onFocus={focusOn}
                    onHover={hover}
                    onNote={openNote}
                  />
                )}
              </div>
            );
          })}
        </div>
        <span ref={grip} aria-hidden className="pointer-events-none fixed size-px" />
        {selected && selected.anchor === selected.focus && <Caret root={root} at={selected.focus} layout={`${laidOut} ${turns.range}`} />}
        {marked &&
          !tagLine &&
          (['start', 'end'] as const).map((edge) => (
            <EdgeHandle
              key={edge}
              root={root}
              edge={edge}
              at={dragged ?? marked}
              layout={`${laidOut} ${turns.range}`}
              onDrag={setDragged}
              onDrop={(to) => move(marked, to)}
            />
          ))}
        <p role="status" className="sr-only">
          {said}
        </p>
        <Overlays
          {...{ root, source, tags, look, scales, state, dispatch, observations, marking, remarks, noted, citing, stretch, byTouch, puttingIn, ontoOf }}
          tagsSelection={!putting}
          onPutIn={setPuttingIn}
          onDone={done}
          onBack={back}
        />
      </div>
    </>
  );
}
