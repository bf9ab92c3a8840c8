import { Link } from '@tanstack/react-router';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { toast } from 'sonner';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { ObservationCard } from '@/mark/observations/ObservationCard';
import { boxFragment, boxIn } from '@/mark/observations/mediaFragment';
import type { Box, InPicture } from '@/mark/observations/place';
import { useMarking } from '@/mark/observations/useMarking';
import { useRegrouping } from '@/mark/observations/useRegrouping';
import { shownMarks, type ShownRegion, type TagsGiven } from '@/mark/observations/writes';
import { addressOf } from '@/mark/reading/addressOf';
import type { MaterialProps } from '@/mark/reading/material';
import { PutIn } from '@/mark/reading/PutIn';
import { handOn } from '@/mark/reading/useCiting';
import { usePens } from '@/mark/reading/usePens';
import { usePartActions } from '@/parts/actions/registry';
import { Button, Key } from '@/parts/Button';
import { TagLine } from '@/parts/TagLine';
import { typing } from '@/parts/typing';
import { clock, count } from '@/parts/words';
import { Protect } from '@/shared/Protect';
import { picture as pictureActions, type PictureActs } from './actions';
import { boxBetween, corners, cornerTo, movedBox, outlined, resizedBox, simpler, whole, type Corner, type Point } from './box';
import { Drawn, placeOf, Region } from './Region';

const arrows: Record<string, { x: number; y: number }> = {
  ArrowLeft: { x: -100, y: 0 },
  ArrowRight: { x: 100, y: 0 },
  ArrowUp: { x: 0, y: -100 },
  ArrowDown: { x: 0, y: 100 },
};
const middle: Box = { x: 4000, y: 4000, width: 2000, height: 2000 };
const [closest, furthest] = [8, 1];
const needsRegion = () => void toast('Go to a region first, with [ or ], or draw one. n puts one in the middle, and arrows move it.');
const isCorner = (given: string | undefined): given is Corner => corners.some((c) => c === given);

type Drag =
  | { from: Point; on: 'outline'; points: Point[] }
  | { from: { x: number; y: number }; on: 'new' }
  | { from: { x: number; y: number }; on: ShownRegion; corner: Corner | null };

/** A picture: its parts are framed, moved and tagged by drag and by keys. */
export function PictureDesk({ source, stored, tags, look, at, keyed }: MaterialProps) {
  const { studyId, line } = source;
  const root = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState(1);
  const [focusedId, setFocused] = useState<number | null>(at ?? null);
  const [chosen, setChosen] = useState<Box | null>(() => (at === undefined ? boxIn(window.location.hash) : null));
  const [lineOn, setLineOn] = useState<{ on: 'chosen' | number; before: TagsGiven | null } | null>(null);
  const [card, setCard] = useState<{ id: number; asks: boolean } | null>(null);
  /** What is being drawn, or the region that is being moved. */
  const [dragged, setDragged] = useState<{ box: Box; of: number | null } | null>(null);
  /** An outline that is drawn by keys: where the pen is, and the corners so far. */
  const [pencil, setPencil] = useState<{ at: Point; points: Point[] } | null>(null);
  const [puttingIn, setPuttingIn] = useState<ShownRegion | null>(null);
  const [protecting, setProtecting] = useState(false);
  const drag = useRef<Drag | null>(null);
  const { waiting } = useOutgoing();
  const { pens } = usePens(studyId);
  const marks = useMemo(() => shownMarks(stored, waiting, line.id, 'region'), [stored, waiting, line.id]);
  const marking = useMarking<InPicture>(studyId, { id: line.id, textHash: source.textHash, called: () => 'a part of the picture' });
  const regrouping = useRegrouping<InPicture>(studyId, (place) => marking.mark(place, { tagIds: [], newTags: [] }).made);
  const scales = useMemo(() => new Map(tags.flatMap(({ tag }) => (tag.scale ? [[tag.id, tag.scale] as const] : []))), [tags]);
  const called = (id: number | null) => (id === null ? undefined : marks.find((m) => m.id === outgoing.numberOf(id)));
  const focused = called(focusedId);
  const back = () => root.current?.focus({ preventScroll: true });
  useEffect(() => {
    if (keyed) root.current?.focus({ preventScroll: true });
  }, [keyed]);

  const focus = (id: number | null) => {
    setChosen(null);
    setLineOn(null);
    setFocused(id);
  };
  const choose = (box: Box) => {
    setFocused(null);
    setChosen(box);
    setLineOn({ on: 'chosen', before: null });
  };
  const mark = (box: Box, given: TagsGiven, values: readonly [number, number][] | null = null) => {
    const { own, made } = marking.mark({ box }, given);
    for (const [tagId, value] of values ?? []) marking.value(own, tagId, value);
    focus(own);
    if (values === null && given.tagIds.some((id) => scales.has(id))) setCard({ id: own, asks: true });
    void made.then((id) => {
      if (id !== null) return;
      setFocused(null);
      setChosen(box);
      setLineOn({ on: 'chosen', before: given });
    });
  };
  const done = (given: TagsGiven, values: readonly [number, number][]) => {
    const on = lineOn?.on;
    setLineOn(null);
    back();
    if (on === 'chosen') return chosen ? mark(chosen, given, values) : undefined;
    if (on === undefined || given.tagIds.length + given.newTags.length === 0) return;
    for (const [tagId, value] of values) marking.value(on, tagId, value);
    void marking.addTags(on, given).then((taken) => taken || setLineOn({ on, before: given }));
  };
  /** Moves or resizes what is chosen, or the focused region. */
  const change = (to: (box: Box) => Box) => {
    if (chosen) setChosen(to(chosen));
    else if (focused?.box) marking.move(focused, { box: to(focused.box) });
    else needsRegion();
  };
  const step = (on: boolean) => {
    const index = focused ? marks.indexOf(focused) : on ? -1 : marks.length;
    const next = marks[index + (on ? 1 : -1)];
    if (next) focus(next.id);
    else toast(marks.length === 0 ? 'Nothing of this picture is marked yet.' : 'There is no further region this way.');
  };
  const zoom = (times: number) => setScale((s) => Math.min(closest, Math.max(furthest, s * times)));
  const acts: PictureActs = {
    // The arrows move it until Enter opens the tag line.
    box: () => {
      setFocused(null);
      setLineOn(null);
      setChosen(middle);
    },
    outline: () => {
      setChosen(null);
      setLineOn(null);
      setFocused(null);
      setPencil({ at: { x: whole / 2, y: whole / 2 }, points: [] });
    },
    step,
    tag: () => (chosen ? setLineOn({ on: 'chosen', before: null }) : focused ? setLineOn({ on: focused.id, before: null }) : needsRegion()),
    pen: (number) => {
      const tagId = pens.find((p) => p.number === number)?.tagId;
      if (tagId === undefined) return void toast(`No tag is on pen ${number} yet. Point at a tag on the shelf and press ${number}.`);
      const given = { tagIds: [tagId], newTags: [] };
      if (chosen) mark(chosen, given);
      else if (focused) void marking.addTags(focused.id, given);
      else needsRegion();
    },
    arrow: (key, { shift, alt }) => {
      if (!chosen && !focused) return false;
      const arrow = arrows[key]!;
      const by = alt ? { x: arrow.x / 10, y: arrow.y / 10 } : arrow;
      change((box) => (shift ? resizedBox(box, by) : movedBox(box, by)));
      return true;
    },
    zoom,
    whole: () => setScale(1),
    card: () => (focused ? setCard({ id: focused.id, asks: false }) : needsRegion()),
    star: () => (focused ? marking.star(focused) : needsRegion()),
    unsure: () => (focused ? marking.unsure(focused) : needsRegion()),
    putIn: () => (focused ? setPuttingIn(focused) : needsRegion()),
    remove: () => {
      if (!focused) return needsRegion();
      setFocused(null);
      marking.remove(focused.id);
    },
    leave: () => {
      if (!chosen && !focused) return false;
      focus(null);
      return true;
    },
  };
  /** While an outline is drawn by keys: arrows move the pen, Space sets a corner, Backspace takes one back, Enter closes it. */
  const penKeys = (event: KeyboardEvent): boolean => {
    const arrow = arrows[event.key];
    const { at: now, points } = pencil!;
    if (arrow) {
      const by = event.altKey ? 0.1 : event.shiftKey ? 5 : 1;
      const inside = (n: number) => Math.min(whole, Math.max(0, n));
      setPencil({ at: { x: inside(now.x + arrow.x * by), y: inside(now.y + arrow.y * by) }, points });
    } else if (event.key === ' ') setPencil({ at: now, points: [...points, now] });
    else if (event.key === 'Backspace') setPencil({ at: points.at(-1) ?? now, points: points.slice(0, -1) });
    else if (event.key === 'Escape') setPencil(null);
    else if (event.key === 'Enter') {
      const box = outlined([...points, now]);
      if (!box) return Boolean(toast('An outline has three corners or more: arrows move the pen, Space sets a corner.'));
      setPencil(null);
      choose(box);
    } else return false;
    return true;
  };
  const heard = usePartActions(pictureActions, acts, root);
  const keys = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.defaultPrevented || typing(event.target)) return;
    if ((event.target as HTMLElement).closest('button, a, [role="dialog"]') && ['Enter', ' ', 'Escape'].includes(event.key)) return;
    if (pencil && penKeys(event)) event.preventDefault();
    else heard(event);
  };

  const pointOf = (event: PointerEvent) => {
    const { left, top, width, height } = picture.current!.getBoundingClientRect();
    return { x: ((event.clientX - left) / width) * whole, y: ((event.clientY - top) / height) * whole };
  };
  const press = (event: PointerEvent<HTMLElement>) => {
    const target = event.target as HTMLElement;
    if (event.button !== 0 || target.closest('button, [data-testid="tag-line"]')) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const corner = target.closest<HTMLElement>('[data-corner]')?.dataset['corner'];
    const region = Number(target.closest<HTMLElement>('[data-region]')?.dataset['region']);
    const held = focused && region === focused.id ? focused : null;
    if (event.altKey && !held) drag.current = { from: pointOf(event), on: 'outline', points: [pointOf(event)] };
    else drag.current = held ? { from: pointOf(event), on: held, corner: isCorner(corner) ? corner : null } : { from: pointOf(event), on: 'new' };
  };
  const dragTo = (event: PointerEvent): Box | null => {
    const now = drag.current;
    if (!now) return null;
    const to = pointOf(event);
    if (now.on === 'outline') {
      now.points.push(to);
      return outlined(simpler(now.points));
    }
    if (now.on === 'new') return boxBetween(now.from, to);
    const { box } = now.on;
    return box && now.corner ? cornerTo(box, now.corner, to) : box ? movedBox(box, { x: to.x - now.from.x, y: to.y - now.from.y }) : null;
  };
  const move = (event: PointerEvent) => {
    const box = dragTo(event);
    const on = drag.current?.on;
    if (drag.current) setDragged(box && on ? { box, of: on === 'new' || on === 'outline' ? null : on.id } : null);
  };
  const release = (event: PointerEvent) => {
    const [now, box] = [drag.current, dragTo(event)];
    drag.current = null;
    setDragged(null);
    if (!now) return;
    if (now.on !== 'new' && now.on !== 'outline')
      return box && now.on.box && JSON.stringify(box) !== JSON.stringify(now.on.box) ? marking.move(now.on, { box }) : undefined;
    if (box) return choose(box);
    // A click goes to the smallest region there.
    const here = marks.filter(({ box: b }) => b && b.x <= now.from.x && now.from.x <= b.x + b.width && b.y <= now.from.y && now.from.y <= b.y + b.height);
    focus(here.toSorted((a, b) => a.box!.width * a.box!.height - b.box!.width * b.box!.height)[0]?.id ?? null);
  };
  const begun = pencil && outlined([...pencil.points, pencil.at]);
  const drawn = dragged?.of === null ? dragged.box : (begun ?? chosen);
  const tagged = lineOn?.on === 'chosen' ? chosen : called(lineOn?.on ?? null)?.box;
  const opened = called(card?.id ?? null);
  const linkTo = ({ id, box }: ShownRegion) =>
    new URL(`/studies/${studyId}/mark?source=${line.id}&at=${id}${box ? boxFragment(box) : ''}`, window.location.href).href;
  return (
    <div
      ref={root}
      role="region"
      aria-label={`Picture ${line.title}`}
      tabIndex={0}
      data-takes-keys
      onKeyDown={keys}
      className="grid h-full grid-rows-[auto_minmax(0,1fr)] outline-none"
    >
      <p className="flex flex-wrap items-center gap-x-3 border-b border-line px-5 py-2 text-[13px] text-ink-soft">
        <span className="font-semibold text-ink">{line.title}</span>
        {count(marks.length, 'region')}
        {line.stillOfId !== null && line.stillPage !== null && (
          <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: line.stillOfId }} className="text-sky underline underline-offset-2">
            page {line.stillPage} of its document
          </Link>
        )}
        {line.stillOfId !== null && line.stillPage === null && (
          <Link
            to="/studies/$studyId/mark"
            params={{ studyId }}
            search={{ source: line.stillOfId, place: line.stillAtMs ?? 0 }}
            className="text-sky underline underline-offset-2"
          >
            the film at {clock(line.stillAtMs ?? 0)}
          </Link>
        )}
        <Button look="quiet" onClick={() => setProtecting(true)}>
          Protect people …
        </Button>
        <span className="ml-auto">
          Drag frames a part, with Alt it is drawn free; <Key>n</Key> puts a frame in the middle, <Key>o</Key> a pen; arrows move them.
        </span>
      </p>
      <div className="grid min-h-0 place-items-center overflow-auto p-6" onWheel={(e) => e.ctrlKey && zoom(e.deltaY < 0 ? 1.1 : 0.9)}>
        <div
          ref={picture}
          data-testid="picture"
          className="relative touch-none overflow-clip select-none"
          style={{ width: `${scale * 100}%`, maxWidth: scale === 1 ? 'fit-content' : undefined, overflowClipMargin: 24 }}
          onPointerDown={press}
          onPointerMove={move}
          onPointerUp={release}
          onPointerCancel={() => {
            drag.current = null;
            setDragged(null);
          }}
        >
          <img
            src={addressOf(source)}
            alt={line.title}
            draggable={false}
            className={`block rounded-[2px] ${scale === 1 ? 'max-h-[calc(100vh-220px)] max-w-full' : 'w-full'}`}
          />
          {marks.map((m) => (
            <Region
              key={m.id}
              mark={m}
              box={m.id === dragged?.of ? dragged.box : m.box!}
              look={look}
              focused={m.id === focused?.id}
              onFocus={(open) => {
                focus(m.id);
                if (open) setCard({ id: m.id, asks: false });
              }}
            />
          ))}
          {drawn && (
            <div className={`pointer-events-none absolute ${drawn.outline === undefined ? 'border-2 border-verdigris' : ''}`} style={placeOf(drawn)}>
              {drawn.outline !== undefined && <Drawn box={drawn} colour="var(--verdigris)" strong />}
            </div>
          )}
          {pencil && (
            <span
              aria-hidden
              className="pointer-events-none absolute -mt-2 -ml-2 size-4 rounded-full border-2 border-verdigris"
              style={{ left: `${pencil.at.x / 100}%`, top: `${pencil.at.y / 100}%` }}
            />
          )}
          {lineOn && tagged && (
            <div
              className="absolute z-30"
              style={{
                left: `min(${tagged.x / 100}%, calc(100% - 440px))`,
                // Where there is more room.
                ...(tagged.y > whole - tagged.y - tagged.height
                  ? { bottom: `calc(${100 - tagged.y / 100}% + 6px)` }
                  : { top: `calc(${(tagged.y + tagged.height) / 100}% + 6px)` }),
              }}
            >
              <TagLine
                tags={tags}
                look={look}
                recent={marking.recent}
                asksValues
                before={lineOn.before ?? undefined}
                onDone={(tagIds, newTags, values) => done({ tagIds, newTags }, values)}
                onCancel={() => {
                  setLineOn(null);
                  back();
                }}
              />
            </div>
          )}
        </div>
      </div>
      {protecting && <Protect sourceId={line.id} sounds={false} frame={addressOf(source)} stretch={null} onClose={() => setProtecting(false)} />}
      {puttingIn && <PutIn studyId={studyId} onto={regrouping.placesFor(puttingIn)} onClose={() => setPuttingIn(null)} />}
      {opened && (
        <ObservationCard
          key={card?.id}
          studyId={studyId}
          observation={opened}
          look={look}
          scaleOf={(tagId) => scales.get(tagId) ?? null}
          asked={card?.asks ?? false}
          onValue={(tagId, value) => marking.value(opened.id, tagId, value)}
          onClose={() => {
            setCard(null);
            back();
          }}
          onSentiment={(sentiment) => marking.sentiment(opened.id, sentiment)}
          onStar={() => marking.star(opened)}
          onUnsure={() => marking.unsure(opened)}
          onCopy={() => handOn(`A part of ${line.title}\n${linkTo(opened)}`, 'Copied, with where it is from.')}
          onCopyLink={() => handOn(linkTo(opened), 'The link is copied.')}
          onUntag={(tagId) => marking.untag(opened.id, tagId)}
          onAddTag={() => setLineOn({ on: opened.id, before: null })}
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
