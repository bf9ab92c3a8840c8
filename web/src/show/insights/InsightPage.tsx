import { WhoWasAsked } from '@/shared/WhoWasAsked';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useRef } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { textAt } from '@/api/waiting/writeTo';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { AutoText } from '@/shared/AutoText';
import { AutoRichText } from '@/shared/richTexts/AutoRichText';
import type { EditorHandle } from '@/shared/richTexts/RichTextEditor';
import { isThere, useGone } from '@/shared/useGone';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Level } from '@/parts/Level';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import type { RichBlock } from '@/parts/richText';
import { TrailButton } from '@/trail/Trail';
import { useTagLook } from '@/parts/useTagLook';
import { stanceWords } from '@/parts/words';
import { factWords } from '@/parts/factWords';
import { InsightAttachments } from './InsightAttachments';

const stances = ['supports', 'contradicts', 'context'] as const;
const headings = { supports: 'Supports it', contradicts: 'Says otherwise', context: 'Context' };
const edges = { supports: 'border-verdigris', contradicts: 'border-oxblood', context: 'border-line' };

/** One insight: its headline and story, its evidence by stance, and what the level is made of. */
export function InsightPage() {
  const { studyId, insightId } = useParams({ from: '/team/studies/$studyId/show/$insightId' });
  const { data: page, error } = useQuery(queries.insight(insightId));
  const people = useQuery(queries.participants(studyId)).data?.people;
  const tags = useQuery(queries.tags(studyId)).data;
  const look = useTagLook(tags);
  const navigate = useNavigate();
  const path = { id: insightId };
  const story = useRef<EditorHandle>(null);
  const setStance = useWrite(
    (given: { evidenceId: number; stance: Schemas['Stance'] }) =>
      ask(api.PUT('/api/insights/{id}/evidence/{evidenceId}', { params: { path: { ...path, evidenceId: given.evidenceId } }, body: { stance: given.stance } })),
    { quiet: true },
  );
  const detach = useWrite((evidenceId: number) => ask(api.DELETE('/api/insights/{id}/evidence/{evidenceId}', { params: { path: { ...path, evidenceId } } })));
  const remove = useWrite(() => ask(api.DELETE('/api/insights/{id}', { params: { path } })));
  const leave = () => void navigate({ to: '/studies/$studyId/show', params: { studyId } });
  useGone(remove.isIdle ? isThere(page, error) : undefined, leave);
  if (!page || !people) return <Waiting problem={error} />;
  const who = whoIs(people);
  const { insight, facts, breadth } = page;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto grid max-w-[1180px] grid-cols-[minmax(0,1fr)_290px] gap-x-12 px-5 py-6">
        <div>
          <AutoText
            key={`h${insightId}`}
            label="Headline"
            value={insight.headline}
            className="font-read text-[26px] leading-[1.25] font-semibold"
            path={textAt('/api/insights/{id}/headline', { id: insightId })}
            what="Headline of an insight"
          />
          <p className="mt-2 mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13.5px] text-ink-soft">
            <Level of={facts.level} />
            <PeopleStrip people={people} breadth={breadth} large />
            {factWords(facts, breadth.outOf, page.newestEvidence).map((words) => (
              <span key={words}>{words}</span>
            ))}
          </p>
          <AutoRichText
            key={`s${insightId}`}
            label="Story"
            value={insight.story}
            placeholder="Its story in a few sentences: what happens, to whom, what follows from it."
            className="min-h-[6em] py-1 font-read text-[16.5px] leading-[1.6]"
            path={textAt('/api/insights/{id}/story', { id: insightId })}
            what={`Story of “${insight.headline}”`}
            handle={story}
            embedded={(block) => <InStory block={block} quotes={[...page.evidence.map((e) => e.quote), ...page.quoted]} who={who} studyId={studyId} />}
          />
          {page.evidence.length === 0 && (
            <p className="mt-8 rounded-std border border-dashed border-line px-5 py-6 text-center text-ink-soft">
              No evidence yet. Open any number, label or theme, choose the words that bear on this, and attach them.
            </p>
          )}
          {stances.map((stance) => {
            const pieces = page.evidence.filter((e) => e.stance === stance);
            if (pieces.length === 0) return null;
            return (
              <section key={stance} aria-label={headings[stance]} className="mt-7">
                <h2 className="mb-2 text-[13px] font-semibold text-ink-soft">
                  {headings[stance]}, {pieces.length}
                </h2>
                <ul className="space-y-2.5">
                  {pieces.map((e) => (
                    <li key={e.id} className={`flex items-start gap-4 border-l-[3px] bg-case py-2.5 pr-3 pl-4 ${edges[stance]}`}>
                      <div className="min-w-0 flex-1">
                        <QuoteItem quote={e.quote} who={who(e.quote.participantId)} studyId={studyId} look={look} />
                      </div>
                      <div className="flex w-[112px] shrink-0 flex-col items-end gap-1">
                        <select
                          aria-label="Stance"
                          value={e.stance}
                          onChange={(event) => setStance.mutate({ evidenceId: e.id, stance: event.target.value as Schemas['Stance'] })}
                          className="min-h-7 w-full rounded-std border border-line bg-case px-1.5 text-[12.5px]"
                        >
                          {stances.map((s) => (
                            <option key={s} value={s}>
                              {stanceWords[s]}
                            </option>
                          ))}
                        </select>
                        <button
                          type="button"
                          className="min-h-6 text-[12px] text-sky hover:underline"
                          onClick={() => story.current?.insert({ type: 'quote', thing: 'observation', id: e.quote.observationId, caption: '' })}
                        >
                          quote in the story
                        </button>
                        <button type="button" className="min-h-6 text-[12px] text-ink-soft hover:text-oxblood" onClick={() => detach.mutate(e.id)}>
                          remove
                        </button>
                      </div>
                    </li>
                  ))}
                </ul>
              </section>
            );
          })}
        </div>
        <aside aria-label="What the level is made of" className="text-[13px]">
          <section className="rounded-std border border-line bg-case p-4">
            <h2 className="mb-2 font-semibold">What it rests on</h2>
            <dl className="grid grid-cols-[1fr_auto] gap-y-1">
              <Fact name="People for" value={`${facts.peopleFor} of ${breadth.outOf}`} />
              <Fact name="People against" value={String(facts.peopleAgainst)} />
              <Fact name="Observations in support" value={String(facts.supporting)} />
              <Fact name="Sources" value={String(facts.sources)} />
              <Fact name="Kinds of source" value={String(facts.kinds)} />
              <Fact name="Largest share of one person" value={`${Math.round(facts.largestShare * 100)} %`} />
              {facts.unattributed > 0 && <Fact name="Unattributed" value={String(facts.unattributed)} />}
            </dl>
            {breadth.interval && (
              <p className="mt-2 border-t border-line pt-2 text-[12px] text-ink-soft">
                {Math.round(breadth.interval.share * 100)} % of those asked; in everyone like them, anywhere from {Math.round(breadth.interval.low * 100)} to{' '}
                {Math.round(breadth.interval.high * 100)} % (95 % interval).
              </p>
            )}
          </section>
          {page.silentGroups.length > 0 && (
            <section className="mt-5">
              <h2 className="mb-1 font-semibold">Not heard</h2>
              <ul className="text-ink-soft">
                {page.silentGroups.slice(0, 8).map((g) => (
                  <li key={`${g.attribute}${g.value}`}>
                    {g.attribute}: {g.value} ({g.people})
                  </li>
                ))}
              </ul>
            </section>
          )}
          {page.evidence.some(({ quote }) => quote.anchor.kind === 'time' || /^(audio|video)\//.test(quote.mediaType ?? '')) && (
            <section className="mt-5">
              <h2 className="mb-1 font-semibold">Seen and heard</h2>
              <a download href={`/api/insights/${insightId}/film`} className="inline-block min-h-6 text-sky hover:underline">
                Save its clips as one film
              </a>
              <p className="text-[12px] text-ink-soft">With a card before each, protected as readers get them.</p>
            </section>
          )}
          <InsightAttachments studyId={studyId} insightId={insightId} />
          <WhoWasAsked studyId={studyId} thing="insight" id={insightId} people={people} notAsked={page.notAsked} />
          <div className="mt-6 flex items-center justify-between border-t border-line pt-3">
            <Link to="/studies/$studyId/show" params={{ studyId }} className="text-sky hover:underline">
              All insights
            </Link>
            <TrailButton of={{ thing: 'insight', id: insightId, name: insight.headline }} className="ml-auto" />
            <Button look="quiet" className="hover:!text-oxblood" onClick={() => remove.mutate(undefined, { onSuccess: leave })}>
              Remove
            </Button>
          </div>
        </aside>
      </div>
    </div>
  );
}

interface InStoryProps {
  block: RichBlock;
  quotes: readonly Schemas['Quote'][];
  who: (id: number | null) => string;
  studyId: number;
}

/** What stands in the story, as it is now. */
function InStory({ block, quotes, who, studyId }: InStoryProps) {
  const quote = block.thing === 'observation' ? quotes.find((q) => q.observationId === block.id) : undefined;
  if (!quote) return <p className="border-l-[3px] border-brass pl-4 text-[13px] text-ink-soft">Something stood here that was removed. Undo brings it back.</p>;
  return (
    <blockquote className="border-l-[3px] border-line pl-4">
      <QuoteItem quote={quote} who={who(quote.participantId)} studyId={studyId} />
      {block.caption !== '' && <p className="text-[13px]">{block.caption}</p>}
    </blockquote>
  );
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-ink-soft">{name}</dt>
      <dd className="text-right font-medium">{value}</dd>
    </>
  );
}
