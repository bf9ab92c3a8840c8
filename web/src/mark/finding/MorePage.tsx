import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, oneStep, type Schemas } from '@/api/client';
import { queries, type PassageUnit } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { ActionButton } from '@/parts/actions/ActionButton';
import { usePageActions } from '@/parts/actions/registry';
import { Waiting } from '@/parts/Empty';
import { PeopleStrip } from '@/parts/PeopleStrip';
import { whoIs } from '@/parts/QuoteItem';
import { TagDot } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count, ofPeople } from '@/parts/words';
import { claimOf } from '@/shared/claim';
import { putInTheme } from '@/shared/putInTheme';
import { isThere, useGone } from '@/shared/useGone';
import { HitWords } from '@/parts/HitWords';
import { PassageWords } from './PassageWords';
import { more as moreLike, type Answer, type MoreActs } from './actions';
import { dryAfter, runsDry, unitWords } from './looking';

const at = '/team/studies/$studyId/mark/more/$tagId';
type Passage = Schemas['PassageShown'];
/** An answer about a passage: the observation that a yes has made; null for a no. */
interface Answered {
  key: string;
  took: number | null;
}
const keyOf = (p: Passage) => `${p.sourceId}:${p.start}:${p.end}`;

/** From what carries a tag to passages that mean the same in other words; each answer sharpens the order. */
export function MorePage() {
  const { studyId, tagId } = useParams({ from: at });
  const { like, theme } = useSearch({ from: at });
  return <More key={`${tagId} ${like}`} studyId={studyId} tagId={tagId} like={like} themeId={theme} />;
}

interface Props {
  studyId: number;
  tagId: number;
  like: number | undefined;
  /** The theme that is gathered for. */
  themeId: number | undefined;
}

function More({ studyId, tagId, like, themeId }: Props) {
  const [answered, setAnswered] = useState<readonly Answered[]>([]);
  const [later, setLater] = useState<ReadonlySet<string>>(new Set());
  const [unit, setUnit] = useState<PassageUnit>('sentence');
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const sources = useQuery(queries.sources(studyId)).data;
  const tag = tags?.find((t) => t.id === tagId);
  // A tag that was made for this, and taken back, is not asked for.
  const enabled = tags === undefined || tag !== undefined;
  const page = useQuery({ ...queries.tagPage(studyId, tagId), enabled }).data;
  const told = useQuery({ ...queries.tellingQuotes(studyId, tagId), enabled }).data;
  const carrying = useQuery({ ...queries.evidence(studyId, { tagId }), enabled }).data?.observationIds;
  // A yes that was taken back is none any more.
  const there = answered.filter((a) => a.took === null || carrying?.includes(a.took) === true);
  const observationId = there.flatMap((a) => a.took ?? []);
  const { data, error, isPlaceholderData } = useQuery({
    ...queries.more(studyId, tagId, { likeId: like, observationId, unit }),
    enabled,
    placeholderData: keepPreviousData,
  });
  // Nor is a no whose passage is offered again.
  const again = new Set(isPlaceholderData ? [] : data?.offered.map((o) => keyOf(o.passage)));
  const answers = there.filter((a) => a.took !== null || !again.has(a.key)).map((a) => a.took !== null);
  const navigate = useNavigate();
  const gatherFor = (id: number | undefined) =>
    void navigate({
      to: '/studies/$studyId/mark/more/$tagId',
      params: { studyId, tagId },
      search: { ...(like !== undefined && { like }), ...(id !== undefined && { theme: id }) },
      replace: true,
    });
  useGone(tags && tag !== undefined, () => void navigate({ to: '/studies/$studyId/mark', params: { studyId } }));
  // The observation that it began with was taken back: it goes on with all that carry the tag.
  useGone(like === undefined ? undefined : isThere(data, error), () =>
    navigate({ to: '/studies/$studyId/mark/more/$tagId', params: { studyId, tagId }, search: themeId === undefined ? {} : { theme: themeId }, replace: true }),
  );
  const look = useTagLook(tags);
  const themes = useQuery(queries.sorting(studyId)).data?.themes.map((t) => t.theme);
  const theme = themes?.find((t) => t.id === themeId);
  const yes = useWrite(
    async ({ passage, stance }: { passage: Passage; stance: Schemas['Stance'] | null }) => {
      const together = oneStep();
      const made = await ask(
        api.POST('/api/sources/{id}/observations', {
          params: { path: { id: passage.sourceId } },
          headers: together,
          body: { anchor: anchorOf(passage), tagIds: [tagId], newTags: [], basedOn: passage.basedOn },
        }),
      );
      if (stance === null || !theme) return made;
      const put = await putInTheme(theme.id, { observationIds: [made.id!], stance }, together);
      // Both have changed something: all is fetched again.
      return { ...put, id: made.id, changed: null };
    },
    { quiet: true },
  );
  const no = useWrite(
    ({ sourceId, start, end, basedOn }: Passage) =>
      ask(
        api.POST('/api/studies/{studyId}/tags/{tagId}/refused', {
          params: { path: { studyId, tagId } },
          body: { passages: [{ sourceId, start, end, basedOn }] },
        }),
      ),
    { quiet: true },
  );
  const offered = (data?.offered ?? []).filter((o) => !later.has(keyOf(o.passage)));
  const current = offered[0];
  const busy = yes.isPending || no.isPending || isPlaceholderData;
  const answer = (what: Answer) => {
    if (!current || busy) return;
    if (what === 'later') return setLater((all) => new Set(all).add(keyOf(current.passage)));
    const key = keyOf(current.passage);
    const note = (took: number | null) => setAnswered((all) => [...all.filter((a) => a.key !== key), { key, took }]);
    if (what === 'no') return no.mutate(current.passage, { onSuccess: () => note(null) });
    yes.mutate({ passage: current.passage, stance: what === 'yes' ? null : what }, { onSuccess: (step) => note(step.id) });
  };
  const acts: MoreActs = { answer, forTheme: theme !== undefined };
  usePageActions(moreLike, acts);
  if (!tags || !people || !sources || !data) return <Waiting problem={error} />;
  if (!tag) return <Waiting problem={new Error('There is no such tag in this study any more.')} />;
  const who = whoIs(people);
  const title = (id: number) => sources.find((s) => s.id === id)?.title ?? '';
  const yeses = answers.filter(Boolean).length;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[820px] px-5 py-6">
        <div className="flex items-baseline gap-3">
          <h1 className="flex items-baseline gap-2.5 font-read text-[22px] font-semibold">
            <TagDot look={look(tagId)} /> More like “{tag.name}”
          </h1>
          <span className="ml-auto text-[12.5px] text-ink-soft">
            in{' '}
            <Word label={unitWords[unit]} set={unit !== 'sentence'}>
              {(['sentence', 'turn'] as const).map((u) => (
                <Box key={u} label={unitWords[u]} on={unit === u} onChange={() => setUnit(u)} />
              ))}
            </Word>
          </span>
        </div>
        <p className="mt-0.5 text-ink-soft">{tag.definition || 'It has no definition yet.'}</p>
        {page && (
          <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
            <PeopleStrip people={people} breadth={page.breadth} />
            <span className="font-medium">{ofPeople(page.breadth.triple.people, page.breadth.outOf)}</span>
            <span className="text-ink-soft">
              {count(page.breadth.triple.observations, 'observation')}; {count(data.left, 'passage')} could be meant
            </span>
          </div>
        )}
        {themes && themes.length > 0 && (
          <p className="mt-2 text-[13px] text-ink-soft">
            For the theme{' '}
            <Word label={theme ? claimOf(theme) : 'none'} set={theme !== undefined}>
              {themes.map((t) => (
                <Box key={t.id} label={claimOf(t)} on={t.id === theme?.id} onChange={() => gatherFor(t.id === theme?.id ? undefined : t.id)} />
              ))}
            </Word>
            {theme && ': a stance is a yes, and lays it there.'}
          </p>
        )}
        <section aria-label="It begins with" className="mt-4 rounded-t-std border border-b-0 border-line bg-paper-deep px-4 py-2">
          <h2 className="text-[12px] font-semibold text-ink-soft">
            It begins with {data.given === 1 ? 'one observation' : `${data.given} observations`}
            {yeses > 0 && ` and ${count(yeses, 'yes', 'yeses')}`}
          </h2>
          <ul className="font-read text-[14px] text-ink-soft">
            {(like === undefined && told ? told.telling.slice(0, 2).map((t) => t.quote) : data.seeds).map((q) => (
              <li key={q.observationId} className="truncate">
                {who(q.participantId)}: {q.words}
              </li>
            ))}
          </ul>
        </section>
        {data.given === 0 ? (
          <p className="border border-line bg-case px-4 py-6 text-ink-soft">
            Nothing carries this tag yet. Give it to a passage first: what is like it is found here.
          </p>
        ) : current ? (
          <ol aria-label="Passages that may be meant too" className="border border-line bg-case">
            {offered.slice(0, 6).map((o, i) => (
              <li key={keyOf(o.passage)} aria-current={i === 0} className={`border-b border-line px-4 last:border-b-0 ${i === 0 ? 'py-4' : 'bg-paper py-2'}`}>
                {i === 0 ? (
                  <PassageWords passage={o.passage} />
                ) : (
                  <p className="truncate font-read text-[14.5px] text-ink-soft">
                    <HitWords hit={{ words: o.passage.words, marks: o.passage.hits }} />
                  </p>
                )}
                <p className="mt-1 flex flex-wrap items-center gap-x-3 text-[12px] text-ink-soft">
                  <span className="font-semibold text-ink">{who(o.passage.participantId)}</span>
                  <span>{title(o.passage.sourceId)}</span>
                  {o.unheard && <span className="text-verdigris">not heard on it yet</span>}
                  {i === 0 && o.passage.hits.length === 0 && <span>found by what is beside it</span>}
                  {i === 0 && o.passage.hits.length > 0 && (
                    <span>
                      found by {[...new Set(o.passage.hits.map((h) => o.passage.words.slice(h.start, h.end).toLowerCase()))].map((w) => `“${w}”`).join(', ')}
                    </span>
                  )}
                  <Link
                    to="/studies/$studyId/mark"
                    params={{ studyId }}
                    search={{ source: o.passage.sourceId, place: o.passage.start }}
                    className="ml-auto text-sky hover:underline"
                  >
                    open in place
                  </Link>
                </p>
                {i === 0 && (
                  <div className="mt-3 flex items-center gap-2">
                    <ActionButton action={moreLike.actions.yes} on={acts} look="main" disabled={busy} />
                    <ActionButton action={moreLike.actions.no} on={acts} disabled={busy} />
                    <ActionButton action={moreLike.actions.later} on={acts} look="quiet" disabled={busy} />
                    {theme &&
                      (['supports', 'contradicts', 'context'] as const).map((stance) => (
                        <ActionButton key={stance} action={moreLike.actions[stance]} on={acts} look="quiet" disabled={busy} className="!px-1.5">
                          {stance}
                        </ActionButton>
                      ))}
                    <span role="status" className={`ml-auto text-[12.5px] ${runsDry(answers) ? 'text-brass' : 'text-ink-soft'}`}>
                      {runsDry(answers)
                        ? `Of the last ${dryAfter} none was taken: little is left to find.`
                        : answers.length > 0 && `${count(answers.length, 'answer')}, ${count(yeses, 'yes', 'yeses')}`}
                    </span>
                  </div>
                )}
              </li>
            ))}
          </ol>
        ) : (
          <p className="border border-line bg-case px-4 py-6 text-ink-soft">
            Nothing that is left shares a word with what was taken.
            {later.size > 0 && (
              <button type="button" className="ml-2 min-h-6 text-sky hover:underline" onClick={() => setLater(new Set())}>
                Look at the {later.size} put off
              </button>
            )}
          </p>
        )}
        <p className="mt-2 text-[12.5px] text-ink-soft">
          A yes marks the passage with the tag, as if you had selected it. A no is remembered for this tag. Ctrl Z takes either back.
        </p>
      </div>
    </div>
  );
}

/** Where a passage stands, as an observation is made there. */
const anchorOf = ({ start, end }: Passage): Schemas['AnchorGiven'] => ({
  kind: 'text',
  start,
  end,
  beginMs: null,
  endMs: null,
  x: null,
  y: null,
  width: null,
  height: null,
  atMs: null,
  outline: null,
});
