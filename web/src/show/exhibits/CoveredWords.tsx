import { api, ask, type Schemas } from '@/api/client';
import { useWrite } from '@/api/useWrite';
import { Button } from '@/parts/Button';
import { count } from '@/parts/words';

/** What readers see something else of because it looks like a name or a masked word; where it is none, it can be let stand. */
export function CoveredWords({ covered }: { covered: readonly Schemas['Covered'][] }) {
  const write = useWrite(({ studyId, words, stands }: { studyId: number; words: Schemas['CoveredWords']; stands: boolean }) =>
    ask(
      api.PUT('/api/studies/{studyId}/let-stand', {
        params: { path: { studyId } },
        body: { context: words.context, words: words.words, stands },
      }),
    ),
  );
  if (covered.length === 0) return null;
  const standing = covered.filter((c) => c.words.stands).length;
  return (
    <section aria-label="What is covered" className="mt-7">
      <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">What is covered</h2>
      <p className="mb-1.5 text-[12.5px] text-ink-soft">
        {count(covered.length - standing, 'place')} where words look like a name or a masked word. Where one is none, let it stand.
      </p>
      <ul className="rounded-std border border-line bg-case">
        {covered.map(({ studyId, words }) => (
          <li key={words.context} className="flex min-h-10 items-center gap-x-3 border-b border-line px-4 py-1.5 text-[13px] last:border-b-0">
            <span className="min-w-0 flex-1 font-read text-[14.5px] leading-snug">
              <span className="text-ink-soft">{words.before}</span>
              {words.stands ? <b>{words.words}</b> : <s className="decoration-brass decoration-2">{words.words}</s>}
              <span className="text-ink-soft">{words.after}</span>
            </span>
            <span className="shrink-0 text-ink-soft">{words.stands ? 'stands' : `“${words.replacement}”`}</span>
            <Button
              className="!min-h-7 shrink-0 !px-2.5"
              aria-label={`${words.stands ? 'Cover' : 'Let stand'}: ${words.words}`}
              onClick={() => write.mutate({ studyId, words, stands: !words.stands })}
            >
              {words.stands ? 'Cover it' : 'Let it stand'}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
