import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { count, day, sessionKindWords } from '@/parts/words';
import { GatherTabs } from '@/gather/sources/GatherTabs';
import { useSourceCounts } from '@/shared/useSourceCounts';
import { SessionDialog } from './SessionDialog';

/** Kinds of source that come of no session. */
const notHeld: readonly Schemas['SourceKind'][] = ['survey', 'feedback', 'diary', 'document'];

/** What was held, in the order it was held, with the people there and the sources that came of it. */
export function SessionsPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: sessions, error } = useQuery(queries.sessions(studyId));
  const sources = useQuery(queries.sources(studyId)).data;
  const observationsIn = useSourceCounts(studyId);
  const people = useQuery(queries.participants(studyId)).data?.people;
  const [changing, setChanging] = useState<number | 'new' | null>(null);
  const loose = (sources ?? []).filter((s) => s.sessionId === null && !notHeld.includes(s.kind));
  const ofEach = useWrite(() =>
    ask(api.POST('/api/studies/{studyId}/sessions/of-each', { params: { path: { studyId } }, body: { sourceIds: loose.map((s) => s.id) } })),
  );
  if (!sessions || !sources || !people) return <Waiting problem={error} />;
  const add = (
    <>
      {loose.length > 0 && (
        <Button onClick={() => ofEach.mutate()} disabled={ofEach.isPending}>
          {loose.length === 1 ? 'Make a session of the source without one' : `Make a session of each of ${loose.length} sources`}
        </Button>
      )}
      <Button look="main" onClick={() => setChanging('new')}>
        New session
      </Button>
    </>
  );
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1240px] px-5 py-6">
        <GatherTabs studyId={studyId}>{sessions.length > 0 && add}</GatherTabs>
        {sessions.length === 0 ? (
          <Empty title="No session yet" sample="Group discussion in Tarra hall, 17 November, 4 people, 62 minutes" action={add}>
            A session is what was held: an interview, a test, a visit or a group discussion. It knows its day, its length, who was there and who led it, and
            holds together the sources that came of it.
          </Empty>
        ) : (
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
                <th className="py-2 pr-4 font-medium">Held on</th>
                <th className="py-2 pr-4 font-medium">Session</th>
                <th className="py-2 pr-4 font-medium">Participants</th>
                <th className="py-2 pr-4 font-medium">Led by</th>
                <th className="py-2 pr-4 text-right font-medium">Length</th>
                <th className="py-2 pr-4 pl-4 font-medium">Its sources</th>
                <th className="py-2">
                  <span className="sr-only">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sessions.map((s) => (
                <tr key={s.id} className="border-b border-line align-baseline hover:bg-wash">
                  <td className="py-2 pr-4 whitespace-nowrap">{s.heldOn ? day(s.heldOn) : <span className="text-ink-soft">no date</span>}</td>
                  <td className="py-2 pr-4">
                    <span className="block font-read text-[16px] font-medium">{s.title}</span>
                    <span className="text-[12.5px] text-ink-soft">{sessionKindWords[s.kind]}</span>
                  </td>
                  <td className="py-2 pr-4">
                    {s.participantIds.length === 0 ? (
                      <span className="text-ink-soft">nobody named</span>
                    ) : (
                      people
                        .filter((p) => s.participantIds.includes(p.id))
                        .map((p) => p.pseudonym)
                        .join(', ')
                    )}
                  </td>
                  <td className="py-2 pr-4">{s.moderator || <span className="text-ink-soft">not said</span>}</td>
                  <td className="py-2 pr-4 text-right whitespace-nowrap">
                    {s.minutes === null ? <span className="text-ink-soft">not known</span> : `${s.minutes} min`}
                  </td>
                  <td className="py-2 pr-4 pl-4">
                    <ul>
                      {sources
                        .filter((x) => s.sourceIds.includes(x.id))
                        .map((x) => (
                          <li key={x.id}>
                            <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: x.id }} className="hover:underline">
                              {x.title}
                            </Link>
                            <span className="text-[12.5px] text-ink-soft"> {count(observationsIn(x.id), 'observation')}</span>
                          </li>
                        ))}
                    </ul>
                    {s.sourceIds.length === 0 && <span className="text-ink-soft">nothing yet</span>}
                  </td>
                  <td className="py-2 text-right whitespace-nowrap">
                    <Link
                      to="/studies/$studyId/gather/sessions/$sessionId/live"
                      params={{ studyId, sessionId: s.id }}
                      aria-label={`${s.running ? 'Join the notes on' : 'Take notes on'} ${s.title}`}
                      className={`inline-flex min-h-8 items-center rounded-std px-3 text-[13px] font-medium ${s.running ? 'border border-verdigris text-verdigris' : 'text-ink-soft hover:bg-wash hover:text-ink'}`}
                    >
                      {s.running ? 'Running: join' : 'Take notes'}
                    </Link>
                    <Button look="quiet" aria-label={`Change ${s.title}`} onClick={() => setChanging(s.id)}>
                      Change
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      {changing !== null && (
        <SessionDialog
          key={changing}
          studyId={studyId}
          session={changing === 'new' ? null : (sessions.find((s) => s.id === changing) ?? null)}
          people={people}
          onClose={() => setChanging(null)}
        />
      )}
    </div>
  );
}
