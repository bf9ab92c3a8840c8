import { useMemo, useReducer, useState, useRef } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { outgoing } from '@/api/waiting/outgoing';
import { timeIn } from '@/mark/observations/mediaFragment';
import type { TextRange, TimeRange } from '@/mark/observations/place';
import { useMarking } from '@/mark/observations/useMarking';
import { useRegrouping } from '@/mark/observations/useRegrouping';
import type { TagsGiven } from '@/mark/observations/writes';
import { usePens } from '@/mark/reading/usePens';
import type { TagUse } from '@/parts/tagLook';
import { useKept } from '@/shared/useKept';
import type { DeskActs } from './actions';
import type { Clip } from './ClipLanes';
import { desk, deskAt, type Chosen, type Edge } from './deskState';
import { shifted, timeOf, wordsIn } from './spokenWords';
import { useClips } from './useClips';
import type { Player } from './usePlayer';
import { fitting, momentIn, within, zoomed, type View } from './view';

/** How much of the sound at a moved edge is heard. */
const heardMs = 500;
/** How much is heard, again and again, while words are lined up with it. */
const linedUpMs = 2000;
/** Edges of clips that are meant to be the same: within what a hand on the keys can tell, in milliseconds. */
const near = (a: number, b: number) => Math.abs(a - b) <= 250;
const isLoudness = (value: unknown): value is number => [1, 2, 4, 8].includes(value as number);
/** The shortest clip. */
const shortestMs = 50;
const needsClip = () => void toast('Go to a clip first, with [ or ], or mark one with i and o.');

interface Given {
  source: Schemas['Source'];
  stored: readonly Schemas['Observation'][];
  tags: readonly TagUse[];
  at: number | undefined;
  place: number | undefined;
  player: Player;
  length: number;
  films: boolean;
  scenes: readonly number[];
  /** How long a frame stands. */
  frameMs: number;
  /** Playing waits while something is tagged. */
  waits: boolean;
  /** The keys go on in the desk. */
  back: () => void;
}

/** Everything that marking a recording knows and does, beside drawing it. */
export function useDesk({ source, stored, tags, at, place, player, length, films, scenes, frameMs, waits, back }: Given) {
  const { studyId, line } = source;
  const [state, dispatch] = useReducer(desk, at, (from) => {
    const part = from === undefined ? timeIn(window.location.hash) : null;
    return part?.endMs ? { ...deskAt(from), chosen: { beginMs: part.beginMs, endMs: Math.min(part.endMs, length) } } : deskAt(from);
  });
  const [view, setView] = useState<View>(() => within({ from: (timeIn(window.location.hash)?.beginMs ?? place ?? 0) - 5000, span: 60_000 }, length));
  const [going, setGoing] = useState(false);
  const [follows, setFollows] = useState(true);
  const [said, setSaid] = useState('');
  /** How many times as tall the wave is drawn. */
  const [loudness, setLoudness] = useKept('wave-loudness', 1, isLoudness);
  const [puttingIn, setPuttingIn] = useState<TimeRange | Clip['mark'] | null>(null);
  const { pens } = usePens(studyId);
  const { clips, inWords, hung, transcript, words, estimated, offset, transcripts } = useClips(studyId, line, stored);
  const scales = useMemo(() => new Map(tags.flatMap(({ tag }) => (tag.scale ? [[tag.id, tag.scale] as const] : []))), [tags]);
  const onTime = useMarking<TimeRange>(studyId, {
    id: line.id,
    textHash: source.textHash,
    called: ({ beginMs, endMs }) => `${momentIn(beginMs)} to ${momentIn(endMs)}`,
  });
  const onWords = useMarking<TextRange>(studyId, {
    id: transcript?.line.id ?? 0,
    textHash: transcript?.textHash ?? '',
    called: ({ start, end }) => transcript?.text.slice(start, end) ?? '',
  });
  const regrouping = useRegrouping<TimeRange>(studyId, (time) => {
    const { own, made } = onTime.mark(time, { tagIds: [], newTags: [] });
    dispatch({ do: 'marked', id: own, asks: false });
    return made;
  });

  /** The turn whose beginning the key pins: the one that was chosen, or the first that says none. */
  const [pinFrom, setPinFrom] = useState<number | null>(null);
  const pinNext = transcript?.turns.find((t) => (pinFrom === null ? t.beginMs === null : t.start === pinFrom));
  const called = (id: number | null) => (id === null ? undefined : hung.find((c) => c.mark.id === outgoing.numberOf(id)));
  const focused = called(state.focused);
  const { chosen } = state;
  const chosenWords = chosen && 'start' in chosen ? chosen : null;
  const chosenTime = chosen && 'start' in chosen ? shifted(words ? timeOf(words, chosen) : null, offset) : chosen;
  /** What is chosen, or the focused clip, in the time of the recording. */
  const active: TimeRange | null = chosen ? chosenTime : (focused ?? null);
  const wordsOf = (time: TimeRange) => (words ? wordsIn(words, { beginMs: time.beginMs - offset, endMs: time.endMs - offset }) : null);
  const highlighted = chosenWords ?? (focused?.inWords ? focused.mark : active && wordsOf(active));

  // The address names a stretch of the recording.
  const [named] = useState(() => (at === undefined ? timeIn(window.location.hash) : null));
  // The address names an observation: its part of the recording is drawn when it is there.
  const [shownAt, setShownAt] = useState<number>();
  const beginning = at === undefined ? undefined : called(at)?.beginMs;
  if (beginning !== undefined && shownAt === undefined) {
    setShownAt(beginning);
    setView(within({ from: beginning - view.span / 3, span: view.span }, length));
  }

  // It waits while something is tagged, and goes on then.
  const waiting = useRef(false);
  const choose = (next: Chosen) => {
    if (waits && player.playing) {
      waiting.current = true;
      player.pause();
    }
    dispatch({ do: 'choose', chosen: next, tags: true });
  };
  const markChosen = (on: Chosen, given: TagsGiven, values: readonly [number, number][] | null = null) => {
    // What is marked already, here or in the words, is one observation.
    const there = 'beginMs' in on ? hung.find((c) => near(c.beginMs, on.beginMs) && near(c.endMs, on.endMs)) : undefined;
    if (there) {
      dispatch({ do: 'focus', id: there.mark.id });
      for (const [tagId, value] of values ?? []) onTime.value(there.mark.id, tagId, value);
      return void onTime.addTags(there.mark.id, given);
    }
    const { own, made } = 'beginMs' in on ? onTime.mark(on, given) : onWords.mark(on, given);
    for (const [tagId, value] of values ?? []) onTime.value(own, tagId, value);
    dispatch({ do: 'marked', id: own, asks: values === null && given.tagIds.some((id) => scales.has(id)) });
    void made.then((id) => id === null && dispatch({ do: 'markRefused', id: own, chosen: on, given }));
  };
  const closeTagLine = () => {
    dispatch({ do: 'closeTagLine' });
    back();
    if (waiting.current) player.goOn();
    waiting.current = false;
  };
  /** The tag line was filled in. */
  const done = (given: TagsGiven, values: readonly [number, number][]) => {
    const on = state.tagLine?.on;
    closeTagLine();
    if (on === 'chosen') return chosen ? markChosen(chosen, given, values) : undefined;
    if (on === undefined || given.tagIds.length + given.newTags.length === 0) return;
    for (const [tagId, value] of values) onTime.value(on, tagId, value);
    void onTime.addTags(on, given).then((taken) => taken || dispatch({ do: 'tagsRefused', id: on, given }));
  };
  /** Moves an edge of what is chosen, or of the focused clip, and lets it be heard. */
  const edgeTo = (edge: Edge, ms: number) => {
    if (!active) return;
    if (chosenWords || (!chosen && focused?.inWords)) return void toast('This mark stands in the words. Move its edges where the words are read.');
    const to = { beginMs: active.beginMs, endMs: active.endMs, [edge]: Math.round(Math.max(0, Math.min(length, ms))) };
    if (to.endMs - to.beginMs < shortestMs || (to.beginMs === active.beginMs && to.endMs === active.endMs)) return;
    if (chosen) dispatch({ do: 'choose', chosen: to, tags: state.tagLine !== null });
    else if (focused && !focused.inWords) onTime.move(focused.mark, to);
    setSaid(`From ${momentIn(to.beginMs)} to ${momentIn(to.endMs)}.`);
    player.play(edge === 'endMs' ? { ...to, beginMs: Math.max(to.beginMs, to.endMs - heardMs) } : { ...to, endMs: Math.min(to.endMs, to.beginMs + heardMs) });
  };
  const keepStill = useWrite(async (atMs: number) => {
    // What was marked before is a step before this one, for undo.
    await outgoing.acknowledged();
    return ask(api.POST('/api/sources/{id}/stills', { params: { path: { id: line.id } }, body: { atMs } }));
  });
  const lineUp = useWrite((shift: number) =>
    ask(api.PUT('/api/sources/{id}/offset', { params: { path: { id: transcript!.line.id } }, body: { offsetMs: Math.round(shift) + line.offsetMs } })),
  );
  const now = () => Math.round(player.now());
  const trying = useRef<TimeRange | null>(null);
  /** Moves the words along the sound, and lets be heard whether they are in step: from where it stands, each time from the same place. */
  const lineUpHeard = (shift: number) => {
    lineUp.mutate(shift);
    if (player.playing && trying.current === null) return;
    const at = now();
    const last = trying.current;
    const again = last !== null && at >= last.beginMs && at <= last.endMs + heardMs;
    trying.current = again ? last : { beginMs: at, endMs: Math.min(length, at + linedUpMs) };
    player.play(trying.current);
  };
  const pinTurn = useWrite((pinned: { start: number; beginMs: number }) =>
    ask(
      api.PUT('/api/sources/{id}/turn-begin', {
        params: { path: { id: transcript!.line.id } },
        body: { ...pinned, basedOn: transcript!.textHash },
      }),
    ),
  );
  const step = (on: boolean) => {
    const index = focused ? hung.indexOf(focused) : -1;
    const next = focused ? hung[index + (on ? 1 : -1)] : on ? hung.find((c) => c.beginMs >= now()) : hung.findLast((c) => c.beginMs < now());
    if (!next) return void toast(on ? 'There is no clip after this place.' : 'There is no clip before this place.');
    dispatch({ do: 'focus', id: next.mark.id });
    player.seek(next.beginMs);
    if (next.beginMs < view.from || next.beginMs > view.from + view.span) setView(within({ from: next.beginMs - view.span / 3, span: view.span }, length));
  };
  const acts: DeskActs = {
    toggle: player.toggle,
    skip: player.skip,
    faster: player.faster,
    begin: () => {
      dispatch({ do: 'begin', at: now() });
      setSaid(`The clip begins at ${momentIn(now())}.`);
    },
    end: () => {
      const [beginMs, endMs] = [state.begun ?? Math.max(0, now() - 5000), now()];
      if (endMs - beginMs < shortestMs) return void toast('The end comes after the beginning. Let it play on, and press o.');
      choose({ beginMs, endMs });
    },
    again: () => player.play(active ?? { beginMs: Math.max(0, now() - 5000), endMs: now() }),
    loop: () => {
      if (player.loop) return player.setLoop(null);
      if (!active) return needsClip();
      player.setLoop(active);
      player.play(active);
    },
    edge: (ms) => (active ? edgeTo(state.edge, active[state.edge] + ms) : needsClip()),
    nudge: (ms) => {
      if (!active || chosenWords || (!chosen && focused?.inWords)) return needsClip();
      const by = Math.max(-active.beginMs, Math.min(length - active.endMs, ms));
      const to = { beginMs: active.beginMs + by, endMs: active.endMs + by };
      if (chosen) dispatch({ do: 'choose', chosen: to, tags: state.tagLine !== null });
      else if (focused && !focused.inWords) onTime.move(focused.mark, to);
      setSaid(`From ${momentIn(to.beginMs)} to ${momentIn(to.endMs)}.`);
      player.play({ ...to, endMs: Math.min(to.endMs, to.beginMs + heardMs) });
    },
    scene: (on) => {
      const at = now();
      const next = on ? scenes.find((s) => s > at + 50) : scenes.findLast((s) => s < at - 500);
      if (next === undefined) return void toast(on ? 'No change of scene comes after this place.' : 'No change of scene stands before this place.');
      player.seek(next);
      if (next < view.from || next > view.from + view.span) setView(within({ from: next - view.span / 3, span: view.span }, length));
    },
    pin: () => {
      if (!transcript || !pinNext) return void toast('There is no turn here to pin.');
      const { start } = pinNext;
      pinTurn.mutate(
        { start, beginMs: Math.max(0, now() - offset) },
        { onSuccess: () => setPinFrom(transcript.turns.find((t) => t.start > start)?.start ?? null) },
      );
    },
    here: () => {
      const said = chosenWords && words ? timeOf(words, chosenWords) : null;
      if (!said) return void toast('Select a word first, and go to the moment at which you hear it begin.');
      lineUp.mutate(now() - said.beginMs);
      setSaid('The words are aligned to this moment.');
    },
    frame: (on) => {
      player.pause();
      player.seek(now() + (on ? 1 : -1) * frameMs);
    },
    louder: () => setLoudness(loudness >= 8 ? 1 : loudness * 2),
    otherEdge: () => {
      dispatch({ do: 'otherEdge' });
      setSaid(state.edge === 'endMs' ? 'Keys move the beginning now.' : 'Keys move the end now.');
    },
    still: () => void (films ? keepStill.mutate(Math.floor(player.now())) : toast('There is no picture here to keep.')),
    follow: () => setFollows(!follows),
    zoom: (times) => setView(zoomed(view, times, Math.max(view.from, Math.min(view.from + view.span, now())), length)),
    whole: () => setView(within({ from: 0, span: length }, length)),
    fit: () => (active ? setView(fitting(active, length)) : needsClip()),
    goTo: () => setGoing(true),
    step,
    tag: () => {
      if (chosen) dispatch({ do: 'openTagLine', on: 'chosen' });
      else if (focused) dispatch({ do: 'openTagLine', on: focused.mark.id });
      else needsClip();
    },
    pen: (number) => {
      const tagId = pens.find((p) => p.number === number)?.tagId;
      if (tagId === undefined) return void toast(`No tag is on pen ${number} yet. Point at a tag on the shelf and press ${number}.`);
      const given = { tagIds: [tagId], newTags: [] };
      if (chosen) markChosen(chosen, given);
      else if (focused) void onTime.addTags(focused.mark.id, given);
      else needsClip();
    },
    putIn: () => (focused ? setPuttingIn(focused.mark) : chosen && 'beginMs' in chosen ? setPuttingIn(chosen) : needsClip()),
    card: () => (focused ? dispatch({ do: 'openCard', id: focused.mark.id }) : needsClip()),
    star: () => (focused ? onTime.star(focused.mark) : needsClip()),
    unsure: () => (focused ? onTime.unsure(focused.mark) : needsClip()),
    split: () => (focused && !focused.inWords ? regrouping.split(focused.mark, now()) : needsClip()),
    join: () => {
      const next = focused && !focused.inWords ? clips[clips.indexOf(focused.mark) + 1] : undefined;
      if (focused && next) regrouping.join([focused.mark, next], (id) => dispatch({ do: 'focus', id }));
      else toast('There is no clip after this one to join it with.');
    },
    remove: () => {
      if (!focused) return needsClip();
      dispatch({ do: 'focus', id: null });
      onTime.remove(focused.mark.id);
    },
    leave: () => {
      const there = player.loop !== null || chosen !== null || focused !== undefined;
      player.setLoop(null);
      dispatch({ do: 'choose', chosen: null });
      return there;
    },
  };
  return {
    state,
    dispatch,
    acts,
    view,
    setView,
    going,
    setGoing,
    follows,
    setFollows,
    said,
    /** Where what is put in a theme or an insight can go; null while nothing is. */
    puttingIn: puttingIn && regrouping.placesFor(puttingIn),
    putIn: setPuttingIn,
    clips,
    inWords,
    hung,
    transcript,
    transcripts,
    estimated,
    pinNext: pinNext?.start ?? null,
    choosePin: setPinFrom,
    words,
    scales,
    marking: onTime,
    called,
    focused,
    active,
    highlighted,
    chosenWords,
    beginning: beginning ?? named?.beginMs ?? place,
    choose,
    done,
    closeTagLine,
    edgeTo,
    loudness,
    offset,
    lineUp: lineUpHeard,
  };
}
