import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { TagLine } from '@/parts/TagLine';
import { Waiting } from '@/parts/Empty';
import { count } from '@/parts/words';
import type { TextRange, TimeRange } from '@/mark/observations/place';
import { timeFragment } from '@/mark/observations/mediaFragment';
import { ObservationCard } from '@/mark/observations/ObservationCard';
import { addressOf } from '@/mark/reading/addressOf';
import type { MaterialProps } from '@/mark/reading/material';
import { nearTags } from '@/mark/reading/nearTags';
import { PutIn } from '@/mark/reading/PutIn';
import { handOn } from '@/mark/reading/useCiting';
import { WriteDown } from '@/mark/transcription/WriteDown';
import { Protect } from '@/shared/Protect';
import { useKept } from '@/shared/useKept';
import { Beside } from './Beside';
import { ClipLanes, type Clip } from './ClipLanes';
import { recording } from './actions';
import { usePartActions } from '@/parts/actions/registry';
import { InStepWords } from './InStepWords';
import { NotReady } from './NotReady';
import { PlayerBar } from './PlayerBar';
import { SaveClip } from './SaveClip';
import { Stills } from './Stills';
import { useDesk } from './useDesk';
import { usePlayer } from './usePlayer';
import { momentIn } from './view';
import { Wave } from './Wave';

const none: readonly never[] = [];
const isId = (value: unknown): value is number => typeof value === 'number';
const isFlag = (value: unknown): value is boolean => typeof value === 'boolean';

/** The frame that a film shows now, as a picture. */
function frameOf(video: HTMLVideoElement): string {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
  canvas.getContext('2d')!.drawImage(video, 0, 0);
  return canvas.toDataURL('image/jpeg', 0.8);
}

/** Sound or film: what was said, how, and what was on the screen. */
export function PlayerDesk(props: MaterialProps) {
  const { data: facts, error } = useQuery({
    ...queries.recording(props.source.line.id),
    // How far it is, is told only to who brought it in.
    refetchInterval: (query) => (query.state.data && ['waiting', 'working'].includes(query.state.data.state) ? 1500 : false),
  });
  if (!facts) return <Waiting problem={error} />;
  if (facts.state !== 'ready') return <NotReady source={props.source} facts={facts} />;
  return <Desk {...props} facts={facts} />;
}

/** Where frames do not come evenly, in milliseconds. */
const someFrameMs = 40;

const scrolling = ['ArrowUp', 'ArrowDown', 'PageUp', 'PageDown'];

/** The words scroll by some keys when they have the focus, and a button is pressed by some. */
function isForDesk({ key, altKey, target }: KeyboardEvent): boolean {
  const on = target as HTMLElement;
  if (on.dataset['scrolls'] !== undefined && scrolling.includes(key)) return false;
  return altKey || !['Enter', ' ', 'Escape'].includes(key) || on.closest('button, a, input, select, [role="dialog"]') === null;
}

function Desk(props: MaterialProps & { facts: Schemas['RecordingFacts'] }) {
  const { source, stored, tags, look, people, at, place, pane, keyed, facts } = props;
  const { lengthMs: length, films, sounds } = facts;
  const { studyId, line } = source;
  const root = useRef<HTMLDivElement>(null);
  const { attach, ...player } = usePlayer();
  const [waits, setWaits] = useKept('waits-while-tagging', true, isFlag);
  const [protecting, setProtecting] = useState<{ frame: string | null } | null>(null);
  const scenes = useQuery({ ...queries.scenes(line.id), enabled: films }).data ?? none;
  const back = () => root.current?.focus({ preventScroll: true });
  const { state, dispatch, acts, view, transcript, transcripts, words, hung, active, marking, ...desk } = useDesk({
    source,
    stored,
    tags,
    at,
    place,
    player,
    length,
    films,
    scenes,
    frameMs: facts.frameMs ?? someFrameMs,
    waits,
    back,
  });
  const keys = usePartActions(recording, acts, root);
  const pauses = useQuery({ ...queries.pauses(line.id), enabled: sounds }).data ?? none;
  const sources = useQuery(queries.sources(studyId)).data ?? none;
  /** Other recordings of the same session: on the same clock one of them can stand beside this one. */
  const siblings = useMemo(
    () => sources.filter((s) => line.sessionId !== null && s.sessionId === line.sessionId && s.id !== line.id && s.lengthMs !== null),
    [sources, line],
  );
  const [besideId, setBeside] = useKept(`beside-${line.id}`, 0, isId);
  const second = siblings.find((s) => s.id === besideId);
  const [hearsSecond, setHearsSecond] = useState(false);
  const stills = useMemo(() => sources.filter((s) => s.stillOfId === line.id).toSorted((a, b) => (a.stillAtMs ?? 0) - (b.stillAtMs ?? 0)), [sources, line.id]);
  useEffect(() => {
    if (keyed) root.current?.focus({ preventScroll: true });
  }, [keyed]);
  const { seek } = player;
  const focusOn = useCallback(
    (id: number, open: boolean) => {
      dispatch(open ? { do: 'openCard', id } : { do: 'focus', id });
      const clip = hung.find((c) => c.mark.id === id);
      if (clip && !open) seek(clip.beginMs);
    },
    [dispatch, hung, seek],
  );
  const { beginning } = desk;
  useEffect(() => {
    if (beginning !== undefined) seek(beginning);
  }, [beginning, seek]);

  const layAlong = useWrite(() =>
    ask(api.PUT('/api/sources/{id}/in-step-with', { params: { path: { id: transcript!.line.id } }, body: { sourceId: line.id } })),
  );
  const sure = useWrite(({ start, end }: TextRange) =>
    ask(
      api.POST('/api/sources/{id}/sure', {
        params: { path: { id: transcript!.line.id } },
        body: { start, end, basedOn: transcript!.textHash },
      }),
    ),
  );
  const speakers = transcript?.line.speakers ?? none;
  const nameOf = (speakerId: number | null) => {
    const speaker = speakers.find((s) => s.id === speakerId);
    return people.find((p) => p.id === speaker?.participantId)?.pseudonym ?? speaker?.label ?? '';
  };
  /** There is something above the wave beside which the tag line stands, so that it covers no sound. */
  const above = films || second !== undefined || transcript !== undefined;
  const on = state.tagLine?.on;
  const tagged = on === 'chosen' ? active : (desk.called(on ?? null) ?? null);
  const taggedWords = on === 'chosen' ? desk.chosenWords : null;
  const tagLine = state.tagLine && (tagged || taggedWords) && (
    <TagLine
      tags={tags}
      look={look}
      recent={marking.recent}
      near={
        taggedWords
          ? nearTags(desk.inWords, taggedWords)
          : tagged
            ? nearTags<TimeRange>(
                hung.map((c) => ({ ...c, tagIds: c.mark.tagIds })),
                tagged,
              )
            : []
      }
      asksValues
      words={taggedWords && transcript ? transcript.text.slice(taggedWords.start, taggedWords.end).replace(/\s+/g, ' ').trim() : undefined}
      before={state.tagLine.before ?? undefined}
      onDone={(tagIds, newTags, values) => desk.done({ tagIds, newTags }, values)}
      onCancel={() => {
        desk.closeTagLine();
      }}
    />
  );
  const linkTo = (clip: Clip) => new URL(`/studies/${studyId}/mark?source=${line.id}&at=${clip.mark.id}${timeFragment(clip)}`, window.location.href).href;
  const opened = desk.called(state.card?.id ?? null);
  return (
    <div
      ref={root}
      role="region"
      aria-label={`Recording ${line.title}`}
      tabIndex={0}
      data-takes-keys
      onKeyDown={(e) => isForDesk(e) && keys(e)}
      className={`grid h-full min-h-[560px] outline-none ${above ? 'grid-rows-[minmax(180px,1fr)_auto_auto]' : 'grid-rows-[auto_auto_auto] content-start'}`}
    >
      <div className={`relative grid min-h-0 ${(films || second) && transcript ? 'grid-cols-[minmax(0,11fr)_minmax(0,10fr)]' : 'grid-cols-1'}`}>
        <div className={films || second ? `grid min-h-0 gap-2 bg-paper-deep p-3 ${films && second ? 'grid-rows-2' : 'grid-rows-1'}` : 'sr-only'}>
          <video
            ref={attach}
            preload="auto"
            poster={films ? `/api/sources/${line.id}/poster` : undefined}
            muted={hearsSecond && second !== undefined}
            src={addressOf(source)}
            aria-label={line.title}
            className={films ? 'h-full min-h-0 w-full object-contain' : 'sr-only'}
            onClick={acts.toggle}
          />
          {second && <Beside key={second.id} first={line} second={second} player={player} heard={hearsSecond} onHeard={setHearsSecond} />}
        </div>
        {transcript && words && (
          <InStepWords
            source={transcript}
            words={words}
            player={player}
            pane={pane}
            nameOf={nameOf}
            follows={desk.follows}
            onFollows={desk.setFollows}
            highlighted={desk.highlighted}
            onSelect={desk.choose}
            shift={desk.offset}
            onLineUp={desk.lineUp}
            onHere={desk.chosenWords ? acts.here : null}
            estimated={desk.estimated}
            pinNext={desk.pinNext}
            onChoosePin={(start) => {
              desk.choosePin(start);
              back();
            }}
            onAttach={() => layAlong.mutate()}
            candidates={transcripts.candidates}
            onChoose={transcripts.choose}
            onSure={(doubted) => sure.mutate(doubted)}
          />
        )}
        {tagLine && above && <div className="absolute top-11 right-4 z-30">{tagLine}</div>}
      </div>
      <div className="border-t border-line">
        <PlayerBar
          player={player}
          length={length}
          films={films}
          sounds={sounds}
          onFrame={acts.frame}
          loudness={desk.loudness}
          onLouder={acts.louder}
          chosen={active}
          going={desk.going}
          onGoing={(going) => {
            desk.setGoing(going);
            if (!going) back();
          }}
          onWhole={acts.whole}
          onFit={acts.fit}
          onLoop={acts.loop}
          onStill={acts.still}
          waits={waits}
          onWaits={setWaits}
        />
      </div>
      <div className="relative px-5 pb-3">
        <Wave
          sourceId={line.id}
          length={length}
          player={player}
          view={view}
          onView={desk.setView}
          chosen={active}
          movable={state.chosen ? 'beginMs' in state.chosen : desk.focused?.inWords === false}
          edge={state.edge}
          begun={state.begun}
          pauses={pauses}
          loudness={desk.loudness}
          scenes={scenes}
          onDraw={desk.choose}
          onEdge={desk.edgeTo}
        >
          {(width) => <ClipLanes clips={hung} view={view} width={width} look={look} focused={desk.focused?.mark.id ?? null} onFocus={focusOn} />}
        </Wave>
        {tagLine && !above && <div className="absolute top-[136px] left-5 z-30">{tagLine}</div>}
        <div className="mt-1 flex flex-wrap items-center gap-x-4 text-[12.5px] text-ink-soft">
          <p title="The wheel zooms. A dragged edge snaps to pauses; Alt moves it freely.">
            {count(desk.clips.length, 'clip')}
            {desk.inWords.length > 0 && `, ${count(desk.inWords.length, 'mark')} in the words`}
          </p>
          {facts.saysMs !== null && (
            <p className="text-brass">
              Its file says {momentIn(facts.saysMs, false)}, but ends at {momentIn(length, false)}: it may have broken off.
            </p>
          )}
          {siblings.length > 0 && (
            <label className="flex items-center gap-1.5">
              On the same clock
              <select
                value={second?.id ?? 0}
                onChange={(e) => setBeside(Number(e.target.value))}
                className="min-h-6 max-w-[180px] rounded-std border border-line bg-case px-1"
              >
                <option value={0}>nothing</option>
                {siblings.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.title}
                  </option>
                ))}
              </select>
            </label>
          )}
          {sounds && <WriteDown recording={line} others={transcripts.others} onAttached={transcripts.choose} />}
          <Button look="quiet" onClick={() => setProtecting({ frame: films ? frameOf(root.current!.querySelector('video')!) : null })}>
            Protect people …
          </Button>
        </div>
        <Stills studyId={studyId} stills={stills} onSeek={(ms) => player.seek(ms)} />
        <p role="status" className="sr-only">
          {desk.said}
        </p>
      </div>
      {protecting && (
        <Protect
          sourceId={line.id}
          sounds={sounds}
          frame={protecting.frame}
          stretch={active}
          onClose={() => {
            setProtecting(null);
            back();
          }}
        />
      )}
      {desk.puttingIn && <PutIn studyId={studyId} onto={desk.puttingIn} onClose={() => desk.putIn(null)} />}
      {opened && (
        <ObservationCard
          key={state.card?.id}
          studyId={studyId}
          observation={opened.mark}
          look={look}
          scaleOf={(tagId) => desk.scales.get(tagId) ?? null}
          asked={state.card?.asks ?? false}
          onValue={(tagId, value) => marking.value(opened.mark.id, tagId, value)}
          onClose={() => {
            dispatch({ do: 'closeCard' });
            back();
          }}
          onSentiment={(sentiment) => marking.sentiment(opened.mark.id, sentiment)}
          onStar={() => marking.star(opened.mark)}
          onUnsure={() => marking.unsure(opened.mark)}
          onCopy={() => handOn(`${line.title}, ${momentIn(opened.beginMs)} to ${momentIn(opened.endMs)}\n${linkTo(opened)}`, 'Copied, with where it is from.')}
          onCopyLink={() => handOn(linkTo(opened), 'The link is copied.')}
          onUntag={(tagId) => marking.untag(opened.mark.id, tagId)}
          onAddTag={() => dispatch({ do: 'openTagLine', on: opened.mark.id })}
          onRemove={() => {
            dispatch({ do: 'closeCard' });
            marking.remove(opened.mark.id);
            back();
          }}
        >
          <SaveClip observationId={opened.mark.id} films={films} sounds={sounds} captioned={(words?.length ?? 0) > 0} />
        </ObservationCard>
      )}
    </div>
  );
}
