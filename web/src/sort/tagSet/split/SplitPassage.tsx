import { Link } from '@tanstack/react-router';
import { Star } from 'lucide-react';
import type { Schemas } from '@/api/client';
import { QuoteWords } from '@/parts/QuoteWords';
import type { TagLook } from '@/parts/tagLook';
import { clock, day, kindWords } from '@/parts/words';
import { decisionOn, type Split } from './split';

interface Props {
  studyId: number;
  item: Schemas['SplitItem'];
  split: Split;
  who: (id: number | null) => string;
  look: (id: number) => TagLook;
}

function Beside({ spoken }: { spoken: Schemas['SpokenBeside'] | null }) {
  if (!spoken) return null;
  return (
    <p className="line-clamp-1 font-read text-[15px] leading-6 text-ink-soft">
      <span className="mr-2 font-use text-[12px] font-medium">{spoken.who}</span>
      {spoken.words}
    </p>
  );
}

/** One observation on its reading stand: its words large, what was said around them quiet. */
export function SplitPassage({ studyId, item: { quote, context }, split, who, look }: Props) {
  const others = quote.tagIds.filter((id) => id !== split.wide.id);
  const decision = decisionOn(split, quote.observationId);
  const where =
    decision?.outcome === 'trays'
      ? `sent to ${decision.trays.map((n) => `“${split.trays.find((t) => t.number === n)?.name}”`).join(', ')}`
      : decision?.outcome === 'unsure'
        ? 'not sure so far'
        : decision && 'stays wide';
  return (
    <article aria-label="Observation" className="mx-auto w-full max-w-[820px]">
      <Beside spoken={context?.before ?? null} />
      <p tabIndex={0} className="my-2.5 max-h-[176px] overflow-y-auto font-read text-[21px] leading-[34px] wrap-anywhere whitespace-pre-line">
        <span className="mr-2.5 font-use text-[13px] leading-none font-semibold">{context?.who || who(quote.participantId)}</span>
        <span className="text-ink-soft">{context?.lead}</span>
        <span
          className={quote.anchor.kind === 'text' ? 'underline decoration-2 underline-offset-[7px]' : ''}
          style={{ textDecorationColor: look(split.wide.id).colour }}
        >
          <QuoteWords quote={quote} />
        </span>
        <span className="text-ink-soft">{context?.trail}</span>
      </p>
      <Beside spoken={context?.after ?? null} />
      <p className="mt-2 flex flex-wrap items-center gap-x-1.5 text-[12.5px] text-ink-soft">
        <span>
          {who(quote.participantId)}, {kindWords[quote.kind].one}
          {quote.heldOn !== null && ` of ${day(quote.heldOn)}`}
          {quote.atMs !== null && `, ${clock(quote.atMs)}`}.
        </span>
        {others.length > 0 && (
          <span>
            Also tagged <span className="font-semibold">{others.map((id) => look(id).name).join(', ')}</span>.
          </span>
        )}
        <span>Marked by {quote.createdBy}.</span>
        {quote.starred && <Star aria-label="starred" className="size-3.5 fill-brass text-brass" />}
        {quote.note && <span>Note: {quote.note}</span>}
        {where && <span className="font-semibold text-verdigris">{where}</span>}
        <Link
          to="/studies/$studyId/mark"
          params={{ studyId }}
          search={{ source: quote.sourceId, at: quote.observationId }}
          className="ml-auto text-sky hover:underline"
        >
          open in place
        </Link>
      </p>
    </article>
  );
}
