import { putInTheme } from '@/shared/putInTheme';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { LongList } from '@/parts/LongList';
import { QuoteItem } from '@/parts/QuoteItem';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { Choices, Word } from '@/parts/WordChoices';
import { count } from '@/parts/words';
import { asQuery, type Where } from '@/shared/filter/where';
import { MakeInsight } from '@/shared/MakeInsight';
import { useQuotes } from '@/shared/useQuotes';
import { ChosenBar, type TagsGiven } from './ChosenBar';
import { ResultHead } from './ResultHead';
import { headingOf } from './headingOf';
import { ResultRow } from './ResultRow';
import { useChosen } from './useChosen';

interface Props {
  studyId: number;
  typed: string;
  where: Where | undefined;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  who: (id: number | null) => string;
  people: readonly Schemas['Participant'][];
  onPerson: (id: number | null) => void;
  groupBy: 'person' | undefined;
}

/** Observations that fit the conditions and whose words hold what was typed. */
export function ObservationResults({ studyId, typed, where, tags, look, who, people, onPerson, groupBy }: Props) {
  const navigate = useNavigate();
  const of = { typed, ...(groupBy && { groupBy }), ...asQuery(where) };
  const { data, error, isFetching } = useQuery(queries.foundObservations(studyId, of));
  const { quotes, more } = useQuotes(queries.foundQuotes(studyId, of));
  const list = useMemo(() => quotes.map((q) => [q.observationId, q.observationId] as const), [quotes]);
  const { chosen, set, none, choose } = useChosen<number, number>(JSON.stringify(of));
  const [making, setMaking] = useState(false);
  const path = { studyId };
  const observationIds = [...chosen.keys()];
  const chooseAll = () => set((data?.observationIds ?? []).map((id) => [id, id]));
  const tag = useWrite((given: TagsGiven) =>
    ask(api.POST('/api/studies/{studyId}/observations/tags', { params: { path }, body: { observationIds, ...given } })),
  );
  const untag = useWrite((tagId: number) => ask(api.POST('/api/studies/{studyId}/observations/untag', { params: { path }, body: { observationIds, tagId } })));
  const putIntoTheme = useWrite((themeId: number) => putInTheme(themeId, { observationIds }));
  const carried = [...new Set(quotes.filter((q) => chosen.has(q.observationId)).flatMap((q) => q.tagIds))];
  return (
    <>
      <ResultHead
        problem={error}
        breadth={data?.breadth}
        people={people}
        onPerson={onPerson}
        what={(n) => count(n, 'observation')}
        onAll={chooseAll}
        nothing={isFetching ? undefined : 'No observation fits. Fewer words or fewer conditions find more.'}
      />
      <div data-rows className="contents">
        <LongList
          label="Observations"
          items={quotes}
          keyOf={(q) => q.observationId}
          height={100}
          total={data?.observationIds.length ?? 0}
          onNearEnd={more}
          className="min-h-0 flex-1 pb-6"
        >
          {(q, i) => (
            <ResultRow
              index={i}
              last={quotes.length - 1}
              label={`Observation of ${who(q.participantId)}`}
              words={q.words}
              heading={headingOf(quotes, i, groupBy, (one) => one.sourceTitle, who)}
              chosen={chosen.has(q.observationId)}
              choose={(index, range) => choose(list, index, range)}
              all={chooseAll}
              open={() => void navigate({ to: '/studies/$studyId/mark', params: path, search: { source: q.sourceId, at: q.observationId } })}
              className="grid-cols-[24px_minmax(0,1fr)] border-b border-line py-3"
            >
              <QuoteItem quote={q} who={who(q.participantId)} studyId={studyId} look={look} />
            </ResultRow>
          )}
        </LongList>
      </div>
      {chosen.size > 0 && (
        <ChosenBar
          studyId={studyId}
          label="Chosen observations"
          chosen={`${count(chosen.size, 'observation')} chosen`}
          tags={tags}
          look={look}
          onTag={(given) => tag.mutate(given, { onSuccess: none })}
          onTheme={(themeId) => putIntoTheme.mutate(themeId, { onSuccess: none })}
          onInsight={() => setMaking(true)}
          onNone={none}
        >
          {carried.length > 0 && (
            <Word label="remove a tag" set={false}>
              <Choices
                find="Find a tag"
                choices={carried.map((id) => ({ key: String(id), label: look(id).name, look: look(id), on: false, onChange: () => untag.mutate(id) }))}
              />
            </Word>
          )}
        </ChosenBar>
      )}
      {making && (
        <MakeInsight
          studyId={studyId}
          observationIds={observationIds}
          onClose={() => setMaking(false)}
          onMade={(insightId) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId } })}
        />
      )}
    </>
  );
}
