import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { QuoteItem } from '@/parts/QuoteItem';
import { useQuotes } from '@/shared/useQuotes';
import { TrailButton } from '@/trail/Trail';
import { useTagLook } from '@/parts/useTagLook';
import { agreedByWords, consentMeans, consents, count, day, kindWords, sessionKindWords } from '@/parts/words';
import { useGone } from '@/shared/useGone';
import { useSourceCounts } from '@/shared/useSourceCounts';

const mostQuotes = 40;

/** One participant: what is known of them, the sources they are in, and everything of theirs that was marked. */
export function PersonPage() {
  const { studyId, personId } = useParams({ from: '/team/studies/$studyId/gather/people/$personId' });
  const navigate = useNavigate();
  const { data: participants, error } = useQuery(queries.participants(studyId));
  const sources = useQuery(queries.sources(studyId)).data ?? [];
  const observationsIn = useSourceCounts(studyId);
  const sessions = useQuery(queries.sessions(studyId)).data ?? [];
  const tags = useQuery(queries.tags(studyId)).data;
  const { quotes, total = 0 } = useQuotes(queries.evidenceQuotes(studyId, { cell: { participantIds: [personId] } }));
  const look = useTagLook(tags);
  const remove = useWrite(() => ask(api.DELETE('/api/studies/{studyId}/participants/{id}', { params: { path: { studyId, id: personId } } })));
  const consent = useWrite((given: Schemas['Consent']) =>
    ask(api.PUT('/api/studies/{studyId}/participants/consent', { params: { path: { studyId } }, body: { participantIds: [personId], consent: given } })),
  );
  const person = participants?.people.find((p) => p.id === personId);
  const leave = () => void navigate({ to: '/studies/$studyId/gather/people', params: { studyId } });
  useGone(participants && remove.isIdle ? person !== undefined : undefined, leave);
  if (!participants) return <Waiting problem={error} />;
  if (!person) return <Waiting problem={new Error('This participant is not here any more. Someone may have removed them; go back to the participants.')} />;
  const theirs = sources.filter((s) => s.peopleIds.includes(personId));
  const there = sessions.filter((s) => s.participantIds.includes(personId));
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1080px] px-5 py-6">
        <Link to="/studies/$studyId/gather/people" params={{ studyId }} className="text-[13px] text-sky hover:underline">
          All participants
        </Link>
        <div className="mt-1 flex items-center gap-3">
          <h1 className="font-read text-[26px] font-semibold">{person.pseudonym}</h1>
          <span className="text-ink-soft">{person.code}</span>
          <span className="ml-auto flex gap-2">
            <TrailButton of={{ thing: 'participant', id: person.id, name: person.pseudonym }} />
            <Button look="danger" onClick={() => remove.mutate(undefined, { onSuccess: leave })}>
              Remove
            </Button>
          </span>
        </div>
        <div className="mt-5 grid grid-cols-[280px_1fr] gap-10">
          <div>
            <h2 className="mb-1.5 text-[13px] font-semibold text-ink-soft">Attributes</h2>
            <dl className="grid grid-cols-[1fr_1fr] gap-x-3 gap-y-1.5">
              {participants.attributes.map((a) => (
                <div key={a.id} className="contents">
                  <dt className="text-ink-soft">{a.name}</dt>
                  <dd>{person.values[a.id] ?? <span className="text-ink-soft">not known</span>}</dd>
                </div>
              ))}
              <dt className="text-ink-soft">
                <label htmlFor="consent">consent</label>
              </dt>
              <dd>
                <select
                  id="consent"
                  className="min-h-7 w-full rounded-std border border-line bg-case px-1.5"
                  value={person.consent}
                  onChange={(e) => consent.mutate(e.target.value as Schemas['Consent'])}
                >
                  {consents.map((c) => (
                    <option key={c} value={c}>
                      {c}
                    </option>
                  ))}
                </select>
                <Link
                  to="/studies/$studyId/gather/people/$personId/withdraw"
                  params={{ studyId, personId }}
                  className="mt-1 block text-[12.5px] text-sky hover:underline"
                >
                  {person.consent === 'withdrawn' ? 'What it touches, and erasing it' : 'What a withdrawal touches'}
                </Link>
                {person.consent === 'given' && person.agreedBy && <span className="block text-[12px] text-ink-soft">{agreedByWords[person.agreedBy]}</span>}
                {consentMeans[person.consent] && <span className="block text-[12px] text-ink-soft">{consentMeans[person.consent]}</span>}
              </dd>
              <dt className="text-ink-soft">real name</dt>
              <dd>{person.realName ?? <span className="text-ink-soft">not kept</span>}</dd>
            </dl>
            {there.length > 0 && (
              <>
                <h2 className="mt-7 mb-1.5 text-[13px] font-semibold text-ink-soft">At {count(there.length, 'session')}</h2>
                <ul className="space-y-1">
                  {there.map((s) => (
                    <li key={s.id}>
                      <Link to="/studies/$studyId/gather/sessions" params={{ studyId }} className="font-read text-[15px] font-medium hover:underline">
                        {s.title}
                      </Link>
                      <span className="block text-[12px] text-ink-soft">
                        {[sessionKindWords[s.kind], s.heldOn && day(s.heldOn), s.minutes && `${s.minutes} min`].filter(Boolean).join(', ')}
                      </span>
                    </li>
                  ))}
                </ul>
              </>
            )}
            <h2 className="mt-7 mb-1.5 text-[13px] font-semibold text-ink-soft">In {count(theirs.length, 'source')}</h2>
            <ul className="space-y-1">
              {theirs.map((s) => (
                <li key={s.id}>
                  <Link
                    to="/studies/$studyId/mark"
                    params={{ studyId }}
                    search={{ source: s.id }}
                    className="font-read text-[15px] font-medium hover:underline"
                  >
                    {s.title}
                  </Link>
                  <span className="block text-[12px] text-ink-soft">
                    {kindWords[s.kind].one}, {count(observationsIn(s.id), 'observation')} in it
                  </span>
                </li>
              ))}
            </ul>
          </div>
          <section aria-label="Observations">
            <h2 className="mb-2 text-[13px] font-semibold text-ink-soft">{total === 0 ? 'Nothing of theirs is marked yet' : count(total, 'observation')}</h2>
            <ul className="space-y-3">
              {quotes.slice(0, mostQuotes).map((quote) => (
                <li key={quote.observationId} className="border-b border-line pb-3">
                  <QuoteItem quote={quote} who={person.pseudonym} studyId={studyId} look={look} />
                </li>
              ))}
            </ul>
            {total > mostQuotes && <p className="mt-3 text-ink-soft">{total - mostQuotes} more; open them from the Weigh room.</p>}
          </section>
        </div>
      </div>
    </div>
  );
}
