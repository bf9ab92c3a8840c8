import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import { textAt } from '@/api/waiting/writeTo';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { Level } from '@/parts/Level';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { whoIs } from '@/parts/QuoteItem';
import { QuoteWords } from '@/parts/QuoteWords';
import { useTagLook } from '@/parts/useTagLook';
import { clock, count, ofPeople } from '@/parts/words';
import { AutoText } from '@/shared/AutoText';
import { FilterLine } from '@/shared/filter/FilterLine';
import { asQuery } from '@/shared/filter/where';
import { useWhere } from '@/shared/filter/useWhere';
import { claimOf } from '@/shared/claim';
import { Piece } from './Piece';
import { inTree } from './place';
import { SortingViews } from './SortingViews';
import { useFolded } from './useFolded';
import { usePieces } from './usePieces';

/** So many quotes of each theme stand in the outline; its page has all. */
const quotesOfEach = 20;

/** The sorting table as a text: themes in their order, folded or with their words, edited in place, printed. */
export function OutlinePage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId' });
  const { where, setWhere } = useWhere();
  const { data: table, error } = useQuery({ ...queries.sorting(studyId, { ...asQuery(where), quotes: quotesOfEach }), placeholderData: keepPreviousData });
  const people = useQuery(queries.participants(studyId)).data?.people;
  const study = useQuery(queries.study(studyId)).data;
  const look = useTagLook(useQuery(queries.tags(studyId)).data);
  const [quoting, setQuoting] = useState(true);
  const { folded, fold } = useFolded(studyId);
  const { onFocus, takeOut } = usePieces();
  if (!table || !people || !study) return <Waiting problem={error} />;
  const who = whoIs(people);
  const views = new Map(table.themes.map((view) => [view.theme.id, view]));
  const shown = inTree(table.themes.map((view) => view.theme));
  // What stands under something folded is not shown.
  const hidden = new Set<number>();
  for (const { theme } of shown) if (theme.parentId !== null && (folded.has(theme.parentId) || hidden.has(theme.parentId))) hidden.add(theme.id);
  return (
    <div className="h-full overflow-y-auto">
      <div className="border-b border-line px-5 py-1.5 print:hidden">
        <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
          <span>Counted: observations</span>
        </FilterLine>
      </div>
      <div className="mx-auto max-w-[860px] px-5 py-4">
        <div className="mb-4 flex items-center gap-4 text-[13px] print:hidden">
          <SortingViews studyId={studyId} at="outline" />
          <label className="ml-auto flex min-h-8 items-center gap-2 text-ink-soft">
            <input type="checkbox" checked={quoting} onChange={(e) => setQuoting(e.target.checked)} className="size-4 accent-verdigris" />
            with quotes
          </label>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
        <h1 className="mb-4 hidden font-read text-[24px] font-semibold print:block">{study.line.title}: themes</h1>
        {shown.length === 0 && (
          <Empty title="No theme yet" sample="“People learn of a cancelled sailing when it is too late to act.”">
            Themes are made at the sorting table; here they are read from top to bottom.
          </Empty>
        )}
        <ol>
          {shown.map(({ theme, level }) => {
            if (hidden.has(theme.id)) return null;
            const { facts, breadth, quotes } = views.get(theme.id)!;
            const held = facts.supporting + facts.contradicting + facts.context;
            const shut = folded.has(theme.id);
            return (
              <li key={theme.id} aria-level={level + 1} className="mb-5 print:mb-4" style={{ marginLeft: level * 28 }}>
                <div className="flex items-start gap-1 break-after-avoid">
                  <button
                    type="button"
                    aria-expanded={!shut}
                    aria-label={`${shut ? 'Unfold' : 'Fold'} ${claimOf(theme)}`}
                    className="mt-1 -ml-9 mr-2 grid size-6 shrink-0 place-items-center text-ink-soft hover:text-ink print:hidden"
                    onClick={() => fold(theme.id)}
                  >
                    {shut ? <ChevronRight className="size-4" /> : <ChevronDown className="size-4" />}
                  </button>
                  <div className="min-w-0 flex-1">
                    <AutoText
                      label={`Claim of ${claimOf(theme)}`}
                      value={theme.title}
                      placeholder="What its observations claim together"
                      className={`font-read leading-[1.3] font-semibold ${level === 0 ? 'text-[20px]' : 'text-[17px]'}`}
                      path={textAt('/api/themes/{id}/title', { id: theme.id })}
                      what="Claim of a theme"
                    />
                    {!shut && (
                      <AutoText
                        label={`Description of ${claimOf(theme)}`}
                        value={theme.description}
                        placeholder="What it means, in a sentence or two"
                        className="font-read text-[15.5px] leading-[1.55]"
                        path={textAt('/api/themes/{id}/description', { id: theme.id })}
                        what={`Description of “${claimOf(theme)}”`}
                      />
                    )}
                    <p className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px] text-ink-soft">
                      <PeopleStrip people={people} breadth={breadth} />
                      <span>
                        {ofPeople(breadth.triple.people, breadth.outOf)}
                        {facts.peopleAgainst > 0 && `, ${facts.peopleAgainst} against`}, {count(held, 'observation')}
                      </span>
                      <Level of={facts.level} />
                      {theme.tagIds.length > 0 && <span>tags: {theme.tagIds.map((id) => look(id).name).join(', ')}</span>}
                      <Link
                        to="/studies/$studyId/sort/themes/$themeId"
                        params={{ studyId, themeId: theme.id }}
                        className="inline-flex min-h-6 items-center text-sky hover:underline print:hidden"
                      >
                        its page
                      </Link>
                    </p>
                  </div>
                </div>
                {!shut && quoting && quotes.length > 0 && (
                  <ul className="mt-1">
                    {quotes.map((piece) => (
                      <li key={piece.quote.observationId} className="break-inside-avoid">
                        <Piece
                          themeId={theme.id}
                          piece={piece}
                          onFocus={onFocus}
                          onTakeOut={() => takeOut.mutate({ themeId: theme.id, observationIds: [piece.quote.observationId], tagIds: [] })}
                          className="!border-transparent !bg-transparent py-1 pr-8"
                        >
                          <span className="font-read text-[14.5px] leading-[1.5]">
                            <QuoteWords quote={piece.quote} />
                          </span>{' '}
                          <span className="text-[12px] text-ink-soft">
                            {who(piece.quote.participantId)}
                            {piece.quote.atMs !== null && `, ${clock(piece.quote.atMs)}`}
                          </span>
                        </Piece>
                      </li>
                    ))}
                    {quotes.length === quotesOfEach && <li className="pl-6 text-[12.5px] text-ink-soft">Those and more; its page has all.</li>}
                  </ul>
                )}
              </li>
            );
          })}
        </ol>
        <p className="border-t border-line pt-2 text-[12.5px] text-ink-soft">
          {table.unsorted} of {count(table.observations, 'observation')} {table.unsorted === 1 ? 'is' : 'are'} unsorted; {table.leftOut} left out.
        </p>
      </div>
    </div>
  );
}
