import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useEffect, useMemo, useRef } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { outgoing } from '@/api/waiting/outgoing';
import { useOutgoing } from '@/api/waiting/useOutgoing';
import { useWrite } from '@/api/useWrite';
import { Button, Key } from '@/parts/Button';
import { useTagLook } from '@/parts/useTagLook';
import { clock, count, sessionKindWords } from '@/parts/words';
import { LineField } from './LineField';
import { LineRow } from './LineRow';
import { linesShown, newLine } from './lines';
import { useLiveClock } from './useLiveClock';

interface Props {
  studyId: number;
  session: Schemas['Session'];
  notes: Schemas['NotesOfSession'];
  fetchedAt: number;
  /** Begins notes anew on the same session, when these have ended. */
  onBegin: () => void;
}

/** How far above its end a list may be scrolled and still follow its newest line. */
const near = 220;

/** The clock, the lines of everyone, and the field for the next one. Lines that cannot be sent wait in the browser in their order. */
export function LiveRoom({ studyId, session, notes, fetchedAt, onBegin }: Props) {
  const navigate = useNavigate();
  const me = useQuery(queries.me()).data?.account;
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people ?? [];
  const look = useTagLook(tags);
  const { waiting, way } = useOutgoing();
  const time = useLiveClock(notes, fetchedAt);
  const lines = useMemo(() => linesShown(notes.lines, waiting, notes.id, me), [notes, waiting, me]);
  const end = useWrite(() => ask(api.POST('/api/studies/{studyId}/live-notes/{id}/end', { params: { path: { studyId, id: notes.id } } })));
  const list = useRef<HTMLDivElement>(null);
  const last = lines.at(-1)?.key;
  useEffect(() => {
    const box = list.current;
    if (box && box.scrollHeight - box.scrollTop - box.clientHeight < near) box.scrollTop = box.scrollHeight;
  }, [last]);
  const there = people.filter((p) => session.participantIds.includes(p.id)).map((p) => p.pseudonym);
  const unsent = lines.filter((l) => l.waits).length;
  const running = notes.endedAt === null;
  const finish = () => {
    void outgoing
      .acknowledged()
      .then(() =>
        end.mutate(undefined, { onSuccess: (step) => void navigate({ to: '/studies/$studyId/mark', params: { studyId }, search: { source: step.id! } }) }),
      );
  };
  return (
    <div className="mx-auto flex h-full max-w-[1000px] flex-col px-5 pt-5 pb-6">
      <header className="flex items-end gap-5 border-b border-line pb-4">
        <div className="min-w-0">
          <Link to="/studies/$studyId/gather/sessions" params={{ studyId }} className="text-[13px] text-sky hover:underline">
            All sessions
          </Link>
          <h1 className="truncate font-read text-[22px] font-semibold">{session.title}</h1>
          <p className="text-[12.5px] text-ink-soft">{[sessionKindWords[session.kind], ...there].join(', ')}</p>
        </div>
        <p className="ml-auto text-right">
          <span className="block text-[12px] text-ink-soft">{running ? 'since the start' : 'ended at'}</span>
          <time aria-label="Clock of the session" className="text-[34px] leading-none font-semibold tabular-nums">
            {clock(time.shown)}
          </time>
        </p>
        {running && (
          <Button onClick={finish} disabled={end.isPending || lines.length === 0}>
            End the notes
          </Button>
        )}
      </header>
      {!running && (
        <p role="status" className="border-b border-line bg-brass-wash px-3 py-2">
          These notes have ended.{' '}
          {notes.sourceId === null ? (
            'The source that they became has been removed.'
          ) : (
            <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: notes.sourceId }} className="text-sky underline underline-offset-2">
              Read and mark them
            </Link>
          )}{' '}
          A line that you still write goes to its place in them.{' '}
          <button type="button" className="text-sky underline underline-offset-2" onClick={onBegin}>
            Start the clock again
          </button>
        </p>
      )}
      <div ref={list} className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="log" aria-label="Lines">
        {lines.length === 0 ? (
          <p className="py-10 text-center font-read text-[16px] text-ink-soft italic">A line’s time is that of its first letter.</p>
        ) : (
          <ol>
            {lines.map((line) => (
              <LineRow key={line.key} studyId={studyId} line={line} look={look} ended={!running} cut={way !== 'open'} />
            ))}
          </ol>
        )}
      </div>
      {way !== 'open' && unsent > 0 && (
        <p role="status" className="pt-2 text-[12.5px] text-brass">
          {count(unsent, 'line')} kept in this browser, to be sent in order when the server answers again
        </p>
      )}
      <LineField
        tags={tags ?? []}
        look={look}
        now={time.now}
        onLine={(typed, beginMs, endMs) => void outgoing.write(newLine(studyId, notes.id, typed, beginMs, endMs)).catch(() => undefined)}
      />
      <p className="mt-1.5 flex flex-wrap gap-x-4 text-[12px] text-ink-soft">
        {(
          [
            ['Enter', 'stamps the line'],
            ['#', 'tags it while you type'],
            ['!', 'alone stars it'],
            ['Name:', 'says whose words they are'],
          ] as const
        ).map(([key, does]) => (
          <span key={key}>
            <Key>{key}</Key> {does}
          </span>
        ))}
      </p>
    </div>
  );
}
