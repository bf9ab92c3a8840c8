import { useQueries, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { useTagLook } from '@/parts/useTagLook';
import { TagDot } from '@/parts/TagLabel';
import { Waiting } from '@/parts/Empty';
import { QuoteWords } from '@/parts/QuoteWords';
import { count, ofPeople } from '@/parts/words';
import { useGone } from '@/shared/useGone';
import { AboutTag } from './AboutTag';
import { useTagActions } from './useTagActions';

const none: readonly never[] = [];

/** A tag in all studies: how broad it is in each, and the quote that says it best there. */
export function AcrossPage() {
  const { tagId } = useParams({ from: '/team/tags/$tagId' });
  const { data: across, error } = useQuery(queries.tagAcross(tagId));
  const tags = useQuery(queries.tagSet()).data;
  const look = useTagLook(tags);
  const told = useQueries({ queries: (across?.studies ?? []).map((s) => queries.tellingQuotes(s.studyId, tagId)) });
  const tag = tags?.find((t) => t.id === tagId);
  const navigate = useNavigate();
  const { acts, dialogs } = useTagActions({ tag, tags: tags ?? none, studyId: undefined, at: 'across' });
  useGone(tags && tag !== undefined, () => void navigate({ to: '/tags' }));
  if (!across || !tags) return <Waiting problem={error} />;
  if (!tag) return <Waiting problem={new Error('There is no such tag any more.')} />;
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[940px] px-6 py-8">
        <div className="flex items-baseline gap-4">
          <h1 className="flex items-baseline gap-2.5 font-read text-[26px] font-semibold">
            <TagDot look={look(tagId)} />
            {tag.name}
          </h1>
          <span className="text-[13px] text-ink-soft">{tag.studyId === null ? 'every study shares it' : 'of one study'}</span>
          <Link to="/tags" search={{ tag: tagId }} className="ml-auto text-sky hover:underline">
            Tag set
          </Link>
        </div>
        {acts && <AboutTag tag={tag} tags={tags} acts={acts} />}
        {dialogs}
        {across.studies.length === 0 ? (
          <p className="mt-6 text-ink-soft">No study that you see uses it.</p>
        ) : (
          <table className="mt-5 w-full text-left text-[13.5px]">
            <thead className="border-b border-line text-[12.5px] text-ink-soft">
              <tr>
                <th className="py-1 font-normal">Study</th>
                <th className="py-1 font-normal">People</th>
                <th className="py-1 font-normal">Observations</th>
                <th className="py-1 font-normal">One that tells</th>
              </tr>
            </thead>
            <tbody>
              {across.studies.map((s, i) => {
                const quote = told[i]?.data?.examples[0] ?? told[i]?.data?.telling[0]?.quote;
                return (
                  <tr key={s.studyId} className="border-b border-line align-top">
                    <td className="py-2.5 pr-4">
                      <Link to="/studies/$studyId/tags/$tagId" params={{ studyId: s.studyId, tagId }} className="font-medium hover:underline">
                        {s.study}
                      </Link>
                    </td>
                    <td className="py-2.5 pr-4 whitespace-nowrap">{ofPeople(s.triple.people, s.outOf)}</td>
                    <td className="py-2.5 pr-4 whitespace-nowrap">
                      {count(s.triple.observations, 'observation')} in {count(s.triple.sources, 'source')}
                    </td>
                    <td className="py-2.5 font-read text-[15px] leading-[22px]">{quote && <QuoteWords quote={quote} />}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
        {across.studies.length > 1 && <p className="mt-2 text-[12.5px] text-ink-soft">Who took part in several studies is counted in each.</p>}
        {across.otherStudies > 0 && (
          <p className="mt-2 text-[12.5px] text-ink-soft">{count(across.otherStudies, 'study', 'studies')} that you do not see use it too.</p>
        )}
      </div>
    </main>
  );
}
