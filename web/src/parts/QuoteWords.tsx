import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Cutout, type CutOut } from './Cutout';

/** Someone's words, or the part of a recording or picture that is their like, as the team sees them: what is masked for readers is covered until the pointer or the focus is on it, and says what readers see instead. */
export function QuoteWords({ quote }: { quote: Pick<Schemas['Quote'], 'words' | 'masks'> & CutOut }) {
  if (quote.anchor.kind !== 'text') return <Cutout quote={quote} />;
  if (quote.masks.length === 0) return quote.words;
  const parts: ReactNode[] = [];
  let from = 0;
  for (const mask of quote.masks) {
    parts.push(
      quote.words.slice(from, mask.start),
      <span
        key={mask.start}
        title={`Masked: readers see “${mask.replacement}”`}
        className="rounded-[2px] bg-ink/80 text-transparent decoration-brass decoration-dotted underline-offset-3 hover:bg-transparent hover:text-inherit hover:underline"
      >
        {quote.words.slice(mask.start, mask.end)}
      </span>,
    );
    from = mask.end;
  }
  return (
    <>
      {parts}
      {quote.words.slice(from)}
    </>
  );
}
