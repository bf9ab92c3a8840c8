import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';

export const addressOf = (source: Schemas['Source']) => `/api/sources/${source.line.id}/media`;

/** A source that is a file as it came in. Marking in it comes with the recordings room; until then it can be heard and seen. */
export function KeptFile({ source, children }: { source: Schemas['Source']; children: ReactNode }) {
  const { line } = source;
  return (
    <section aria-label={line.title} className="mx-auto max-w-[900px] px-6 py-8">
      <h1 className="mb-4 font-read text-xl font-semibold">{line.title}</h1>
      {children}
      <p className="mt-4 text-ink-soft">
        Kept as it came in, as {line.fileName}. Its words can be marked in a transcript; add one as a source of its own.{' '}
        <a href={`/api/sources/${line.id}/original`} download className="text-sky underline underline-offset-2">
          Download it
        </a>
      </p>
    </section>
  );
}
