import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { queries } from '@/api/queries';
import { QuoteWords } from '@/parts/QuoteWords';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { MakeInsight } from '@/shared/MakeInsight';
import { whoIs } from '@/parts/QuoteItem';
import { DisplayCard } from './DisplayCard';

/** The fifth room: the study's insights, each an object in its case. */
export function ShowPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { data: pages, error } = useQuery(queries.insights(studyId));
  const people = useQuery(queries.participants(studyId)).data?.people;
  const [making, setMaking] = useState(false);
  const navigate = useNavigate();
  if (!pages || !people) return <Waiting problem={error} />;
  const who = whoIs(people);
  const make = <Button onClick={() => setMaking(true)}>New insight</Button>;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[980px] px-5 py-6">
        <div className="mb-4 flex items-center justify-between">
          <h1 className="font-read text-xl font-semibold">Insights</h1>
          <div className="flex items-center gap-3">
            <Link to="/exhibits" className="text-sky hover:underline">
              Exhibits that show them
            </Link>
            {pages.length > 0 && make}
          </div>
        </div>
        {pages.length === 0 && (
          <Empty title="No insight yet" sample="“By the time the app says “cancelled”, foot passengers are already on the quay”" action={make}>
            An insight is a finding in one sentence with the words it rests on. The quickest way: choose observations at the sorting table or in any evidence
            drawer, and “Make an insight”.
          </Empty>
        )}
        <ul className="space-y-5">
          {pages.map((page) => {
            const quote = page.evidence.find((e) => e.stance === 'supports' && e.quote.starred) ?? page.evidence.find((e) => e.stance === 'supports');
            return (
              <li key={page.insight.id}>
                <DisplayCard
                  headline={
                    <Link to="/studies/$studyId/show/$insightId" params={{ studyId, insightId: page.insight.id }} className="hover:underline">
                      {page.insight.headline}
                    </Link>
                  }
                  facts={page.facts}
                  people={people}
                  breadth={page.breadth}
                  outOf={page.breadth.outOf}
                  newest={page.newestEvidence}
                >
                  {quote && (
                    <blockquote className="mt-3 border-l-[3px] border-verdigris pl-3.5">
                      <p className="line-clamp-2 font-read text-[15.5px] italic">
                        <QuoteWords quote={quote.quote} />
                      </p>
                      <footer className="mt-0.5 text-[12.5px] text-ink-soft">{who(quote.quote.participantId)}</footer>
                    </blockquote>
                  )}
                </DisplayCard>
              </li>
            );
          })}
        </ul>
      </div>
      {making && (
        <MakeInsight
          studyId={studyId}
          observationIds={[]}
          onClose={() => setMaking(false)}
          onMade={(insightId) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId } })}
        />
      )}
    </div>
  );
}
