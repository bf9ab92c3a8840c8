import { putInTheme } from '@/shared/putInTheme';
import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, ask, oneStep, type Schemas } from '@/api/client';
import { queries, type PassagesOf } from '@/api/queries';
import { refetchAfter } from '@/api/refetch';
import { useWrite } from '@/api/useWrite';
import { LongList } from '@/parts/LongList';
import { TagLabel } from '@/parts/TagLabel';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { count } from '@/parts/words';
import { MakeInsight } from '@/shared/MakeInsight';
import { useMore } from '@/shared/useMore';
import { ChosenBar, type TagsGiven } from './ChosenBar';
import { PassageWords } from './PassageWords';
import { ResultHead } from './ResultHead';
import { headingOf } from './headingOf';
import { ResultRow } from './ResultRow';
import { useChosen } from './useChosen';

type Passage = Schemas['PassageShown'];
type Place = Schemas['PassagePlace'];

const keyOf = (p: Place) => `${p.sourceId}:${p.start}`;
const placeOf = ({ sourceId, start, end, basedOn }: Place): Place => ({ sourceId, start, end, basedOn });

interface Props {
  studyId: number;
  of: PassagesOf;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  who: (id: number | null) => string;
  title: (sourceId: number) => string;
  people: readonly Schemas['Participant'][];
  onPerson: (id: number | null) => void;
  newFor: number | undefined;
}

/** Passages that hold what was typed; those that are chosen become observations in one step. */
export function PassageResults({ studyId, of, tags, look, who, title, people, onPerson, newFor }: Props) {
  const navigate = useNavigate();
  const pages = useInfiniteQuery(queries.passages(studyId, of));
  const more = useMore(pages);
  const passages = useMemo<Passage[]>(() => pages.data?.pages.flatMap((p) => p.passages) ?? [], [pages.data]);
  const list = useMemo(() => passages.map((p) => [keyOf(p), placeOf(p)] as const), [passages]);
  const { breadth, complete } = pages.data?.pages[0] ?? {};
  const total = breadth?.triple.observations ?? 0;
  const { chosen, set, none, choose } = useChosen<string, Place>(JSON.stringify(of));
  const [reviewed, setReviewed] = useState(false);
  const [making, setMaking] = useState(false);
  const cache = useQueryClient();
  const path = { studyId };
  const chooseAll = async () => {
    try {
      const places = await ask(api.GET('/api/studies/{studyId}/passages/places', { params: { path, query: of } }));
      set(places.map((p) => [keyOf(p), p]));
    } catch (problem) {
      toast.error((problem as Error).message);
    }
  };
  const mark = (given: TagsGiven, looked: boolean, headers?: Record<string, string>) =>
    ask(
      api.POST('/api/studies/{studyId}/passages/tags', {
        params: { path },
        headers,
        body: {
          passages: [...chosen.values()],
          ...given,
          reviewed: looked,
          search: looked ? null : { typed: of.typed, unit: of.unit, team: of.team ?? false, whole: of.where === undefined },
        },
      }),
    );
  const tag = useWrite((given: TagsGiven) => mark(given, reviewed));
  /** Marks what is chosen, as the first half of a step; the observations that it made. */
  const markFor = async (headers: Record<string, string>) => {
    const step = await mark({ tagIds: [], newTags: [] }, true, headers);
    await refetchAfter(cache, step);
    const observationIds = step.changed?.rows['observation'];
    if (!observationIds) throw new Error('These are too many at once, or they are marked already. Choose fewer, or look for them among the observations.');
    return observationIds;
  };
  const putIntoTheme = useWrite(async (themeId: number) => {
    const headers = oneStep();
    const observationIds = await markFor(headers);
    return putInTheme(themeId, { observationIds }, headers);
  });
  const words = of.typed
    .replace(/["|~-]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return (
    <>
      <ResultHead
        problem={pages.error}
        breadth={breadth}
        people={people}
        onPerson={onPerson}
        what={(n) => `${complete === false ? 'the first ' : ''}${count(n, 'passage')}`}
        onAll={() => void chooseAll()}
        nothing={pages.isFetching ? undefined : 'No passage holds these words. Fewer words, fewer conditions or longer passages find more.'}
      />
      <div data-rows className="contents">
        <LongList
          label="Passages"
          items={passages}
          keyOf={(p) => p.sourceId * 1e9 + p.start}
          height={84}
          total={total}
          onNearEnd={more}
          className="min-h-0 flex-1 pb-6"
        >
          {(p, i) => (
            <ResultRow
              index={i}
              last={passages.length - 1}
              label={`Passage of ${who(p.participantId)}`}
              words={p.words}
              heading={headingOf(passages, i, of.groupBy, (one) => title(one.sourceId), who)}
              chosen={chosen.has(keyOf(p))}
              choose={(index, range) => choose(list, index, range)}
              all={() => void chooseAll()}
              open={() => void navigate({ to: '/studies/$studyId/mark', params: path, search: { source: p.sourceId, place: p.start } })}
              className="grid-cols-[24px_minmax(0,1fr)_150px] rounded-std py-2.5"
            >
              <PassageWords passage={p} />
              <div className="flex flex-col items-start gap-0.5 text-[12px] text-ink-soft">
                <span className="font-semibold text-ink">{of.groupBy ? title(p.sourceId) : who(p.participantId)}</span>
                <Link
                  to="/studies/$studyId/mark"
                  params={path}
                  search={{ source: p.sourceId, place: p.start }}
                  tabIndex={-1}
                  className="text-sky hover:underline"
                >
                  open in place
                </Link>
                {p.tagIds.slice(0, 3).map((id) => (
                  <TagLabel key={id} look={look(id)} />
                ))}
                {p.tagIds.length > 3 && <span>and {p.tagIds.length - 3} more</span>}
              </div>
            </ResultRow>
          )}
        </LongList>
      </div>
      {chosen.size > 0 && (
        <ChosenBar
          studyId={studyId}
          label="Chosen passages"
          chosen={`${count(chosen.size, 'passage')} chosen`}
          tags={tags}
          look={look}
          before={newFor === undefined ? { tagIds: [], newTags: words === '' ? [] : [words] } : { tagIds: [newFor], newTags: [] }}
          onTag={(given) => tag.mutate(given, { onSuccess: none })}
          onTheme={(themeId) => putIntoTheme.mutate(themeId, { onSuccess: none })}
          onInsight={() => setMaking(true)}
          onNone={none}
        >
          <label className="inline-flex min-h-6 items-center gap-1.5">
            <input type="checkbox" checked={reviewed} onChange={(e) => setReviewed(e.target.checked)} className="size-4 accent-verdigris" />I have looked at
            each
          </label>
          <span className="text-ink-soft">{reviewed ? 'They are marks like any other.' : 'Tagged, they stay apart as found, not reviewed.'}</span>
        </ChosenBar>
      )}
      {making && (
        <MakeInsight
          studyId={studyId}
          observationIds={{ count: chosen.size, mark: markFor }}
          onClose={() => setMaking(false)}
          onMade={(insightId) => void navigate({ to: '/studies/$studyId/show/$insightId', params: { studyId, insightId } })}
        />
      )}
    </>
  );
}
