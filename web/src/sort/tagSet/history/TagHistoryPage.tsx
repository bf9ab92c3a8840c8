import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { toast } from 'sonner';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { count, day as inWords } from '@/parts/words';
import { asText, differencesOf, outlineOf } from './differences';

/** The workspace's tag set, then and now. */
export function TagHistoryPage() {
  const { day } = useSearch({ from: '/team/tags/history' });
  const navigate = useNavigate();
  return <TagHistory day={day} onDay={(next) => void navigate({ to: '/tags/history', search: { day: next }, replace: true })} />;
}

/** A study's view of it: the shared tags and its own. */
export function StudyTagHistoryPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/sort/tags/history' });
  const { day } = useSearch({ from: '/team/studies/$studyId/sort/tags/history' });
  const navigate = useNavigate();
  return (
    <TagHistory
      studyId={studyId}
      day={day}
      onDay={(next) => void navigate({ to: '/studies/$studyId/sort/tags/history', params: { studyId }, search: { day: next }, replace: true })}
    />
  );
}

/** Days are those of the person's clock; Swedish writes them as the address does. */
const daysAgo = (days: number) => new Date(Date.now() - days * 86_400_000).toLocaleDateString('sv-SE');
const today = () => daysAgo(0);

function TagHistory({ studyId, day = daysAgo(7), onDay }: { studyId?: number; day?: string | undefined; onDay: (day: string) => void }) {
  const { data: history, error } = useQuery(queries.tagSetThen(day, studyId));
  if (!history) return <Waiting problem={error} />;
  const changes = differencesOf(history);
  const touched = new Set(history.differences.flatMap((d) => (d.then ? [d.then.id] : [])));
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(asText(inWords(day), history));
      toast('Copied');
    } catch {
      toast.error('The browser does not let this page copy. Select the words and press Ctrl C.');
    }
  };
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[1120px] px-6 py-6">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <h1 className="font-read text-[22px] font-semibold">History of the tag set</h1>
          <label className="flex items-center gap-2 text-[13px] text-ink-soft">
            at the end of
            <input
              type="date"
              value={day}
              {...(history.first !== null && { min: history.first })}
              max={today()}
              onChange={(e) => e.target.value !== '' && onDay(e.target.value)}
              className="min-h-8 rounded-std border border-line bg-case px-2 text-ink"
            />
          </label>
          <span className="text-[13px] text-ink-soft">
            {count(history.tags.length, 'tag')} then, {history.now.length} now
          </span>
          <span className="ml-auto flex items-center gap-3">
            {studyId === undefined ? (
              <Link to="/tags" className="text-[13px] text-sky hover:underline">
                To the tag set
              </Link>
            ) : (
              <Link to="/studies/$studyId/sort/tags" params={{ studyId }} className="text-[13px] text-sky hover:underline">
                To the tag set
              </Link>
            )}
            <Button disabled={changes.length === 0} onClick={() => void copy()}>
              Copy as text
            </Button>
          </span>
        </div>
        <div className="mt-5 grid grid-cols-[320px_minmax(0,1fr)] gap-x-12">
          <section aria-label="As it was">
            <h2 className="mb-2 border-b border-line pb-1 text-[13px] font-semibold">As it was</h2>
            {history.tags.length === 0 && (
              <p className="text-ink-soft">It had no tag yet.{history.first !== null && ` The first was made on ${inWords(history.first)}.`}</p>
            )}
            <ul className="text-[13.5px]">
              {outlineOf(history.tags).map(({ tag, depth }) => (
                <li key={tag.id} className="flex min-h-6 items-baseline gap-2" style={{ paddingLeft: depth * 16 }} title={tag.definition || undefined}>
                  <span className={`${touched.has(tag.id) ? 'border-b border-dotted border-brass' : ''} ${tag.retired ? 'text-ink-soft line-through' : ''}`}>
                    {tag.name}
                  </span>
                  {!tag.settled && <span className="text-[11.5px] text-brass">draft</span>}
                </li>
              ))}
            </ul>
          </section>
          <section aria-label="What changed">
            <h2 className="mb-2 border-b border-line pb-1 text-[13px] font-semibold">What changed</h2>
            {changes.length === 0 && <p className="text-ink-soft">Nothing: it is as it was.</p>}
            {changes.map(({ head, many, lines }) => (
              <div key={head} className="mb-4 grid grid-cols-[120px_minmax(0,1fr)] gap-x-4">
                <h3 className="text-[13px] text-ink-soft">
                  {head} <span className="font-semibold text-ink">{many}</span>
                </h3>
                <ul className="font-read text-[15px] leading-6">
                  {lines.map((line) => (
                    <li key={line.tagId}>{line.says}</li>
                  ))}
                </ul>
              </div>
            ))}
          </section>
        </div>
      </div>
    </div>
  );
}
