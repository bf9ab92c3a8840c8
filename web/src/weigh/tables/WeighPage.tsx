import { useTagUses } from '@/shared/useTagUses';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearch } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Empty, Waiting } from '@/parts/Empty';
import { useTagLook } from '@/parts/useTagLook';
import { count } from '@/parts/words';
import { asQuery } from '@/shared/filter/where';
import { FilterLine } from '@/shared/filter/FilterLine';
import { useWhere } from '@/shared/filter/useWhere';
import { useEvidence } from '@/shared/useEvidence';
import { CrossTable } from './CrossTable';
import { OverlapGrid } from './OverlapGrid';

const views = [
  { view: undefined, name: 'Tags by source' },
  { view: 'participants', name: 'Tags by participant' },
  { view: 'overlaps', name: 'Overlaps' },
] as const;

/** The fourth room: how strong the evidence is, in people before mentions. Every cell opens the words behind it. */
export function WeighPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { view, overlap } = useSearch({ from: '/team/studies/$studyId/weigh' });
  const { tags, error } = useTagUses(studyId);
  const participants = useQuery(queries.participants(studyId)).data;
  const look = useTagLook(tags?.map((t) => t.tag));
  const { evidence } = useEvidence();
  const { where, setWhere } = useWhere();
  const unseen = useQuery(queries.table(studyId, view === 'participants' ? view : 'sources', asQuery(where))).data?.notReviewed ?? 0;
  if (!tags || !participants) return <Waiting problem={error} />;
  const used = tags.some((t) => t.breadth.triple.observations > 0);
  return (
    <div className={`h-full overflow-auto px-5 pt-4 pb-10 ${evidence ? 'pr-[412px]' : ''}`}>
      <nav aria-label="Tables" className="mb-4 flex gap-6">
        {views.map((v) => (
          <Link
            key={v.name}
            to="/studies/$studyId/weigh"
            params={{ studyId }}
            search={{ ...(v.view && { view: v.view }), ...(where && { where }) }}
            className={`min-h-7 border-b-2 pb-1 text-[14px] ${view === v.view ? 'border-verdigris font-semibold' : 'border-transparent text-ink-soft hover:text-ink'}`}
            aria-current={view === v.view ? 'page' : undefined}
          >
            {v.name}
          </Link>
        ))}
        <Link
          to="/studies/$studyId/weigh/agreement"
          params={{ studyId }}
          className="min-h-7 border-b-2 border-transparent pb-1 text-[14px] text-ink-soft hover:text-ink"
        >
          Agreement
        </Link>
      </nav>
      {used && (
        <div className="mb-4 border-b border-line pb-2">
          <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
            <span>Observations</span>
          </FilterLine>
          {unseen > 0 && (
            <p className="mt-1 text-[12.5px] text-brass">
              {count(unseen, 'observation')} in these tables {unseen === 1 ? 'was' : 'were'} found by a search and not reviewed.{' '}
              <button type="button" className="min-h-6 text-sky hover:underline" onClick={() => setWhere({ ...where, reviewed: true })}>
                Leave them out
              </button>
            </p>
          )}
        </div>
      )}
      {!used ? (
        <Empty title="Nothing to weigh yet" sample="“too late to act: 6 of 9 people, 11 observations, 7 sources”">
          As soon as words are marked with tags, this shows who said it, out of how many, and what occurs together.
        </Empty>
      ) : view === 'overlaps' ? (
        <OverlapGrid studyId={studyId} kind={overlap ?? 'sameObservation'} tags={tags} look={look} where={where} />
      ) : (
        <CrossTable studyId={studyId} columns={view ?? 'sources'} tags={tags} participants={participants} look={look} where={where} />
      )}
    </div>
  );
}
