import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import type { Schemas } from '@/api/client';
import { TagLine } from '@/parts/TagLine';
import type { TagLook } from '@/parts/tagLook';
import { Caret } from './Caret';
import { ObservationCard } from './ObservationCard';
import { paint, positionAt, selectedStretch } from './positions';
import { stretchOf, type Selected } from './selected';
import { TagLinePlace } from './TagLinePlace';
import { threadsOf } from './threads';
import { TurnBlock } from './TurnBlock';
import { useMarking, type TagsGiven } from './useMarking';
import { useReadingKeys } from './useReadingKeys';
import { useReadingProgress } from './useReadingProgress';

interface Props {
  source: Schemas['Source'];
  observations: readonly Schemas['Observation'][];
  tags: readonly Schemas['TagUse'][];
  look: (id: number) => TagLook;
  people: readonly Schemas['Participant'][];
  /** The observation to begin at, from the URL. */
  at: number | undefined;
}

/** The reading view: the words, their threads and labels, the caret, and the tag line under the selection. */
export function Reading({ source, observations, tags, look, people, at }: Props) {
  const root = useRef<HTMLDivElement>(null);
  const [selected, setSelected] = useState<Selected | null>(null);
  const [focused, setFocused] = useState<number | null>(at ?? null);
  const [card, setCard] = useState<number | null>(null);
  const [hovered, setHovered] = useState<number | null>(null);
  const [tagLineFor, setTagLineFor] = useState<'selection' | number | null>(null);
  const [refused, setRefused] = useState<TagsGiven | null>(null);
  const [layout, setLayout] = useState(0);
  const marking = useMarking(source.studyId, source.line.id);
  useReadingProgress(root, source);

  // Threads are drawn from where the words stand, so they follow the width of the column and the arrival of the fonts.
  useEffect(() => {
    const observer = new ResizeObserver(() => setLayout((n) => n + 1));
    observer.observe(root.current!);
    void document.fonts.ready.then(() => setLayout((n) => n + 1));
    return () => observer.disconnect();
  }, []);

  const stretch = selected ? stretchOf(source.text, selected) : null;
  const lit = observations.find((o) => o.id === (hovered ?? focused)) ?? null;
  useLayoutEffect(() => paint('vitrine-selection', root.current, selected ? stretchOf(source.text, selected) : null), [selected, source, observations]);
  useLayoutEffect(() => paint('vitrine-focus', root.current, lit), [lit, source]);
  useEffect(
    () => () => {
      paint('vitrine-selection', null, null);
      paint('vitrine-focus', null, null);
    },
    [],
  );
  useEffect(() => {
    if (at === undefined) return;
    document.getElementById(`label-${at}`)?.scrollIntoView({ block: 'center' });
  }, [at, source.line.id, observations.length]);

  const threads = useMemo(() => threadsOf(observations, (id) => look(id).colour, 'var(--ink-soft)'), [observations, look]);
  const blocks = useMemo(
    () =>
      source.turns.map((turn) => ({
        turn,
        threads: threads.filter((t) => t.start < turn.end && t.end > turn.start),
        observations: observations.filter((o) => o.start < turn.end && o.end > turn.start),
      })),
    [source.turns, threads, observations],
  );
  const speakers = useMemo(() => new Map(source.line.speakers.map((s) => [s.id, s])), [source.line.speakers]);
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
    void marking.mark(stretch, given).then((id) => {
      if (id !== null) return setFocused(id);
      setSelected(again);
      setRefused(given);
      setTagLineFor('selection');
    });
    setSelected({ anchor: stretch.end, focus: stretch.end });
  };
  const done = (given: TagsGiven) => {
    const on = tagLineFor;
    close();
    if (typeof on !== 'number') return mark(given);
    if (given.tagIds.length + given.newTags.length === 0) return;
    setRefused(null);
    void marking.addTags(on, given).then((taken) => {
      if (taken) return;
      setRefused(given);
      setTagLineFor(on);
    });
  };
  const keys = useReadingKeys({
    source,
    observations,
    selected,
    focused,
    select: setSelected,
    focus: setFocused,
    openTagLine: setTagLineFor,
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
      setTagLineFor('selection');
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

  const lineAt = tagLineFor === 'selection' ? stretch : observations.find((o) => o.id === tagLineFor);
  const opened = observations.find((o) => o.id === card);
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
      {blocks.map(({ turn, ...rest }) => (
        <TurnBlock
          key={turn.start}
          text={source.text}
          turn={turn}
          who={nameOf(turn.speakerId)}
          team={turn.speakerId !== null && (speakers.get(turn.speakerId)?.isTeam ?? false)}
          focused={rest.observations.some((o) => o.id === focused) ? focused : null}
          look={look}
          layout={layout}
          onFocus={focusOn}
          onHover={setHovered}
          {...rest}
        />
      ))}
      {selected && selected.anchor === selected.focus && <Caret root={root} at={selected.focus} layout={layout} />}
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
          key={opened.id}
          observation={opened}
          look={look}
          onClose={() => {
            setCard(null);
            back();
          }}
          onNote={(note) => marking.note({ id: opened.id, note })}
          onSentiment={(sentiment) => marking.sentiment({ id: opened.id, sentiment })}
          onStar={() => marking.star(opened)}
          onUntag={(tagId) => marking.untag({ id: opened.id, tagId })}
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
