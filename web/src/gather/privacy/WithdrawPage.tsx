import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { Children, useState, type FormEvent, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Problem, TextField } from '@/parts/Field';
import { count } from '@/parts/words';
import { SharedMaterial, type Decision } from './SharedMaterial';

/** Someone says no: everything that it touches, out of what is published at once, and on a second word erased for good. */
export function WithdrawPage() {
  const { studyId, personId } = useParams({ from: '/team/studies/$studyId/gather/people/$personId/withdraw' });
  const navigate = useNavigate();
  const cache = useQueryClient();
  const path = { studyId, id: personId };
  const { data: participants, error } = useQuery(queries.participants(studyId));
  const touched = useQuery(queries.touched(studyId, personId)).data;
  const [code, setCode] = useState('');
  const [decisions, setDecisions] = useState<Decision[]>([]);
  const consent = useWrite((given: 'withdrawn' | 'asked') =>
    ask(api.PUT('/api/studies/{studyId}/participants/consent', { params: { path: { studyId } }, body: { participantIds: [personId], consent: given } })),
  );
  const erase = useMutation({
    mutationFn: () => ask(api.POST('/api/studies/{studyId}/participants/{id}/erase', { params: { path }, body: { code, shared: decisions } })),
    onSuccess: async () => {
      toast('Erased for good');
      await navigate({ to: '/studies/$studyId/gather/people', params: { studyId } });
      await cache.invalidateQueries();
    },
  });
  const person = participants?.people.find((p) => p.id === personId);
  if (!participants || !touched) return <Waiting problem={error} />;
  if (!person) return <Waiting problem={new Error('This participant is not here any more.')} />;
  const withdrawn = person.consent === 'withdrawn';
  const shared = touched.sources.filter((s) => s.choices.length > 0);
  const decided = (d: Decision) => d.what !== 'takeOut' || (d.ranges ?? []).length > 0;
  const undecided = shared.filter((s) => !decisions.some((d) => d.sourceId === s.id && decided(d)));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    erase.mutate();
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto grid max-w-[1080px] grid-cols-[minmax(0,1fr)_360px] gap-10 px-5 py-6">
        <section aria-label="What it touches">
          <Link to="/studies/$studyId/gather/people/$personId" params={{ studyId, personId }} className="text-[13px] text-sky hover:underline">
            {person.pseudonym}
          </Link>
          <h1 className="mt-1 font-read text-[24px] font-semibold">What the withdrawal of {person.pseudonym} touches</h1>
          <Touched title={count(touched.sources.length, 'source')}>
            {touched.sources.map((s) => (
              <li key={s.id}>
                <Link to="/studies/$studyId/mark" params={{ studyId }} search={{ source: s.id }} className="font-read text-[15.5px] hover:underline">
                  {s.title}
                </Link>
                <span className="block text-[12.5px] text-ink-soft">
                  {!s.shared ? 'theirs alone: all of it' : s.choices.length > 0 ? 'held with others: to be decided' : 'held with others: only their turns'},{' '}
                  {count(s.observations, 'observation')}
                  {s.file && s.choices.length === 0 && (s.shared ? ', and the file that it came from' : ', with its file')}
                </span>
              </li>
            ))}
          </Touched>
          {touched.files.length > 0 && (
            <Touched title={count(touched.files.length, 'table of a survey', 'tables of surveys')}>
              {touched.files.map((f) => (
                <li key={f.id}>
                  <span className="font-read text-[15.5px]">{f.title}</span>
                  <span className="block text-[12.5px] text-ink-soft">has a row of theirs: the file goes, what the others answered stays</span>
                </li>
              ))}
            </Touched>
          )}
          <Touched title={count(touched.themes.length, 'theme')}>
            {touched.themes.map((t) => (
              <Rests key={t.id} title={t.title} theirs={t.theirs} all={t.all} />
            ))}
          </Touched>
          <Touched title={count(touched.insights.length, 'insight')}>
            {touched.insights.map((t) => (
              <Rests
                key={t.id}
                title={
                  <Link to="/studies/$studyId/show/$insightId" params={{ studyId, insightId: t.id }} className="hover:underline">
                    {t.title}
                  </Link>
                }
                theirs={t.theirs}
                all={t.all}
              />
            ))}
          </Touched>
          <Touched title={count(touched.exhibits.length, 'exhibit')}>
            {touched.exhibits.map((t) => (
              <Rests
                key={t.id}
                title={
                  <Link to="/exhibits/$exhibitId" params={{ exhibitId: t.id }} className="hover:underline">
                    {t.title}
                  </Link>
                }
                theirs={t.theirs}
                all={t.all}
              />
            ))}
          </Touched>
        </section>
        <div className="space-y-8 pt-8">
          <section aria-label="Withdraw" className="rounded-std border border-line bg-case p-5">
            <h2 className="font-read text-[18px] font-semibold">1. Take it out of what is published</h2>
            <p className="mt-1 mb-3 text-ink-soft">
              {withdrawn
                ? 'Their words and they themselves are on no published page, and in no figure on one. The team still has the material.'
                : 'At once, their words leave every published page, and they are counted on none. The team still has the material, and this can be undone.'}
            </p>
            {withdrawn ? (
              <Button onClick={() => consent.mutate('asked')}>They have not withdrawn</Button>
            ) : (
              <Button look="main" onClick={() => consent.mutate('withdrawn')} disabled={consent.isPending}>
                {person.pseudonym} withdraws
              </Button>
            )}
          </section>
          <section aria-label="Erase" className={`rounded-std border p-5 ${withdrawn ? 'border-oxblood bg-case' : 'border-line text-ink-soft'}`}>
            <h2 className="font-read text-[18px] font-semibold">2. Erase it for good</h2>
            <p className="mt-1 mb-3 text-ink-soft">
              {count(touched.observations, 'observation')}, their words, names and attributes, kept files and every trace in the trail are erased, and their
              quotes in what the team wrote. Backups made from then on hold nothing of it; earlier ones do, and are yours to destroy. Nobody can undo this.
            </p>
            {withdrawn && (
              <form onSubmit={submit}>
                {shared.length > 0 && (
                  <section aria-label="Shared with others" className="mb-3">
                    <h3 className="font-semibold">Others take part in these too</h3>
                    <p className="mb-1 text-[12.5px] text-ink-soft">
                      Until it is decided what becomes of them, nothing of them leaves. What nobody is known to have said is nobody’s afterwards.
                    </p>
                    {shared.map((s) => (
                      <SharedMaterial
                        key={s.id}
                        studyId={studyId}
                        source={s}
                        decision={decisions.find((d) => d.sourceId === s.id)}
                        onDecision={(decision) => setDecisions((all) => [...all.filter((d) => d.sourceId !== s.id), decision])}
                      />
                    ))}
                  </section>
                )}
                <Problem of={erase.error} />
                <TextField label={`Type ${person.code} to erase it`} value={code} onChange={(e) => setCode(e.target.value)} autoComplete="off" />
                <Button look="danger" type="submit" disabled={code.trim() === '' || undecided.length > 0 || erase.isPending}>
                  {erase.isPending ? 'Erasing …' : 'Erase for good'}
                </Button>
                {undecided.length > 0 && (
                  <p className="mt-1.5 text-[12.5px] text-ink-soft">
                    {undecided.length === 1 ? '1 source is' : `${undecided.length} sources are`} still to be decided.
                  </p>
                )}
              </form>
            )}
          </section>
        </div>
      </div>
    </div>
  );
}

function Touched({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-5">
      <h2 className="mb-1.5 border-b border-line pb-1 text-[13px] font-semibold text-ink-soft">{title}</h2>
      {Children.count(children) === 0 ? <p className="text-ink-soft">nothing of this kind</p> : <ul className="space-y-1.5">{children}</ul>}
    </section>
  );
}

function Rests({ title, theirs, all }: { title: ReactNode; theirs: number; all: number }) {
  return (
    <li>
      <span className="font-read text-[15.5px]">{title}</span>
      <span className={`block text-[12.5px] ${theirs === all ? 'font-semibold text-brass' : 'text-ink-soft'}`}>
        rests on them with {theirs} of {count(all, 'observation')}
        {theirs === all && ': nothing else is under it'}
      </span>
    </li>
  );
}
