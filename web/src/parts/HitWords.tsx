import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';

type Found = Pick<Schemas['Passage'], 'words' | 'marks'>;

/** The words of a hit with what was found in them. */
export function HitWords({ hit }: { hit: Found }) {
  const parts: ReactNode[] = [];
  let from = 0;
  for (const mark of hit.marks) {
    parts.push(hit.words.slice(from, mark.start));
    parts.push(
      <mark key={mark.start} className="rounded-[2px] bg-mark-focus text-ink">
        {hit.words.slice(mark.start, mark.end)}
      </mark>,
    );
    from = mark.end;
  }
  parts.push(hit.words.slice(from));
  return <>{parts}</>;
}
