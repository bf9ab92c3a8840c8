import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { ActionButton } from '@/parts/actions/ActionButton';
import { ActionHints } from '@/parts/actions/ActionHints';
import { usePageActions } from '@/parts/actions/registry';
import { Empty, Waiting } from '@/parts/Empty';
import { QuoteItem, whoIs } from '@/parts/QuoteItem';
import { TagDot } from '@/parts/TagLabel';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count } from '@/parts/words';
import { useQuotes } from '@/shared/useQuotes';
import { found, type FoundActs } from './actions';
import { unitWords } from './looking';

const at = '/team/studies/$studyId/mark/found';

/** What searches have tagged and nobody has looked at: accepted or dropped one by one, with two keys. */
export function FoundPage() {
  const { studyId } = useParams({ from: at });
  const { tag } = useSearch({ from: at });
  const navigate = useNavigate();
  const { quotes: waiting, total: inAll, more, error } = useQuotes(queries.found(studyId, tag));
  const tags = useQuery(queries.tags(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const searches = useQuery(queries.searches(studyId)).data;
  const look = useTagLook(tags);
  const [answered, setAnswered] = useState<ReadonlySet<number>>(new Set());
  const quotes = waiting.filter((q) => !answered.has(q.observationId));
  const total = inAll === undefined ? undefined : inAll - (waiting.length - quotes.length);
  const [index, setIndex] = useState(0);
  const focused = useRef<HTMLLIElement>(null);
  const path = { studyId };
  const accept = useWrite(
    (observationIds: number[]) => ask(api.POST('/api/studies/{studyId}/observations/accept', { params: { path }, body: { observationIds } })),
    {
      quiet: true,
    },
  );
  const drop = useWrite(
    (observationIds: number[]) => ask(api.POST('/api/studies/{studyId}/observations/drop', { params: { path }, body: { observationIds } })),
    {
      quiet: true,
    },
  );
  const all = useWrite((what: { ids: number[]; accept: boolean }) =>
    what.accept
      ? ask(api.POST('/api/studies/{studyId}/observations/accept', { params: { path }, body: { observationIds: what.ids } }))
      : ask(api.POST('/api/studies/{studyId}/observations/drop', { params: { path }, body: { observationIds: what.ids } })),
  );
  const forget = useWrite((tagSearchId: number) =>
    ask(api.DELETE('/api/studies/{studyId}/searches/{tagSearchId}', { params: { path: { studyId, tagSearchId } } })),
  );
  const here = Math.min(index, Math.max(0, quotes.length - 1));
  const current = quotes[here];
  useEffect(() => {
    if (quotes.length - here < 10) more();
  }, [here, quotes.length, more]);
  useEffect(() => {
    focused.current?.scrollIntoView({ block: 'nearest' });
  }, [here, current?.observationId]);
  // An answered one goes at once, so that the next key is about the next one.
  const answer = async (act: typeof accept.mutateAsync, id: number) => {
    setAnswered((ids) => new Set(ids).add(id));
    // A refusal is said by the write itself; what was refused stands here again.
    await act([id]).catch(() => undefined);
    setAnswered((ids) => new Set([...ids].filter((other) => other !== id)));
  };
  const acts: FoundActs = {
    accept: current ? () => void answer(accept.mutateAsync, current.observationId) : null,
    drop: current ? () => void answer(drop.mutateAsync, current.observationId) : null,
    step: (by) => setIndex(Math.max(0, Math.min(quotes.length - 1, here + by))),
  };
  usePageActions(found, acts);
  if (!tags || !people || total === undefined) return <Waiting problem={error} />;
  const who = whoIs(people);
  const kept = (searches ?? []).filter((s) => tag === undefined || s.tagId === tag);
  const pick = (id: number | undefined) =>
    void navigate({ to: '/studies/$studyId/mark/found', params: path, search: id === undefined ? {} : { tag: id }, replace: true });
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto grid max-w-[1040px] grid-cols-[minmax(0,1fr)_280px] gap-x-10 px-5 py-6">
        <div className="min-w-0">
          <div className="flex items-baseline gap-3">
            <h1 className="font-read text-[22px] font-semibold">Found, not reviewed</h1>
            <span className="text-brass">{total}</span>
            <span className="ml-auto text-[12.5px] text-ink-soft">
              under{' '}
              <Word label={tag === undefined ? 'any tag' : look(tag).name} set={tag !== undefined}>
                {tags.map((t) => (
                  <Box key={t.id} label={t.name} on={t.id === tag} onChange={() => pick(t.id === tag ? undefined : t.id)}>
                    <TagDot look={look(t.id)} />
                  </Box>
                ))}
              </Word>
            </span>
          </div>
          {total === 0 ? (
            <Empty
              title="Nothing waits"
              sample="“cancel” in sentences, under a tag “called off”"
              action={
                <Link
                  to="/studies/$studyId/mark/find"
                  params={path}
                  className="inline-flex min-h-8 items-center rounded-std bg-verdigris px-3 font-medium text-on-verdigris"
                >
                  Find and tag
                </Link>
              }
            >
              What a search tags waits here until somebody has looked at it.
            </Empty>
          ) : (
            <>
              <div className="mt-1 flex items-center gap-4 border-b border-line pb-2 text-[12.5px] text-ink-soft">
                <ActionHints of={Object.values(found.actions)} />
                <button
                  type="button"
                  className="ml-auto min-h-6 text-sky hover:underline"
                  onClick={() => all.mutate({ ids: quotes.map((q) => q.observationId), accept: true })}
                >
                  Accept {quotes.length === total ? 'all' : `the first ${quotes.length}`}
                </button>
                <button
                  type="button"
                  className="min-h-6 hover:text-oxblood hover:underline"
                  onClick={() => all.mutate({ ids: quotes.map((q) => q.observationId), accept: false })}
                >
                  Drop {quotes.length === total ? 'all' : `the first ${quotes.length}`}
                </button>
              </div>
              <ul aria-label="Found">
                {quotes.map((quote, i) => (
                  <li
                    key={quote.observationId}
                    ref={i === here ? focused : undefined}
                    aria-current={i === here}
                    className={`border-b border-line py-3 pr-2 pl-4 ${i === here ? 'border-l-2 border-l-brass bg-case' : 'border-l-2 border-l-transparent'}`}
                    onClick={() => setIndex(i)}
                  >
                    <QuoteItem quote={quote} who={who(quote.participantId)} studyId={studyId} look={look}>
                      {i === here && (
                        <div className="mt-2 flex gap-2">
                          <ActionButton action={found.actions.accept} on={acts} look="main" />
                          <ActionButton action={found.actions.drop} on={acts} />
                        </div>
                      )}
                    </QuoteItem>
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
        <aside aria-label="Searches that stay with their tags" className="pt-2 text-[13px]">
          <h2 className="mb-1 text-[12.5px] font-semibold text-ink-soft">Searches that stay with their tags</h2>
          {kept.length === 0 && <p className="text-ink-soft">None yet. A search that tags stays here, to be run again on what comes in.</p>}
          <ul>
            {kept.map((s) => (
              <li key={s.id} className="border-t border-line py-2">
                <p className="flex items-center gap-2">
                  <TagDot look={look(s.tagId)} /> {look(s.tagId).name}
                </p>
                <p className="font-read wrap-anywhere">{s.typed}</p>
                <p className="text-[12px] text-ink-soft">
                  in {unitWords[s.unit]}
                  {s.team && ', the team too'}, by {s.createdBy}
                </p>
                <p className="flex items-baseline gap-3">
                  <Link
                    to="/studies/$studyId/mark/find"
                    params={path}
                    search={{ typed: s.typed, unit: s.unit, newFor: s.tagId, ...(s.team && { team: true as const }) }}
                    className="min-h-6 text-sky hover:underline"
                  >
                    Run it again
                  </Link>
                  <button type="button" className="min-h-6 text-ink-soft hover:text-oxblood hover:underline" onClick={() => forget.mutate(s.id)}>
                    Remove
                  </button>
                </p>
              </li>
            ))}
          </ul>
          {tag !== undefined && (
            <p className="mt-2 text-ink-soft">
              {count(total, 'passage')} under “{look(tag).name}”.
            </p>
          )}
        </aside>
      </div>
    </div>
  );
}
