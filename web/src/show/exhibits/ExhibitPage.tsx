import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { api, ask, type Schemas } from '@/api/client';
import { textAt } from '@/api/waiting/writeTo';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { AutoText } from '@/shared/AutoText';
import { isThere, useGone } from '@/shared/useGone';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Level } from '@/parts/Level';
import { TrailButton } from '@/trail/Trail';
import { QuoteWords } from '@/parts/QuoteWords';
import { count, ofPeople } from '@/parts/words';
import { CoveredWords } from './CoveredWords';
import { ExhibitLinks } from './ExhibitLinks';

/** Which of an insight's quotes readers are not shown, and why that may be. */
function KeptInTeam({ evidence, shown }: { evidence: readonly Schemas['EvidenceQuote'][]; shown: readonly string[] }) {
  const kept = evidence.filter((e) => e.stance !== 'context' && !shown.includes(e.key));
  if (kept.length === 0) return null;
  return (
    <details className="mt-2 text-[12.5px]">
      <summary className="min-h-6 cursor-pointer text-brass">Readers are not shown {count(kept.length, 'quote')}</summary>
      <p className="mt-1 text-ink-soft">
        Who said it has not agreed, or it is not known who did: a speaker who is matched to nobody, feedback without a sender, words that a correction took
        away.
      </p>
      <ul className="mt-1 space-y-1.5">
        {kept.map((e) => (
          <li key={e.key} className="border-l-2 border-line pl-2.5 font-read text-[14px] leading-snug">
            <QuoteWords quote={e.quote} />
          </li>
        ))}
      </ul>
    </details>
  );
}

const leftOutBecause: Record<Schemas['Consent'], string> = {
  asked: 'asked, and no answer is noted',
  given: '',
  limited: 'wants the words kept in the team',
  withdrawn: 'has withdrawn',
};

/** Whose words readers are not shown; who has agreed meanwhile is let out in one step. */
function LeftOut({ people }: { people: readonly Schemas['LeftOut'][] }) {
  const agree = useWrite(({ studyId, participantIds }: { studyId: number; participantIds: number[] }) =>
    ask(api.PUT('/api/studies/{studyId}/participants/consent', { params: { path: { studyId } }, body: { participantIds, consent: 'given' } })),
  );
  if (people.length === 0) return null;
  const asked = people.filter((p) => p.consent === 'asked');
  const studies = [...new Set(asked.map((p) => p.studyId))];
  return (
    <section aria-label="Whose words are left out" className="mt-7">
      <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">Whose words are left out</h2>
      <ul className="rounded-std border border-line bg-case">
        {people.map((p) => (
          <li key={p.participantId} className="flex min-h-10 flex-wrap items-center gap-x-3 border-b border-line px-4 py-1.5 text-[13px] last:border-b-0">
            <Link
              to="/studies/$studyId/gather/people/$personId"
              params={{ studyId: p.studyId, personId: p.participantId }}
              className="font-semibold hover:underline"
            >
              {p.pseudonym}
            </Link>
            <span className="text-ink-soft">
              {leftOutBecause[p.consent]} · {count(p.quotes, 'quote')}
            </span>
            {p.consent === 'asked' && (
              <Button
                className="ml-auto !min-h-7 !px-2.5"
                aria-label={`${p.pseudonym} has agreed`}
                onClick={() => agree.mutate({ studyId: p.studyId, participantIds: [p.participantId] })}
              >
                Has agreed
              </Button>
            )}
          </li>
        ))}
      </ul>
      {asked.length > 1 && studies.length === 1 && (
        <Button className="mt-2" onClick={() => agree.mutate({ studyId: studies[0]!, participantIds: asked.map((p) => p.participantId) })}>
          All {asked.length} have agreed
        </Button>
      )}
    </section>
  );
}

/** The team's side of an exhibit: its question and summary, its insights in order, and its links. */
export function ExhibitPage() {
  const { exhibitId } = useParams({ from: '/team/exhibits/$exhibitId' });
  const { data: page, error } = useQuery(queries.exhibit(exhibitId));
  const all = useQuery(queries.insights()).data ?? [];
  const studies = useQuery(queries.studies()).data ?? [];
  const navigate = useNavigate();
  const path = { id: exhibitId };
  const arrange = useWrite((insightIds: number[]) => ask(api.PUT('/api/exhibits/{id}/insights', { params: { path }, body: { insightIds } })), { quiet: true });
  const remove = useWrite(() => ask(api.DELETE('/api/exhibits/{id}', { params: { path } })));
  const leave = () => void navigate({ to: '/exhibits' });
  useGone(remove.isIdle ? isThere(page, error) : undefined, leave);
  if (!page) return <Waiting problem={error} />;
  const ids = page.insights.map((i) => i.insight.id);
  const others = all.filter((i) => !ids.includes(i.insight.id));
  const studyOf = (id: number) => studies.find((s) => s.id === id)?.title ?? '';
  const move = (at: number, by: number) => {
    const next = [...ids];
    next.splice(at + by, 0, ...next.splice(at, 1));
    arrange.mutate(next);
  };
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto grid max-w-[1120px] grid-cols-[minmax(0,1fr)_310px] gap-x-12 px-6 py-8">
        <div>
          <AutoText
            label="Question"
            value={page.exhibit.question}
            className="font-read text-[28px] leading-[1.25] font-semibold"
            path={textAt('/api/exhibits/{id}/question', { id: exhibitId })}
            what="Question of an exhibit"
          />
          <div className="mt-4 mb-8">
            <AutoText
              label="Summary"
              rows={2}
              value={page.exhibit.summary}
              placeholder="The answer in two or three sentences."
              className="font-read text-[17px] leading-[1.55]"
              path={textAt('/api/exhibits/{id}/summary', { id: exhibitId })}
              what={`Summary of “${page.exhibit.question}”`}
            />
          </div>
          <h2 className="mb-2 text-[13px] font-semibold text-ink-soft">Insights on show, in this order</h2>
          {ids.length === 0 && (
            <p className="rounded-std border border-dashed border-line px-5 py-6 text-center text-ink-soft">Choose insights from the list on the right.</p>
          )}
          <ol className="space-y-2.5">
            {page.insights.map((shown, i) => (
              <li key={shown.insight.id} className="flex items-start gap-3 rounded-std border border-line bg-case px-4 py-3">
                <span className="flex flex-col">
                  <button
                    type="button"
                    aria-label="Move up"
                    disabled={i === 0}
                    onClick={() => move(i, -1)}
                    className="size-6 text-ink-soft disabled:opacity-30"
                  >
                    <ArrowUp className="mx-auto size-4" />
                  </button>
                  <button
                    type="button"
                    aria-label="Move down"
                    disabled={i === ids.length - 1}
                    onClick={() => move(i, 1)}
                    className="size-6 text-ink-soft disabled:opacity-30"
                  >
                    <ArrowDown className="mx-auto size-4" />
                  </button>
                </span>
                <span className="min-w-0 flex-1">
                  <Link
                    to="/studies/$studyId/show/$insightId"
                    params={{ studyId: shown.insight.studyId, insightId: shown.insight.id }}
                    className="block font-read text-[17px] leading-snug font-semibold hover:underline"
                  >
                    {shown.insight.headline}
                  </Link>
                  <span className="mt-1 flex flex-wrap gap-3 text-[12.5px] text-ink-soft">
                    <Level of={shown.facts.level} />
                    <span>{ofPeople(shown.facts.peopleFor, shown.breadth.outOf)}</span>
                    <span>{studyOf(shown.insight.studyId)}</span>
                  </span>
                  <KeptInTeam evidence={shown.evidence} shown={page.shownToReaders} />
                </span>
                <button
                  type="button"
                  aria-label="Take it out of the exhibit"
                  className="size-6 text-ink-soft hover:text-oxblood"
                  onClick={() => arrange.mutate(ids.filter((id) => id !== shown.insight.id))}
                >
                  <X className="mx-auto size-4" />
                </button>
              </li>
            ))}
          </ol>
          <LeftOut people={page.leftOut} />
          <CoveredWords covered={page.covered} />
        </div>
        <aside>
          <ExhibitLinks exhibitId={exhibitId} links={page.links} />
          <section aria-label="Insights to add" className="mt-7">
            <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">Insights to add</h2>
            {others.length === 0 && <p className="text-[13px] text-ink-soft">All insights there are stand in it.</p>}
            <ul>
              {others.map((other) => (
                <li key={other.insight.id} className="flex items-start gap-2 border-t border-line py-2">
                  <span className="min-w-0 flex-1">
                    <span className="block font-read text-[14.5px] leading-snug">{other.insight.headline}</span>
                    <span className="text-[12px] text-ink-soft">{studyOf(other.insight.studyId)}</span>
                  </span>
                  <Button
                    className="!min-h-7 !px-2.5"
                    aria-label={`Add “${other.insight.headline}”`}
                    onClick={() => arrange.mutate([...ids, other.insight.id])}
                  >
                    Add
                  </Button>
                </li>
              ))}
            </ul>
          </section>
          <p className="mt-6 flex items-center">
            <Button look="quiet" className="hover:!text-oxblood" onClick={() => remove.mutate(undefined, { onSuccess: leave })}>
              Remove the exhibit
            </Button>
            <TrailButton of={{ thing: 'exhibit', id: exhibitId, name: page.exhibit.question }} className="ml-auto" />
          </p>
        </aside>
      </div>
    </main>
  );
}
