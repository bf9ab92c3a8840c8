import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { isBundle } from '@/parts/bundles';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { whoIs } from '@/parts/QuoteItem';
import { QuoteWords } from '@/parts/QuoteWords';
import { useSettled } from '@/parts/useSettled';
import { count, day } from '@/parts/words';
import { Members } from './bundles/Members';
import type { EditedTag } from './edited';
import { above } from './outline';
import type { TagActs } from './actions';
import { TagActions } from './useTagActions';

interface Props {
  tag: EditedTag;
  tags: readonly EditedTag[];
  studyId: number | undefined;
  people: readonly Schemas['Participant'][];
  acts: TagActs;
  /** Lights another tag or bundle. */
  onFocus: (id: number) => void;
}

const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <p className="mb-1.5 text-[13px]">
    <span className="text-ink-soft">{name}</span> {children}
  </p>
);

/** A quote that was picked as its example, or the one that says it best. */
function Example({ studyId, tagId, people }: { studyId: number; tagId: number; people: readonly Schemas['Participant'][] }) {
  // Whoever walks through the tags by keys asks for none on the way.
  const settled = Number(useSettled(`${tagId}`, 250));
  const told = useQuery({ ...queries.tellingQuotes(studyId, settled), enabled: settled === tagId }).data;
  const quote = settled === tagId ? (told?.examples[0] ?? told?.telling[0]?.quote) : undefined;
  if (!quote) return null;
  return (
    <p className="mb-3 border-l-2 border-line pl-3 font-read text-[15px] leading-[23px] wrap-anywhere">
      <QuoteWords quote={quote} /> <span className="font-use text-[12px] text-ink-soft">{whoIs(people)(quote.participantId)}</span>
    </p>
  );
}

/** What a tag means and how broad it is, like an entry of a dictionary. */
export function TagDetail({ tag, tags, studyId, people, acts, onFocus }: Props) {
  const reach = useQuery(queries.reachOf(tag.id)).data;
  const proposals = useQuery(queries.tagProposals()).data ?? [];
  const bundles = tags.filter((b) => b.members?.includes(tag.id));
  const proposal = proposals.find((o) => o.tagId === tag.id);
  const names = above(tags, tag).map((t) => t.name);
  const unseen = reach ? reach.studies - reach.seen.length : 0;
  return (
    <section aria-label={`About ${tag.name}`}>
      <h2 className="font-read text-[22px] leading-tight font-semibold wrap-anywhere">{tag.name}</h2>
      <p className="mt-1 mb-4 text-[12.5px] text-ink-soft">
        {tag.retired ? 'Retired' : isBundle(tag) ? 'A bundle' : tag.settled ? 'Settled' : 'Draft'}, made by {tag.madeBy} on {day(tag.madeAt)}.
        {names.length > 0 && ` Under ${names.join(', under ')}.`}
      </p>
      {tag.definition === '' ? (
        <p className="mb-3 text-brass">{isBundle(tag) ? 'Nobody has said yet what it is for.' : 'Nobody has said yet what it is.'}</p>
      ) : (
        <p className="mb-1 font-read text-[16px] leading-[25px] wrap-anywhere">
          <i>{isBundle(tag) ? 'What it is for.' : 'What it is.'}</i> {tag.definition}
        </p>
      )}
      {tag.isNot !== '' && (
        <p className="mb-3 font-read text-[16px] leading-[25px] wrap-anywhere">
          <i>What it is not.</i> {tag.isNot}
        </p>
      )}
      {isBundle(tag) && <Members bundle={tag} tags={tags} onOpen={onFocus} />}
      {studyId !== undefined && tag.breadth && tag.breadth.triple.observations > 0 && <Example studyId={studyId} tagId={tag.id} people={people} />}
      {tag.breadth && (
        <p className="mt-3 mb-3 flex flex-wrap items-center gap-2 text-[13px]">
          <PeopleStrip people={people} breadth={tag.breadth} />
          {count(tag.breadth.triple.people, 'person', 'people')}, {count(tag.breadth.triple.observations, 'observation')} in{' '}
          {count(tag.breadth.triple.sources, 'source')}
        </p>
      )}
      <div className="mt-3">
        {tag.aliases.length > 0 && <Line name="also called">{tag.aliases.join(', ')}</Line>}
        {bundles.length > 0 && (
          <Line name="in bundles">
            {bundles.map((b, i) => (
              <span key={b.id}>
                {i > 0 && ', '}
                <button type="button" className="min-h-6 hover:underline" onClick={() => onFocus(b.id)}>
                  {b.name}
                </button>
              </span>
            ))}
          </Line>
        )}
        {tag.scale && (
          <Line name="scale">
            {tag.scale.least} to {tag.scale.most}
          </Line>
        )}
        {proposal && proposal.outcome !== 'merged' && (
          <Line name="proposed">
            {proposal.outcome === null
              ? 'to the shared set; the steward has not answered yet'
              : proposal.outcome === 'declined'
                ? `to the shared set, and left to its study: ${proposal.answer}`
                : `by ${proposal.study}, and accepted`}{' '}
            <Link to="/tags/proposals" className="text-sky hover:underline">
              Proposals
            </Link>
          </Line>
        )}
        {reach && reach.studies > 0 && <Line name="in studies">{[...reach.seen, ...(unseen > 0 ? [`${unseen} that you do not see`] : [])].join(', ')}</Line>}
        <Line name="last used">{tag.lastUsedAt ? day(tag.lastUsedAt) : 'never'}</Line>
      </div>
      <div className="mt-4">
        <TagActions acts={acts} tag={tag} />
      </div>
    </section>
  );
}
