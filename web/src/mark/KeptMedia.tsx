import type { Schemas } from '@/api/client';

/** Sound, film or a picture, as it came in. Marking in it comes with the recordings room; until then it can be heard and seen. */
export function KeptMedia({ source }: { source: Schemas['Source'] }) {
  const { line } = source;
  const address = `/api/sources/${line.id}/media`;
  const kind = line.mediaType?.split('/')[0];
  return (
    <section aria-label={line.title} className="mx-auto max-w-[900px] px-6 py-8">
      <h1 className="mb-4 font-read text-xl font-semibold">{line.title}</h1>
      {kind === 'image' && <img src={address} alt={line.title} className="max-h-[65vh] max-w-full rounded-std border border-line" />}
      {kind === 'audio' && <audio controls preload="metadata" src={address} aria-label={line.title} className="w-full" />}
      {kind === 'video' && <video controls preload="metadata" src={address} aria-label={line.title} className="max-h-[65vh] w-full rounded-std bg-ink" />}
      <p className="mt-4 text-ink-soft">
        Kept as it came in, as {line.fileName}. Its words can be marked in a transcript; add one as a source of its own.{' '}
        <a href={`/api/sources/${line.id}/original`} download className="text-sky underline underline-offset-2">
          Download it
        </a>
      </p>
    </section>
  );
}
