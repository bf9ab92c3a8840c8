import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Box, Word } from '@/parts/WordChoices';

/** Of what the history is told, from the address. */
export interface HistoryOf {
  /** A day, as in 2026-11-26, where the person is. */
  day?: string;
  by?: number;
  source?: number;
  tag?: number;
}

const dayOf = new Intl.DateTimeFormat(undefined, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
const timeOf = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' });
const lower = (label: string) => label.charAt(0).toLowerCase() + label.slice(1);

/** Everything that was done in a study, day by day: by one person, in one source, with one tag. */
export function HistoryPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/history' });
  const of = useSearch({ from: '/team/studies/$studyId/history' });
  const navigate = useNavigate();
  const sources = useQuery(queries.sources(studyId)).data;
  const tags = useQuery(queries.tags(studyId)).data;
  const accounts = useQuery(queries.accounts()).data;
  const memberIds = useQuery(queries.members(studyId)).data;
  const members = accounts?.filter((a) => memberIds?.includes(a.id) || a.id === of.by);
  const since = of.day === undefined ? undefined : new Date(`${of.day}T00:00`);
  const until = since && new Date(since.getFullYear(), since.getMonth(), since.getDate() + 1);
  const pages = useInfiniteQuery(
    queries.history(studyId, {
      ...(of.by === undefined ? {} : { by: of.by }),
      ...(of.source === undefined ? {} : { sourceId: of.source }),
      ...(of.tag === undefined ? {} : { tagId: of.tag }),
      ...(since && until ? { since: since.toISOString(), until: until.toISOString() } : {}),
    }),
  );
  if (!pages.data || !sources || !tags || !members) return <Waiting problem={pages.error} />;
  const entries = pages.data.pages.flat();
  const change = (part: { [K in keyof HistoryOf]?: HistoryOf[K] | undefined }) =>
    void navigate({
      to: '/studies/$studyId/history',
      params: { studyId },
      search: (now) => Object.fromEntries(Object.entries({ ...now, ...part }).filter(([, value]) => value !== undefined)) as HistoryOf,
      replace: true,
    });
  const toggle = <K extends keyof HistoryOf>(key: K, value: HistoryOf[K]) => change({ [key]: of[key] === value ? undefined : value });
  const asked = Object.keys(of).length > 0;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[760px] px-5 py-6">
        <div className="flex items-baseline gap-3">
          <h1 className="font-read text-[22px] font-semibold">History</h1>
          <input
            type="date"
            aria-label="Day"
            value={of.day ?? ''}
            onChange={(e) => change({ day: e.target.value === '' ? undefined : e.target.value })}
            className="ml-auto rounded-std border border-line bg-case px-2 py-1 text-[13px]"
          />
        </div>
        <div role="group" aria-label="Whose history" className="mt-1 flex flex-wrap items-center gap-x-2 border-b border-line pb-2 text-[12.5px] text-ink-soft">
          <span>What</span>
          <Word label={members.find((m) => m.id === of.by)?.name ?? 'everyone'} set={of.by !== undefined}>
            {members.map((m) => (
              <Box key={m.id} label={m.name} on={of.by === m.id} onChange={() => toggle('by', m.id)} />
            ))}
          </Word>
          <span>did, in</span>
          <Word label={sources.find((s) => s.id === of.source)?.title ?? 'the whole study'} set={of.source !== undefined}>
            {sources.map((s) => (
              <Box key={s.id} label={s.title} on={of.source === s.id} onChange={() => toggle('source', s.id)} />
            ))}
          </Word>
          <span>with</span>
          <Word label={tags.find((t) => t.id === of.tag)?.name ?? 'any tag'} set={of.tag !== undefined}>
            {tags.map((t) => (
              <Box key={t.id} label={t.name} on={of.tag === t.id} onChange={() => toggle('tag', t.id)} />
            ))}
          </Word>
          {asked && (
            <button
              type="button"
              className="ml-auto min-h-6 text-sky hover:underline"
              onClick={() => change({ day: undefined, by: undefined, source: undefined, tag: undefined })}
            >
              Show all
            </button>
          )}
        </div>
        {entries.length === 0 && <p className="py-6 text-ink-soft">{asked ? 'Nothing was done like that.' : 'Nothing was done in this study yet.'}</p>}
        <ol aria-label="History">
          {entries.map((entry, i) => {
            const day = dayOf.format(new Date(entry.at));
            const before = entries[i - 1];
            return (
              <li key={entry.actionId}>
                {(!before || dayOf.format(new Date(before.at)) !== day) && <h2 className="pt-5 pb-1 font-read text-[16px] font-semibold">{day}</h2>}
                <div className="grid grid-cols-[64px_minmax(0,1fr)] border-t border-line py-1.5 text-[13.5px]">
                  <span className="text-ink-soft">{timeOf.format(new Date(entry.at))}</span>
                  <span className={`wrap-anywhere ${entry.undone ? 'text-ink-soft line-through' : ''}`}>
                    <span className="font-semibold">{entry.who}</span> {lower(entry.label)}
                  </span>
                </div>
              </li>
            );
          })}
        </ol>
        {pages.hasNextPage && (
          <Button className="mt-4" disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
            Earlier
          </Button>
        )}
      </div>
    </div>
  );
}
