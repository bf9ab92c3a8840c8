import { Link } from '@tanstack/react-router';
import { Star } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Schemas } from '@/api/client';
import { Cutout } from './Cutout';
import { TagLabel } from './TagLabel';
import type { TagLook } from './tagLook';
import { QuoteWords } from './QuoteWords';
import { clock, count, kindWords } from './words';

interface Props {
  quote: Schemas['Quote'];
  who: string;
  studyId: number;
  look?: (id: number) => TagLook;
  children?: ReactNode;
}

/** Someone's words with whose they are and where they stand. */
export function QuoteItem({ quote, who, studyId, look, children }: Props) {
  return (
    <div className="min-w-0">
      <p className="font-read text-[15.5px] leading-[1.5] wrap-anywhere whitespace-pre-line">
        <QuoteWords quote={quote} />
      </p>
      <p className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1 font-use text-[12px] text-ink-soft">
        <span className="font-semibold text-ink">{who}</span>
        <span>
          {quote.atMs !== null && `${clock(quote.atMs)} `}
          {kindWords[quote.kind].one}
        </span>
        {quote.anchor.kind === 'text' && quote.mediaType !== null && !quote.gone && <Cutout quote={quote} />}
        {quote.masks.length > 0 && <span className="text-brass">{count(quote.masks.length, 'place')} masked for readers</span>}
        {quote.found && <span className="text-brass">found, not reviewed</span>}
        {quote.starred && <Star aria-label="starred" className="size-3.5 fill-brass text-brass" />}
        {look && quote.tagIds.map((id) => <TagLabel key={id} look={look(id)} />)}
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: quote.sourceId, at: quote.observationId }}
          className="ml-auto inline-flex min-h-6 items-center text-sky underline-offset-2 hover:underline"
        >
          open in place
        </Link>
      </p>
      {quote.note && <p className="mt-1 text-[12.5px] text-ink-soft">Note: {quote.note}</p>}
      {children}
    </div>
  );
}

/** The name of a participant by id. */
export const whoIs = (people: readonly { id: number; pseudonym: string }[]) => (id: number | null) =>
  people.find((p) => p.id === id)?.pseudonym ?? 'Unattributed';
