import { api, ask, type Schemas } from '@/api/client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { Button } from '@/parts/Button';
import { addressOf } from '@/mark/reading/addressOf';

/** A recording that is being made ready, or could not be: what is the matter, and what can be done. */
export function NotReady({ source, facts }: { source: Schemas['Source']; facts: Schemas['RecordingFacts'] }) {
  const cache = useQueryClient();
  const query = queries.recording(source.line.id);
  const again = useMutation({
    mutationFn: () => ask(api.POST('/api/sources/{id}/recording/ready', { params: { path: { id: source.line.id } } })),
    onSuccess: (next) => cache.setQueryData(query.queryKey, next),
  });
  const film = source.line.mediaType?.startsWith('video/');
  const Element = film ? 'video' : 'audio';
  return (
    <section aria-label={source.line.title} className="mx-auto max-w-[760px] px-6 py-8">
      <h1 className="mb-3 font-read text-xl font-semibold">{source.line.title}</h1>
      {facts.state === 'unready' ? (
        <>
          <p className="mb-3 max-w-[60ch]">{facts.said}</p>
          <Button look="main" onClick={() => again.mutate()} disabled={again.isPending}>
            Make it ready
          </Button>
          {again.error && <p className="mt-2 text-oxblood">{again.error.message}</p>}
          <Element
            controls
            preload="metadata"
            src={addressOf(source)}
            aria-label={source.line.title}
            className={`mt-5 w-full ${film ? 'max-h-[50vh] bg-ink' : ''}`}
          />
        </>
      ) : (
        <>
          <p className="mb-3">{facts.state === 'waiting' ? 'It waits for other recordings to be made ready.' : 'It is being made ready: its wave is drawn.'}</p>
          <div
            role="progressbar"
            aria-label="Being made ready"
            aria-valuenow={Math.round(facts.progress * 100)}
            className="h-1.5 overflow-hidden rounded-full bg-line"
          >
            <div className="h-full bg-verdigris transition-[width]" style={{ width: `${Math.max(2, facts.progress * 100)}%` }} />
          </div>
        </>
      )}
      <p className="mt-4 text-[13px] text-ink-soft">
        <a href={`/api/sources/${source.line.id}/original`} download className="text-sky underline underline-offset-2">
          Download {source.line.fileName}
        </a>{' '}
        as it came in.
      </p>
    </section>
  );
}
